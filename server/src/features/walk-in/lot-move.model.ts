import type { LotMove } from '@fleam/contract/walk-in'
import type { LotStand } from '@fleam/core/walk-in/lot'
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
import type { LotRow } from './lot.model.ts'

/** A line of a lot's books: never changed, never deleted. Undoing adds a line that names it. */
export interface LotMoveRow extends Model<InferAttributes<LotMoveRow>, InferCreationAttributes<LotMoveRow>> {
  sequence: CreationOptional<number>
  id: string
  kitchenId: string
  lotId: string
  kind: LotMove['kind']
  /** What it added to the lot; negative where it took away. */
  tenths: number
  portions: number
  takenFor: LotMove['takenFor']
  note: string
  undoesId: string | null
  followOnId: string | null
  /** The run that cuts what lay there whole. */
  runId: CreationOptional<string | null>
  /** What was taken carried, in the kitchen's currency. */
  cost: number | null
  /** How the lot stood, for undoing. */
  stoodBefore: LotStand | null
  personId: string
  sentById: string
  at: Date
  person?: NonAttribute<PersonRow>
  lot?: NonAttribute<LotRow>
}

export const defineLotMoves = (sequelize: Sequelize) =>
  sequelize.define<LotMoveRow>(
    'lotMove',
    {
      sequence: sequenceColumn(),
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      lotId: { type: uuid, allowNull: false },
      kind: { type: DataTypes.STRING(20), allowNull: false },
      tenths: { type: DataTypes.INTEGER, allowNull: false },
      portions: { type: DataTypes.INTEGER, allowNull: false },
      takenFor: DataTypes.STRING(20),
      note: { type: DataTypes.STRING(200), allowNull: false },
      undoesId: uuid,
      followOnId: uuid,
      runId: uuid,
      cost: DataTypes.DOUBLE,
      stoodBefore: DataTypes.JSON,
      personId: { type: uuid, allowNull: false },
      sentById: { type: uuid, allowNull: false, field: 'sent_by' },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'lot_moves' },
  )
