import type { KitchenSettings } from '@fleam/contract/kitchen'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { idColumn, versionColumn } from '../../db/columns.ts'

/** A kitchen. `settings` may lack what a later Fleam asks for: read them with `readSettings`. */
export interface KitchenRow extends Model<InferAttributes<KitchenRow>, InferCreationAttributes<KitchenRow>> {
  id: string
  name: string
  settings: KitchenSettings
  isDemo: CreationOptional<boolean>
  version: CreationOptional<number>
  /** Which state of the catalog its cut sheets have been brought to. */
  catalogFingerprint: string | null
}

export const defineKitchens = (sequelize: Sequelize) =>
  sequelize.define<KitchenRow>(
    'kitchen',
    {
      id: idColumn(),
      name: { type: DataTypes.STRING(80), allowNull: false },
      settings: { type: DataTypes.JSON, allowNull: false },
      isDemo: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      version: versionColumn(),
      catalogFingerprint: DataTypes.CHAR(64),
    },
    { tableName: 'kitchens', version: true },
  )
