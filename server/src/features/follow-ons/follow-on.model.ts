import type { FollowOnBody, FollowOnFigures } from '@fleam/contract/follow-ons'
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

/** Something made of lots: its inputs are what was taken for it, its outputs the lots that name it. */
export interface FollowOnRow extends Model<InferAttributes<FollowOnRow>, InferCreationAttributes<FollowOnRow>> {
  id: string
  kitchenId: string
  number: number
  version: CreationOptional<number>
  status: 'open' | 'finished' | 'discarded'
  sheet: string
  name: string
  body: FollowOnBody
  figures: FollowOnFigures | null
  personId: string
  startedAt: Date
  dueAt: Date | null
  finishedAt: Date | null
  person?: NonAttribute<PersonRow>
}

export const defineFollowOns = (sequelize: Sequelize) =>
  sequelize.define<FollowOnRow>(
    'followOn',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      number: { type: DataTypes.INTEGER, allowNull: false },
      version: versionColumn(),
      status: { type: DataTypes.ENUM('open', 'finished', 'discarded'), allowNull: false },
      sheet: { type: DataTypes.STRING(60), allowNull: false },
      name: { type: DataTypes.STRING(80), allowNull: false },
      body: { type: DataTypes.JSON, allowNull: false },
      figures: DataTypes.JSON,
      personId: { type: uuid, allowNull: false },
      startedAt: { type: moment, allowNull: false },
      dueAt: moment,
      finishedAt: moment,
    },
    { tableName: 'follow_ons', version: true },
  )
