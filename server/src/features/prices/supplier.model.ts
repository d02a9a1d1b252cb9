import type { KeptPriceList, Supplier } from '@fleam/contract/prices'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, versionColumn } from '../../db/columns.ts'

export interface SupplierRow extends Model<InferAttributes<SupplierRow>, InferCreationAttributes<SupplierRow>> {
  id: string
  kitchenId: string
  name: string
  version: CreationOptional<number>
  /** How this supplier's price list was read the last time. */
  priceList: KeptPriceList | null
  /** Where its price list is fetched, and how often. */
  feed: CreationOptional<Supplier['feed']>
  nextFetchAt: CreationOptional<Date | null>
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
      feed: DataTypes.JSON,
      nextFetchAt: moment,
    },
    { tableName: 'suppliers', version: true },
  )
