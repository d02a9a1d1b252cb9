import type { CutSheet } from '@fleam/contract/cut-sheets'
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** What a cut sheet said from some day on. Runs stay with the version that they used. */
export interface CutSheetVersionRow extends Model<InferAttributes<CutSheetVersionRow>, InferCreationAttributes<CutSheetVersionRow>> {
  id: string
  kitchenId: string
  cutSheetId: string
  number: number
  name: string
  body: CutSheet['body']
  at: Date
  source: CreationOptional<CutSheet['source']>
  personId: string | null
  person?: NonAttribute<PersonRow | null>
}

export const defineCutSheetVersions = (sequelize: Sequelize) =>
  sequelize.define<CutSheetVersionRow>(
    'cutSheetVersion',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      cutSheetId: { type: uuid, allowNull: false },
      number: { type: DataTypes.INTEGER, allowNull: false },
      name: { type: DataTypes.STRING(80), allowNull: false },
      body: { type: DataTypes.JSON, allowNull: false },
      at: { type: moment, allowNull: false },
      source: { type: DataTypes.ENUM('catalog', 'kitchen'), allowNull: false, defaultValue: 'catalog' },
      personId: uuid,
    },
    { tableName: 'cut_sheet_versions' },
  )
