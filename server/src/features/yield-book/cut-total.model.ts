import type { InferAttributes, InferCreationAttributes, Model, Sequelize } from 'sequelize'
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
  lastRunId: string | null
  lastTestAt: Date | null
  /** Items cut, and what was spent on wrap and twine. */
  pieces: number
  consumables: number
  /** Weight of one item, grams. */
  gramsSum: number
  gramsSquares: number
  /** Share of the mains, percent. */
  mainSum: number
  mainSquares: number
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
      lastRunId: uuid,
      lastTestAt: moment,
      pieces: countColumn(),
      consumables: totalColumn(),
      gramsSum: totalColumn(),
      gramsSquares: totalColumn(),
      mainSum: totalColumn(),
      mainSquares: totalColumn(),
      timed: countColumn(),
      xSum: totalColumn(),
      xxSum: totalColumn(),
      ySum: totalColumn(),
      xySum: totalColumn(),
      yySum: totalColumn(),
    },
    { tableName: 'cut_totals' },
  )
