import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** Who came in or tried to, and what left a kitchen; without a kitchen where nobody can say which one was meant. */
export interface SecurityEventRow extends Model<InferAttributes<SecurityEventRow>, InferCreationAttributes<SecurityEventRow>> {
  id: CreationOptional<number>
  kitchenId: string | null
  at: Date
  kind: string
  personId: string | null
  address: string
  about: string
  person?: NonAttribute<PersonRow | null>
}

export const defineSecurityEvents = (sequelize: Sequelize) =>
  sequelize.define<SecurityEventRow>(
    'securityEvent',
    {
      id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
      kitchenId: uuid,
      at: { type: moment, allowNull: false },
      kind: { type: DataTypes.STRING(40), allowNull: false },
      personId: uuid,
      address: { type: DataTypes.STRING(64), allowNull: false },
      about: { type: DataTypes.STRING(200), allowNull: false, defaultValue: '' },
    },
    { tableName: 'security_events' },
  )
