import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type NonAttribute, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { KitchenRow } from '../kitchen/kitchen.model.ts'
import type { PersonRow } from '../people/person.model.ts'

/** A device that a manager has made the kitchen's own; the token itself is known to the device alone. */
export interface TabletRow extends Model<InferAttributes<TabletRow>, InferCreationAttributes<TabletRow>> {
  id: string
  kitchenId: string
  name: string
  tokenHash: string
  personId: string
  enrolledAt: Date
  usedAt: Date
  kitchen?: NonAttribute<KitchenRow>
  person?: NonAttribute<PersonRow>
}

export const defineTablets = (sequelize: Sequelize) =>
  sequelize.define<TabletRow>(
    'tablet',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      name: { type: DataTypes.STRING(60), allowNull: false },
      tokenHash: { type: DataTypes.CHAR(64), allowNull: false },
      personId: { type: uuid, allowNull: false },
      enrolledAt: { type: moment, allowNull: false },
      usedAt: { type: moment, allowNull: false },
    },
    { tableName: 'tablets' },
  )
