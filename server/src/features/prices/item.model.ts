import type { Item } from '@fleam/contract/prices'
import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, uuid, versionColumn } from '../../db/columns.ts'

/** Something that is bought, whole or ready-cut. */
export interface ItemRow extends Model<InferAttributes<ItemRow>, InferCreationAttributes<ItemRow>> {
  id: string
  kitchenId: string
  name: string
  kind: Item['kind']
  animal: Item['animal']
  readyCut: Item['readyCut']
  /** The ready-cut item that a whole one is set against. */
  againstId: string | null
  version: CreationOptional<number>
}

export const defineItems = (sequelize: Sequelize) =>
  sequelize.define<ItemRow>(
    'item',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      name: { type: DataTypes.STRING(80), allowNull: false },
      kind: { type: DataTypes.ENUM('whole', 'ready-cut'), allowNull: false },
      animal: { type: DataTypes.STRING(20), allowNull: false },
      readyCut: DataTypes.JSON,
      againstId: uuid,
      version: versionColumn(),
    },
    { tableName: 'items', version: true },
  )
