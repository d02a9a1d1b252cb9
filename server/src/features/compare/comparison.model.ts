import type { Comparison } from '@fleam/contract/compare'
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid, versionColumn } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** A comparison that the kitchen keeps by name; one that is dropped stays on record. */
export interface ComparisonRow extends Model<InferAttributes<ComparisonRow>, InferCreationAttributes<ComparisonRow>> {
  id: string
  kitchenId: string
  name: string
  body: Comparison['body']
  dropped: CreationOptional<boolean>
  personId: string
  at: Date
  version: CreationOptional<number>
  person?: NonAttribute<PersonRow>
}

export const defineComparisons = (sequelize: Sequelize) =>
  sequelize.define<ComparisonRow>(
    'comparison',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      name: { type: DataTypes.STRING(80), allowNull: false },
      body: { type: DataTypes.JSON, allowNull: false },
      dropped: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
      version: versionColumn(),
    },
    { tableName: 'comparisons', version: true },
  )
