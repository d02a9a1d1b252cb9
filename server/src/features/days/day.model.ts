import type { DayBody } from '@fleam/contract/day'
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

/** A day that is planned as a whole: who eats, what, and what was decided by hand. */
export interface DayRow extends Model<InferAttributes<DayRow>, InferCreationAttributes<DayRow>> {
  id: string
  kitchenId: string
  name: string
  date: string
  body: DayBody
  dropped: CreationOptional<boolean>
  personId: string
  at: Date
  version: CreationOptional<number>
  person?: NonAttribute<PersonRow>
}

export const defineDays = (sequelize: Sequelize) =>
  sequelize.define<DayRow>(
    'day',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      name: { type: DataTypes.STRING(80), allowNull: false },
      date: { type: DataTypes.DATEONLY, allowNull: false },
      body: { type: DataTypes.JSON, allowNull: false },
      dropped: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
      version: versionColumn(),
    },
    { tableName: 'days', version: true },
  )
