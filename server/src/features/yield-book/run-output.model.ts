import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { kitchenColumn, uuid } from '../../db/columns.ts'

/** What a finished run says of one output: its share in percent of the received weight. A run that is opened again has none. */
export interface RunOutputRow extends Model<InferAttributes<RunOutputRow>, InferCreationAttributes<RunOutputRow>> {
  runId: string
  outputKey: string
  kitchenId: string
  itemId: string
  cutSheetId: string
  sharePct: number
  /** What its portions weighed on average over their target. */
  servedRatio: number | null
}

export const defineRunOutputs = (sequelize: Sequelize) =>
  sequelize.define<RunOutputRow>(
    'runOutput',
    {
      runId: { type: uuid, primaryKey: true },
      outputKey: { type: DataTypes.STRING(60), primaryKey: true },
      kitchenId: kitchenColumn(),
      itemId: { type: uuid, allowNull: false },
      cutSheetId: { type: uuid, allowNull: false },
      sharePct: { type: DataTypes.DOUBLE, allowNull: false },
      servedRatio: DataTypes.DOUBLE,
    },
    { tableName: 'run_outputs' },
  )
