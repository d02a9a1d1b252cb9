import type { FetchedList } from '@fleam/contract/prices'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'

/** A price list as it was fetched from a supplier's address, and what became of it. */
export interface FetchedListRow extends Model<InferAttributes<FetchedListRow>, InferCreationAttributes<FetchedListRow>> {
  id: string
  kitchenId: string
  supplierId: string
  at: Date
  state: FetchedList['state']
  /** In words, where it could not be fetched or read. */
  why: CreationOptional<string>
  /** Prices that differ from those that stand. */
  changes: number
  text: string
}

export const defineFetchedLists = (sequelize: Sequelize) =>
  sequelize.define<FetchedListRow>(
    'fetchedList',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      supplierId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
      state: { type: DataTypes.ENUM('waiting', 'taken', 'let go', 'unchanged', 'failed'), allowNull: false },
      why: { type: DataTypes.STRING(300), allowNull: false, defaultValue: '' },
      changes: { type: DataTypes.INTEGER, allowNull: false },
      text: { type: DataTypes.TEXT('medium'), allowNull: false },
    },
    { tableName: 'fetched_lists' },
  )
