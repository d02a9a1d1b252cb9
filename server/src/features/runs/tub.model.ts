import type { Tub } from '@fleam/contract/runs'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, uuid } from '../../db/columns.ts'

/** A tub on the tray of a run: where one output goes. */
export interface TubRow extends Model<InferAttributes<TubRow>, InferCreationAttributes<TubRow>> {
  id: string
  kitchenId: string
  runId: string
  position: number
  outputKey: string | null
  name: string
  role: Tub['role']
  destination: string
  targetTenths: number | null
  toleranceTenths: number | null
  typicalPct: number
  valuePerKg: number | null
  separableCost: CreationOptional<number>
}

export const defineTubs = (sequelize: Sequelize) =>
  sequelize.define<TubRow>(
    'tub',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      runId: { type: uuid, allowNull: false },
      position: { type: DataTypes.INTEGER, allowNull: false },
      outputKey: DataTypes.STRING(60),
      name: { type: DataTypes.STRING(60), allowNull: false },
      role: { type: DataTypes.ENUM('main', 'coproduct', 'byproduct', 'waste'), allowNull: false },
      destination: { type: DataTypes.STRING(80), allowNull: false },
      targetTenths: DataTypes.INTEGER,
      toleranceTenths: DataTypes.INTEGER,
      typicalPct: { type: DataTypes.DOUBLE, allowNull: false },
      valuePerKg: DataTypes.DOUBLE,
      separableCost: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
    },
    { tableName: 'tubs' },
  )
