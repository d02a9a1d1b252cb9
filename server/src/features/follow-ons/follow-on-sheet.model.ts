import type { FollowOnSheetBody } from '@fleam/contract/follow-ons'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, versionColumn } from '../../db/columns.ts'

/** A kitchen's own way of making something of what came off. */
export interface FollowOnSheetRow extends Model<InferAttributes<FollowOnSheetRow>, InferCreationAttributes<FollowOnSheetRow>> {
  id: string
  kitchenId: string
  version: CreationOptional<number>
  body: FollowOnSheetBody
  isRetired: CreationOptional<boolean>
}

export const defineFollowOnSheets = (sequelize: Sequelize) =>
  sequelize.define<FollowOnSheetRow>(
    'followOnSheet',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      version: versionColumn(),
      body: { type: DataTypes.JSON, allowNull: false },
      isRetired: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    },
    { tableName: 'follow_on_sheets', version: true },
  )
