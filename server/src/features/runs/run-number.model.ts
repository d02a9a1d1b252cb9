import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { countColumn, uuid } from '../../db/columns.ts'

/** The last numbers that a kitchen has given to a run, a lot, a follow-on, a claim and an order, in a row of its own: whoever takes one waits for nothing else. */
export interface RunNumberRow extends Model<InferAttributes<RunNumberRow>, InferCreationAttributes<RunNumberRow>> {
  kitchenId: string
  last: number
  lastLot: CreationOptional<number>
  lastFollowOn: CreationOptional<number>
  lastClaim: CreationOptional<number>
  lastOrder: CreationOptional<number>
}

export const defineRunNumbers = (sequelize: Sequelize) =>
  sequelize.define<RunNumberRow>(
    'runNumber',
    {
      kitchenId: { type: uuid, primaryKey: true },
      last: { type: DataTypes.INTEGER, allowNull: false, field: 'last_number' },
      lastLot: countColumn(),
      lastFollowOn: countColumn(),
      lastClaim: countColumn(),
      lastOrder: countColumn(),
    },
    { tableName: 'run_numbers' },
  )
