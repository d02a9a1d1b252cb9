import type { Quote } from '@fleam/contract/prices'
import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type NonAttribute, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { ItemRow } from './item.model.ts'
import type { SupplierRow } from './supplier.model.ts'

/** A price as it was quoted. Quotes are added, never changed. */
export interface QuoteRow extends Model<InferAttributes<QuoteRow>, InferCreationAttributes<QuoteRow>> {
  id: string
  kitchenId: string
  itemId: string
  supplierId: string | null
  amount: number
  per: Quote['price']['per']
  /** Pieces and grams of a case. */
  caseCount: number | null
  caseGrams: number | null
  /** The calendar day of the quote, `yyyy-mm-dd`. */
  quotedOn: string
  at: Date
  personId: string | null
  item?: NonAttribute<ItemRow>
  supplier?: NonAttribute<SupplierRow | null>
}

export const defineQuotes = (sequelize: Sequelize) =>
  sequelize.define<QuoteRow>(
    'quote',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      itemId: { type: uuid, allowNull: false },
      supplierId: uuid,
      amount: { type: DataTypes.DOUBLE, allowNull: false },
      per: { type: DataTypes.ENUM('kg', 'lb', 'each', 'case'), allowNull: false },
      caseCount: DataTypes.INTEGER,
      caseGrams: DataTypes.DOUBLE,
      quotedOn: { type: DataTypes.DATEONLY, allowNull: false },
      at: { type: moment, allowNull: false },
      personId: uuid,
    },
    { tableName: 'quotes' },
  )
