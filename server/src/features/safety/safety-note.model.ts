import type { safetyNoteKinds } from '@fleam/contract/safety'
import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type NonAttribute, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** Something of the food-safety record that belongs to no run; only ever added to. */
export interface SafetyNoteRow extends Model<InferAttributes<SafetyNoteRow>, InferCreationAttributes<SafetyNoteRow>> {
  id: string
  kitchenId: string
  kind: (typeof safetyNoteKinds)[number] | 'receiving'
  about: string
  celsius: number | null
  /** The kitchen's limit then, °C. */
  limitC: number | null
  action: string
  personId: string
  at: Date
  person?: NonAttribute<PersonRow>
}

export const defineSafetyNotes = (sequelize: Sequelize) =>
  sequelize.define<SafetyNoteRow>(
    'safetyNote',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      kind: { type: DataTypes.STRING(20), allowNull: false },
      about: { type: DataTypes.STRING(80), allowNull: false },
      celsius: DataTypes.DOUBLE,
      limitC: DataTypes.DOUBLE,
      action: { type: DataTypes.STRING(200), allowNull: false },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'safety_notes' },
  )
