import type { CreationOptional, InferAttributes, InferCreationAttributes, Model, Sequelize } from 'sequelize'
import { countColumn, kitchenColumn, moment, totalColumn, uuid } from '../../db/columns.ts'

/**
 * Running totals of the finished runs of an item by a cut sheet, so that the yield book reads one row a cut however many
 * runs there are. Sums of squares stand beside sums: a variance follows from both.
 */
export interface CutTotalRow extends Model<InferAttributes<CutTotalRow>, InferCreationAttributes<CutTotalRow>> {
  itemId: string
  cutSheetId: string
  kitchenId: string
  tests: number
  /** Something changed then: the totals are of the runs since. */
  since: CreationOptional<Date | null>
  lastRunId: string | null
  lastTestAt: Date | null
  /** Items cut, and what was spent on wrap and twine. */
  pieces: number
  piecesSquares: CreationOptional<number>
  piecesInverse: CreationOptional<number>
  consumables: number
  /** Weight of one item, grams. */
  gramsSum: number
  gramsSquares: number
  /** Share of the mains, percent. */
  mainSum: number
  mainSquares: number
  /** The same times the items of the run, and times the grams of an item; and how many runs had none. */
  mainItemsSum: CreationOptional<number>
  mainItemsSquares: CreationOptional<number>
  mainGramsSum: CreationOptional<number>
  mainNone: CreationOptional<number>
  /** Of the runs with minutes: x the logarithm of the items of a run, y that of its minutes an item. */
  timed: number
  xSum: number
  xxSum: number
  ySum: number
  xySum: number
  yySum: number
}

export const defineCutTotals = (sequelize: Sequelize) =>
  sequelize.define<CutTotalRow>(
    'cutTotal',
    {
      itemId: { type: uuid, primaryKey: true },
      cutSheetId: { type: uuid, primaryKey: true },
      kitchenId: kitchenColumn(),
      tests: countColumn(),
      since: moment,
      lastRunId: uuid,
      lastTestAt: moment,
      pieces: countColumn(),
      piecesSquares: totalColumn(),
      piecesInverse: totalColumn(),
      consumables: totalColumn(),
      gramsSum: totalColumn(),
      gramsSquares: totalColumn(),
      mainSum: totalColumn(),
      mainSquares: totalColumn(),
      mainItemsSum: totalColumn(),
      mainItemsSquares: totalColumn(),
      mainGramsSum: totalColumn(),
      mainNone: countColumn(),
      timed: countColumn(),
      xSum: totalColumn(),
      xxSum: totalColumn(),
      ySum: totalColumn(),
      xySum: totalColumn(),
      yySum: totalColumn(),
    },
    { tableName: 'cut_totals' },
  )
