import type { WayOfCutting } from '@fleam/contract/yield-book'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { kitchenColumn, uuid, versionColumn } from '../../db/columns.ts'

/** Whether a way of cutting an item is looked at, and what its parts are worth. */
export interface WayOfCuttingRow extends Model<InferAttributes<WayOfCuttingRow>, InferCreationAttributes<WayOfCuttingRow>> {
  itemId: string
  cutSheetId: string
  kitchenId: string
  shown: CreationOptional<boolean>
  parts: WayOfCutting['parts']
  version: CreationOptional<number>
}

export const defineWaysOfCutting = (sequelize: Sequelize) =>
  sequelize.define<WayOfCuttingRow>(
    'wayOfCutting',
    {
      itemId: { type: uuid, primaryKey: true },
      cutSheetId: { type: uuid, primaryKey: true },
      kitchenId: kitchenColumn(),
      shown: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      parts: { type: DataTypes.JSON, allowNull: false },
      version: versionColumn(),
    },
    { tableName: 'ways_of_cutting', version: true },
  )
