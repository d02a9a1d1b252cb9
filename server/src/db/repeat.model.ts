import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { uuid } from './columns.ts'

/** How often a kitchen's tablets have sent what was stored already. Counting one more flushes what was stored before it. */
export interface RepeatRow extends Model<InferAttributes<RepeatRow>, InferCreationAttributes<RepeatRow>> {
  kitchenId: string
  count: number
}

export const defineRepeats = (sequelize: Sequelize) =>
  sequelize.define<RepeatRow>(
    'repeat',
    { kitchenId: { type: uuid, primaryKey: true }, count: { type: DataTypes.INTEGER, allowNull: false, field: 'repeat_count' } },
    { tableName: 'repeats' },
  )
