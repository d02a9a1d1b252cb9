import type { Claim } from '@fleam/contract/claims'
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
import type { RunRow } from '../runs/run.model.ts'

/** What a supplier is asked to make good of a delivery, and what came of it. */
export interface ClaimRow extends Model<InferAttributes<ClaimRow>, InferCreationAttributes<ClaimRow>> {
  id: string
  kitchenId: string
  number: number
  version: CreationOptional<number>
  runId: string
  kinds: Claim['kinds']
  words: string
  asked: number
  state: Claim['state']
  credited: CreationOptional<number>
  settledWords: CreationOptional<string>
  personId: string
  at: Date
  settledById: CreationOptional<string | null>
  settledAt: CreationOptional<Date | null>
  person?: NonAttribute<PersonRow>
  settledBy?: NonAttribute<PersonRow | null>
  run?: NonAttribute<RunRow>
}

export const defineClaims = (sequelize: Sequelize) =>
  sequelize.define<ClaimRow>(
    'claim',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      number: { type: DataTypes.INTEGER, allowNull: false },
      version: versionColumn(),
      runId: { type: uuid, allowNull: false },
      kinds: { type: DataTypes.JSON, allowNull: false },
      words: { type: DataTypes.STRING(600), allowNull: false },
      asked: { type: DataTypes.DOUBLE, allowNull: false },
      state: { type: DataTypes.ENUM('open', 'credited', 'refused'), allowNull: false },
      credited: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
      settledWords: { type: DataTypes.STRING(200), allowNull: false, defaultValue: '' },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
      settledById: { type: uuid, field: 'settled_by' },
      settledAt: moment,
    },
    { tableName: 'claims', version: true },
  )
