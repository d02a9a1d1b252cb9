import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { kitchenColumn, uuid } from '../../db/columns.ts'

/** Which item a trade item number on a supplier's box stands for. */
export interface BoxItemRow extends Model<InferAttributes<BoxItemRow>, InferCreationAttributes<BoxItemRow>> {
  kitchenId: string
  gtin: string
  /** Empty where the supplier is not noted. */
  supplierId: string
  itemId: string
}

export const defineBoxItems = (sequelize: Sequelize) =>
  sequelize.define<BoxItemRow>(
    'boxItem',
    {
      kitchenId: { ...kitchenColumn(), primaryKey: true },
      gtin: { type: DataTypes.CHAR(14), allowNull: false, primaryKey: true },
      supplierId: { type: DataTypes.STRING(36), allowNull: false, primaryKey: true },
      itemId: { type: uuid, allowNull: false },
    },
    { tableName: 'box_items' },
  )
