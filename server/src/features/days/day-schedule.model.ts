import type { DaySchedule, JobState } from '@fleam/contract/day-schedule'
import type { PlannedCut, PlannedReady } from '@fleam/core/day/day-jobs'
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
import type { DayRow } from './day.model.ts'

/** A schedule as it was planned, with what it was planned to cut. What has been done of it is beside it. */
export interface KeptSchedule {
  cuts: PlannedCut[]
  ready: PlannedReady[]
  /** What is made of something that was cut, and how much of each gram of it. */
  made: { product: string; of: string; perGram: number }[]
  shown: Pick<
    DaySchedule,
    | 'startsOn'
    | 'dayVersion'
    | 'fromMinute'
    | 'people'
    | 'places'
    | 'late'
    | 'cleanDowns'
    | 'overtimeMinutes'
    | 'orderBy'
    | 'tubs'
    | 'troubles'
  > & {
    jobs: (Omit<DaySchedule['jobs'][number], 'state' | 'by'> & {
      way: string | null
      items: number
      handsMinutes: number
      waitMinutes?: number | undefined
    })[]
  }
}

/** The newest schedule of a day. */
export interface DayScheduleRow extends Model<InferAttributes<DayScheduleRow>, InferCreationAttributes<DayScheduleRow>> {
  dayId: string
  kitchenId: string
  body: KeptSchedule
  personId: string
  at: Date
  person?: NonAttribute<PersonRow>
  day?: NonAttribute<DayRow>
}

export const defineDaySchedules = (sequelize: Sequelize) =>
  sequelize.define<DayScheduleRow>(
    'daySchedule',
    {
      dayId: { type: uuid, primaryKey: true },
      kitchenId: kitchenColumn(),
      body: { type: DataTypes.JSON, allowNull: false },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'day_schedules' },
  )

/** Somebody said that a job was begun, done, or neither; the last said counts. Insert-only. */
export interface DayTickRow extends Model<InferAttributes<DayTickRow>, InferCreationAttributes<DayTickRow>> {
  sequence: CreationOptional<number>
  id: string
  kitchenId: string
  dayId: string
  job: string
  state: JobState
  personId: string
  at: Date
  person?: NonAttribute<PersonRow>
}

export const defineDayTicks = (sequelize: Sequelize) =>
  sequelize.define<DayTickRow>(
    'dayTick',
    {
      sequence: sequenceColumn(),
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      dayId: { type: uuid, allowNull: false },
      job: { type: DataTypes.STRING(240), allowNull: false },
      state: { type: DataTypes.ENUM('open', 'started', 'done'), allowNull: false },
      personId: { type: uuid, allowNull: false },
      at: { type: moment, allowNull: false },
    },
    { tableName: 'day_ticks' },
  )
