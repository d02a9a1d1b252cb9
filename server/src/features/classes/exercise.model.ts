import type { ExerciseTask } from '@fleam/contract/classes'
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
import type { RunRow } from '../runs/run.model.ts'
import type { StudentGroupRow } from './student-group.model.ts'

/** Something that a group is given to do on a day. */
export interface ExerciseRow extends Model<InferAttributes<ExerciseRow>, InferCreationAttributes<ExerciseRow>> {
  id: string
  kitchenId: string
  groupId: string
  name: string
  day: string
  body: ExerciseTask
  handedBackAt: CreationOptional<Date | null>
  version: CreationOptional<number>
  group?: NonAttribute<StudentGroupRow>
}

export const defineExercises = (sequelize: Sequelize) =>
  sequelize.define<ExerciseRow>(
    'exercise',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      groupId: { type: uuid, allowNull: false },
      name: { type: DataTypes.STRING(80), allowNull: false },
      day: { type: DataTypes.DATEONLY, allowNull: false },
      body: { type: DataTypes.JSON, allowNull: false },
      handedBackAt: { type: moment, allowNull: true },
      version: versionColumn(),
    },
    { tableName: 'exercises', version: true },
  )

/** The run of a student in an exercise. */
export interface ExerciseRunRow extends Model<InferAttributes<ExerciseRunRow>, InferCreationAttributes<ExerciseRunRow>> {
  exerciseId: string
  personId: string
  kitchenId: string
  runId: string
  run?: NonAttribute<RunRow>
}

export const defineExerciseRuns = (sequelize: Sequelize) =>
  sequelize.define<ExerciseRunRow>(
    'exerciseRun',
    {
      exerciseId: { type: uuid, primaryKey: true },
      personId: { type: uuid, primaryKey: true },
      kitchenId: kitchenColumn(),
      runId: { type: uuid, allowNull: false },
    },
    { tableName: 'exercise_runs' },
  )
