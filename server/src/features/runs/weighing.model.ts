import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { kitchenColumn, moment, sequenceColumn, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** A line of the ledger. It is never changed or deleted: one with `reversesId` takes that weighing back. */
export interface WeighingRow extends Model<InferAttributes<WeighingRow>, InferCreationAttributes<WeighingRow>> {
  sequence: CreationOptional<number>
  id: string
  kitchenId: string
  runId: string
  tubId: string
  /** Tenths of a gram. */
  tenths: number
  entered: string
  reversesId: string | null
  pieceNumber: number | null
  movedFromId: string | null
  /** The load of a scale that it was taken from: each is taken once. */
  loadId: CreationOptional<string | null>
  /** Who weighed, and whose session sent it. */
  personId: string
  sentById: string | null
  weighedAt: Date
  person?: NonAttribute<PersonRow>
}

export const defineWeighings = (sequelize: Sequelize) =>
  sequelize.define<WeighingRow>(
    'weighing',
    {
      sequence: sequenceColumn(),
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      runId: { type: uuid, allowNull: false },
      tubId: { type: uuid, allowNull: false },
      tenths: { type: DataTypes.INTEGER, allowNull: false },
      entered: { type: DataTypes.STRING(40), allowNull: false },
      reversesId: uuid,
      pieceNumber: DataTypes.INTEGER,
      movedFromId: uuid,
      loadId: uuid,
      personId: { type: uuid, allowNull: false },
      sentById: uuid,
      weighedAt: { type: moment, allowNull: false },
    },
    { tableName: 'weighings' },
  )
