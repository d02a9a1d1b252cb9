import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { idColumn, kitchenColumn, uuid } from '../../db/columns.ts'
import type { CutSheetVersionRow } from './cut-sheet-version.model.ts'

/** A cut sheet of a kitchen; what it says stands in its versions. */
export interface CutSheetRow extends Model<InferAttributes<CutSheetRow>, InferCreationAttributes<CutSheetRow>> {
  id: string
  kitchenId: string
  slug: string
  basedOnId: string | null
  retired: CreationOptional<boolean>
  newestVersionId: string
  newestVersion?: NonAttribute<CutSheetVersionRow>
}

export const defineCutSheets = (sequelize: Sequelize) =>
  sequelize.define<CutSheetRow>(
    'cutSheet',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      slug: { type: DataTypes.STRING(80), allowNull: false },
      basedOnId: uuid,
      retired: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      newestVersionId: { type: uuid, allowNull: false },
    },
    { tableName: 'cut_sheets' },
  )
