import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { kitchenColumn, moment, sequenceColumn, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** A mark or a word that was given to a student; the last of a criterion counts. Insert-only. */
export interface MarkRow extends Model<InferAttributes<MarkRow>, InferCreationAttributes<MarkRow>> {
  sequence: CreationOptional<number>
  id: string
  kitchenId: string
  exerciseId: string
  personId: string
  /** Empty for the word on the whole. */
  criterion: string
  mark: number | null
  word: string
  givenById: string
  at: Date
  givenBy?: NonAttribute<PersonRow>
}

export const defineMarks = (sequelize: Sequelize) =>
  sequelize.define<MarkRow>(
    'mark',
    {
      sequence: sequenceColumn(),
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      exerciseId: { type: uuid, allowNull: false },
      personId: { type: uuid, allowNull: false },
      criterion: { type: DataTypes.STRING(40), allowNull: false },
      mark: { type: DataTypes.TINYINT, allowNull: true },
      word: { type: DataTypes.STRING(400), allowNull: false },
      givenById: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'marks' },
  )
