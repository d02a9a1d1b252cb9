import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { countColumn, kitchenColumn, totalColumn, uuid } from '../../db/columns.ts'

/** Running totals of the shares of one output over the finished runs of a cut, in percent. */
export interface OutputTotalRow extends Model<InferAttributes<OutputTotalRow>, InferCreationAttributes<OutputTotalRow>> {
  itemId: string
  cutSheetId: string
  outputKey: string
  kitchenId: string
  tests: number
  shareSum: number
  shareSquares: number
  /** The same times the items of the run, and times the grams of an item; and how many runs had none. */
  shareItemsSum: CreationOptional<number>
  shareItemsSquares: CreationOptional<number>
  shareGramsSum: CreationOptional<number>
  shareNone: CreationOptional<number>
  /** Runs whose portions were weighed to a target, and the sum of what they weighed over it. */
  servedTests: number
  servedSum: number
}

export const defineOutputTotals = (sequelize: Sequelize) =>
  sequelize.define<OutputTotalRow>(
    'outputTotal',
    {
      itemId: { type: uuid, primaryKey: true },
      cutSheetId: { type: uuid, primaryKey: true },
      outputKey: { type: DataTypes.STRING(60), primaryKey: true },
      kitchenId: kitchenColumn(),
      tests: countColumn(),
      shareSum: totalColumn(),
      shareSquares: totalColumn(),
      shareItemsSum: totalColumn(),
      shareItemsSquares: totalColumn(),
      shareGramsSum: totalColumn(),
      shareNone: countColumn(),
      servedTests: countColumn(),
      servedSum: totalColumn(),
    },
    { tableName: 'output_totals' },
  )
