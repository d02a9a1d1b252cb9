import type { Lot } from '@fleam/contract/walk-in'
import type { KeptKind } from '@fleam/core/walk-in/keeping'
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
import type { FollowOnRow } from '../follow-ons/follow-on.model.ts'
import type { PersonRow } from '../people/person.model.ts'
import type { RunRow } from '../runs/run.model.ts'

/** Something of one origin, in one place, with one date; what is left of it follows from its moves and stands here to list by. */
export interface LotRow extends Model<InferAttributes<LotRow>, InferCreationAttributes<LotRow>> {
  id: string
  kitchenId: string
  number: number
  version: CreationOptional<number>
  name: string
  kind: KeptKind
  animal: Lot['animal']
  outputKey: string | null
  runId: string | null
  /** Which output of its run or follow-on it is of: a tub, or the lot that it was split off. */
  tubId: string | null
  followOnId: string | null
  /** What was bought, where it lies there whole. */
  itemId: CreationOptional<string | null>
  supplierId: CreationOptional<string | null>
  pieces: CreationOptional<number | null>
  billedTenths: CreationOptional<number | null>
  supplierLot: string
  unit: Lot['unit']
  packedTenths: number
  leftTenths: number
  packedPortions: number | null
  leftPortions: number | null
  place: string
  state: Lot['state']
  packedOn: string
  useBy: string
  chilledDaysLeft: number | null
  allergens: Lot['allergens']
  isFormed: boolean
  isBlocked: CreationOptional<boolean>
  cost: number | null
  personId: string
  packedAt: Date
  person?: NonAttribute<PersonRow>
  run?: NonAttribute<RunRow | null>
  followOn?: NonAttribute<FollowOnRow | null>
}

export const defineLots = (sequelize: Sequelize) =>
  sequelize.define<LotRow>(
    'lot',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      number: { type: DataTypes.INTEGER, allowNull: false },
      version: versionColumn(),
      name: { type: DataTypes.STRING(80), allowNull: false },
      kind: { type: DataTypes.STRING(30), allowNull: false },
      animal: DataTypes.STRING(20),
      outputKey: DataTypes.STRING(60),
      runId: uuid,
      tubId: uuid,
      followOnId: uuid,
      itemId: uuid,
      supplierId: uuid,
      pieces: DataTypes.INTEGER,
      billedTenths: DataTypes.INTEGER,
      supplierLot: { type: DataTypes.STRING(40), allowNull: false },
      unit: { type: DataTypes.ENUM('g', 'ml', 'piece'), allowNull: false },
      packedTenths: { type: DataTypes.INTEGER, allowNull: false },
      leftTenths: { type: DataTypes.INTEGER, allowNull: false },
      packedPortions: DataTypes.INTEGER,
      leftPortions: DataTypes.INTEGER,
      place: { type: DataTypes.STRING(40), allowNull: false },
      state: { type: DataTypes.ENUM('chilled', 'frozen', 'thawed'), allowNull: false },
      packedOn: { type: DataTypes.DATEONLY, allowNull: false },
      useBy: { type: DataTypes.DATEONLY, allowNull: false },
      chilledDaysLeft: DataTypes.INTEGER,
      allergens: { type: DataTypes.JSON, allowNull: false },
      isFormed: { type: DataTypes.BOOLEAN, allowNull: false },
      isBlocked: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      cost: DataTypes.DOUBLE,
      personId: { type: uuid, allowNull: false },
      packedAt: { type: moment, allowNull: false },
    },
    { tableName: 'lots', version: true },
  )
