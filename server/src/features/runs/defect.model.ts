import type { Defect } from '@fleam/contract/runs'
import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model, type NonAttribute, type Sequelize } from 'sequelize'
import { idColumn, kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** A note of what went wrong with a run. */
export interface DefectRow extends Model<InferAttributes<DefectRow>, InferCreationAttributes<DefectRow>> {
  id: string
  kitchenId: string
  runId: string
  kind: Defect['kind']
  note: string
  step: string | null
  personId: string
  at: Date
  person?: NonAttribute<PersonRow>
}

export const defineDefects = (sequelize: Sequelize) =>
  sequelize.define<DefectRow>(
    'defect',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      runId: { type: uuid, allowNull: false },
      kind: { type: DataTypes.STRING(60), allowNull: false },
      note: { type: DataTypes.STRING(400), allowNull: false },
      step: DataTypes.STRING(60),
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'defects' },
  )
