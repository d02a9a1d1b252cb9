import type { AttemptCreate } from '@fleam/contract/practice'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { kitchenColumn, moment, sequenceColumn, uuid } from '../../db/columns.ts'

/** A piece that was cut on screen, and its score. Insert-only. */
export interface CuttingAttemptRow extends Model<InferAttributes<CuttingAttemptRow>, InferCreationAttributes<CuttingAttemptRow>> {
  sequence: CreationOptional<number>
  id: string
  kitchenId: string
  personId: string
  exerciseId: string | null
  rung: string
  seed: number
  shape: AttemptCreate['shape']
  cutsCm: number[]
  score: number
  at: Date
}

export const defineCuttingAttempts = (sequelize: Sequelize) =>
  sequelize.define<CuttingAttemptRow>(
    'cuttingAttempt',
    {
      sequence: sequenceColumn(),
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      personId: { type: uuid, allowNull: false },
      exerciseId: { type: uuid, allowNull: true },
      rung: { type: DataTypes.STRING(40), allowNull: false },
      seed: { type: DataTypes.INTEGER.UNSIGNED, allowNull: false },
      shape: { type: DataTypes.JSON, allowNull: true },
      cutsCm: { type: DataTypes.JSON, allowNull: false },
      score: { type: DataTypes.DOUBLE, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'cutting_attempts' },
  )
