import type { AnswerCreate, Attempt, AttemptCreate, Attempts, GuessCreate, Practised, TrainedEye } from '@fleam/contract/practice'
import { drawPiece, scoreCuts } from '@fleam/core/practice/screen-piece'
import { eyeOf } from '@fleam/core/practice/trained-eye'
import type { Model } from 'sequelize'
import type { Table } from '../../db/table.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { findExercise } from '../classes/exercises.ts'
import type { CuttingAttemptRow } from './cutting-attempt.model.ts'
import { findWatched } from './watched.ts'

/** So many guesses back an eye is judged. */
const shownGuesses = 300
const shownAnswers = 5000
const shownAttempts = 300

/** The last rows of somebody's, the earliest first. */
async function lastOf<Row extends Model & { personId: string }>(table: Pick<Table<Row>, 'findAll'>, personId: string, limit: number) {
  const rows = await table.findAll({ where: { personId } as never, order: [['sequence', 'DESC']], limit })
  return rows.reverse()
}

/** How well somebody judges weights. */
export async function findEye(by: Actor, asked?: string): Promise<TrainedEye> {
  const { id, name } = await findWatched(by, asked)
  const guesses = (await lastOf(by.records.guesses, id, shownGuesses)).map((row) => ({
    ...{ id: row.id, said: row.said, weighed: row.weighed, what: row.what, at: row.at.toISOString() },
  }))
  return { personId: id, name, guesses, eye: eyeOf(guesses) ?? null }
}

/** Keeps a guess, once. */
export async function keepGuess(by: Actor, { at, ...guess }: GuessCreate): Promise<TrainedEye> {
  const { records, person } = by
  await createOnce(
    records,
    () => records.guesses.create({ ...guess, personId: person.id, at: new Date(at) }),
    async () => (await records.guesses.findOne({ where: { id: guess.id, personId: person.id } })) ?? undefined,
  )
  return findEye(by)
}

/** How somebody answered what was practised. */
export async function findPractised(by: Actor, asked?: string): Promise<Practised> {
  const { id, name } = await findWatched(by, asked)
  const answers = (await lastOf(by.records.practiceAnswers, id, shownAnswers)).map((row) => ({
    ...{ id: row.id, card: row.card, isRight: row.isRight, at: row.at.toISOString() },
  }))
  return { personId: id, name, answers }
}

/** Keeps an answer, once. */
export async function keepAnswer({ records, person }: Actor, { at, ...answer }: AnswerCreate): Promise<AnswerCreate> {
  const row = await createOnce(
    records,
    () => records.practiceAnswers.create({ ...answer, personId: person.id, at: new Date(at) }),
    async () => (await records.practiceAnswers.findOne({ where: { id: answer.id, personId: person.id } })) ?? undefined,
  )
  return { id: row.id, card: row.card, isRight: row.isRight, at: row.at.toISOString() }
}

/** What somebody has cut on screen. */
export async function findAttempts(by: Actor, asked?: string): Promise<Attempts> {
  const { id, name } = await findWatched(by, asked)
  return { personId: id, name, attempts: (await lastOf(by.records.cuttingAttempts, id, shownAttempts)).map(toAttempt) }
}

/** Keeps what was cut on screen, once, with the score that its cuts have. */
export async function keepAttempt(by: Actor, { at, ...attempt }: AttemptCreate): Promise<Attempt> {
  const { records, person } = by
  const { rung, seed, shape, cutsCm, exerciseId } = attempt
  if (exerciseId !== null) {
    const { task } = await findExercise(by, exerciseId)
    if (task.kind !== 'screen' || task.rung !== rung || task.seed !== seed)
      throw refuseField('exerciseId', 'That is not the piece of this exercise.')
  }
  const { score } = scoreCuts(drawPiece(rung, seed, shape), cutsCm)
  const row = await createOnce(
    records,
    () => records.cuttingAttempts.create({ ...attempt, score, personId: person.id, at: new Date(at) }),
    async () => (await records.cuttingAttempts.findOne({ where: { id: attempt.id, personId: person.id } })) ?? undefined,
  )
  return toAttempt(row)
}

function toAttempt({ id, rung, seed, cutsCm, exerciseId, score, at }: CuttingAttemptRow): Attempt {
  return { id, rung, seed, cutsCm, exerciseId, score, at: at.toISOString() }
}
