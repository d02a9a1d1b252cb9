import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type NonAttribute, type Sequelize } from 'sequelize'
import { kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { KitchenRow } from '../kitchen/kitchen.model.ts'
import type { PersonRow } from '../people/person.model.ts'

/** Somebody signed in on some device; the token itself is known to the device alone. */
export interface SessionRow extends Model<InferAttributes<SessionRow>, InferCreationAttributes<SessionRow>> {
  tokenHash: string
  kitchenId: string
  personId: string
  expiresAt: Date
  kitchen?: NonAttribute<KitchenRow>
  person?: NonAttribute<PersonRow>
}

export const defineSessions = (sequelize: Sequelize) =>
  sequelize.define<SessionRow>(
    'session',
    {
      tokenHash: { type: DataTypes.CHAR(64), primaryKey: true },
      kitchenId: kitchenColumn(),
      personId: { type: uuid, allowNull: false },
      expiresAt: { type: moment, allowNull: false },
    },
    { tableName: 'sessions' },
  )
