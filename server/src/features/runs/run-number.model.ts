import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { uuid } from '../../db/columns.ts'

/** The last number that a kitchen has given to a run, in a row of its own: whoever takes one waits for nothing else. */
export interface RunNumberRow extends Model<InferAttributes<RunNumberRow>, InferCreationAttributes<RunNumberRow>> {
  kitchenId: string
  last: number
}

export const defineRunNumbers = (sequelize: Sequelize) =>
  sequelize.define<RunNumberRow>(
    'runNumber',
    { kitchenId: { type: uuid, primaryKey: true }, last: { type: DataTypes.INTEGER, allowNull: false, field: 'last_number' } },
    { tableName: 'run_numbers' },
  )
