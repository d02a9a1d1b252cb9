import { type CreationOptional, DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type Sequelize } from 'sequelize'
import { kitchenColumn, moment, sequenceColumn, uuid } from '../../db/columns.ts'

/** How a card was answered the first time that it was shown at a sitting. Insert-only. */
export interface PracticeAnswerRow extends Model<InferAttributes<PracticeAnswerRow>, InferCreationAttributes<PracticeAnswerRow>> {
  sequence: CreationOptional<number>
  id: string
  kitchenId: string
  personId: string
  card: string
  isRight: boolean
  at: Date
}

export const definePracticeAnswers = (sequelize: Sequelize) =>
  sequelize.define<PracticeAnswerRow>(
    'practiceAnswer',
    {
      sequence: sequenceColumn(),
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      personId: { type: uuid, allowNull: false },
      card: { type: DataTypes.STRING(120), allowNull: false },
      isRight: { type: DataTypes.BOOLEAN, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'practice_answers' },
  )
