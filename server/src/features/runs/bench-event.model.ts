import type { BenchEvent } from '@fleam/contract/bench'
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
import type { RunRow } from './run.model.ts'

/** What happens at a bench beside weighing; only ever added to. */
export interface BenchEventRow extends Model<InferAttributes<BenchEventRow>, InferCreationAttributes<BenchEventRow>> {
  sequence: CreationOptional<number>
  id: string
  kitchenId: string
  runId: string
  body: BenchEvent['what']
  /** Made by the database from the body, for its index. */
  kind: CreationOptional<BenchEvent['what']['kind']>
  personId: string
  sentById: string
  happenedAt: Date
  person?: NonAttribute<PersonRow>
  run?: NonAttribute<RunRow>
}

export const defineBenchEvents = (sequelize: Sequelize) =>
  sequelize.define<BenchEventRow>(
    'benchEvent',
    {
      sequence: sequenceColumn(),
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      runId: { type: uuid, allowNull: false },
      body: { type: DataTypes.JSON, allowNull: false },
      kind: DataTypes.STRING(30),
      personId: { type: uuid, allowNull: false },
      sentById: { type: uuid, allowNull: false },
      happenedAt: { type: moment, allowNull: false },
    },
    { tableName: 'bench_events' },
  )
