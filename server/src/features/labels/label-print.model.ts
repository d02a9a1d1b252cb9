import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** Labels that somebody has sent to a printer; they wait until it has printed them. */
export interface LabelPrintRow extends Model<InferAttributes<LabelPrintRow>, InferCreationAttributes<LabelPrintRow>> {
  id: string
  kitchenId: string
  /** Of the kitchen's printers. */
  printerId: string
  lotIds: string[]
  state: 'waiting' | 'printed' | 'given up'
  /** Why they wait, in words. */
  why: CreationOptional<string>
  /** The printer's own number of the job, while it has it and has not printed it. */
  job: number | null
  /** Where Fleam's pages were when they were asked for, for their code. */
  origin: string
  /** Until when one server is at it. */
  heldUntil: CreationOptional<Date>
  personId: string
  askedAt: Date
  printedAt: Date | null
  person?: NonAttribute<PersonRow>
}

export const defineLabelPrints = (sequelize: Sequelize) =>
  sequelize.define<LabelPrintRow>(
    'labelPrint',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      printerId: { type: DataTypes.STRING(160), allowNull: false },
      lotIds: { type: DataTypes.JSON, allowNull: false },
      state: { type: DataTypes.ENUM('waiting', 'printed', 'given up'), allowNull: false },
      why: { type: DataTypes.STRING(200), allowNull: false, defaultValue: '' },
      job: DataTypes.INTEGER,
      origin: { type: DataTypes.STRING(200), allowNull: false },
      heldUntil: { type: moment, allowNull: false, defaultValue: new Date(86_400_000) },
      personId: { type: uuid, allowNull: false },
      askedAt: { type: moment, allowNull: false },
      printedAt: moment,
    },
    { tableName: 'label_prints' },
  )
