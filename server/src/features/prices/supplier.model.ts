import type { KeptPriceList } from '@fleam/contract/prices'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, versionColumn } from '../../db/columns.ts'

export interface SupplierRow extends Model<InferAttributes<SupplierRow>, InferCreationAttributes<SupplierRow>> {
  id: string
  kitchenId: string
  name: string
  version: CreationOptional<number>
  /** How this supplier's price list was read the last time. */
  priceList: KeptPriceList | null
}

export const defineSuppliers = (sequelize: Sequelize) =>
  sequelize.define<SupplierRow>(
    'supplier',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      name: { type: DataTypes.STRING(80), allowNull: false },
      version: versionColumn(),
      priceList: DataTypes.JSON,
    },
    { tableName: 'suppliers', version: true },
  )
