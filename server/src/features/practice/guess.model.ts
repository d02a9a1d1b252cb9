import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { kitchenColumn, moment, sequenceColumn, uuid } from '../../db/columns.ts'

/** A weight that was said before the scale said it, in tenths of a gram. Insert-only. */
export interface GuessRow extends Model<InferAttributes<GuessRow>, InferCreationAttributes<GuessRow>> {
  sequence: CreationOptional<number>
  id: string
  kitchenId: string
  personId: string
  said: number
  weighed: number
  what: string
  at: Date
}

export const defineGuesses = (sequelize: Sequelize) =>
  sequelize.define<GuessRow>(
    'guess',
    {
      sequence: sequenceColumn(),
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      personId: { type: uuid, allowNull: false },
      said: { type: DataTypes.INTEGER, allowNull: false },
      weighed: { type: DataTypes.INTEGER, allowNull: false },
      what: { type: DataTypes.STRING(60), allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'guesses' },
  )
