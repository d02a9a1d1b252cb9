import type { Exercise, ExerciseResults, MarkCreate, OwnResult, StudentResult } from '@fleam/contract/classes'
import type { Run } from '@fleam/contract/runs'
import { type ComputedMark, computedMarks, totalOfMarks } from '@fleam/core/practice/computed-marks'
import { readLedger } from '@fleam/core/runs/ledger'
import { portionsOf, portionTub } from '@fleam/core/runs/run-record'
import type { Actor } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findRuns } from '../runs/find-run.ts'
import { expectCutOf } from '../yield-book/service.ts'
import { findExercise, findTaughtExercise, runsOfExercise } from './exercises.ts'

/** Keeps a mark or a word, once. The last one of a criterion counts. */
export async function giveMark(by: Actor, exerciseId: string, { at, ...mark }: MarkCreate): Promise<StudentResult> {
  const { records, person } = by
  const exercise = await findTaughtExercise(by, exerciseId)
  const { task, group } = exercise
  const keys = task.kind === 'bench' ? task.rubric.map(({ key }) => key) : []
  if (mark.criterion !== '' && !keys.includes(mark.criterion)) throw refuseField('criterion', 'The rubric has no such criterion.')
  if ((await records.groupMembers.count({ groupId: group.id, personId: mark.personId })) === 0)
    throw refuseField('personId', `Nobody of that kind is in ${group.name}.`)
  await createOnce(
    records,
    () => records.marks.create({ ...mark, exerciseId, givenById: person.id, at: new Date(at) }),
    async () => (await records.marks.findOne({ where: { id: mark.id, exerciseId } })) ?? undefined,
  )
  const { results } = await resultsOf(by, exercise, mark.personId)
  return found(results[0])
}

/** How every student of the group did, for its instructor. */
export async function findResults(by: Actor, exerciseId: string): Promise<ExerciseResults> {
  return resultsOf(by, await findTaughtExercise(by, exerciseId))
}

/** One student's result, for its instructor at any time and for the student once it is handed back. */
export async function findStudentResult(
  by: Actor,
  exerciseId: string,
  personId: string,
): Promise<{ exercise: Exercise; result: StudentResult }> {
  const exercise = personId === by.person.id ? await findExercise(by, exerciseId) : await findTaughtExercise(by, exerciseId)
  if (personId === by.person.id && exercise.handedBackAt === null) throw notHandedBack()
  const { results } = await resultsOf(by, exercise, personId)
  return { exercise, result: found(results[0]) }
}

const notHandedBack = () => new ProblemError('role-too-low', { detail: 'It has not been handed back yet.' })

/** What a student is handed back, with how the class did, without names. */
export async function findOwnResult(by: Actor, exerciseId: string): Promise<OwnResult> {
  const exercise = await findExercise(by, exerciseId)
  if (exercise.handedBackAt === null) throw notHandedBack()
  const { results } = await resultsOf(by, exercise)
  const result = found(results.find(({ student }) => student.id === by.person.id))
  const spread = Array.from({ length: 10 }, () => 0)
  for (const { total, score } of results) {
    const value = total ?? score
    if (value !== null) spread[Math.min(9, Math.floor(value / 10))] = (spread[Math.min(9, Math.floor(value / 10))] ?? 0) + 1
  }
  return { exercise, result, spread }
}

async function resultsOf(by: Actor, exercise: Exercise, only?: string): Promise<ExerciseResults> {
  const { records } = by
  const { id: exerciseId, task } = exercise
  const [members, marks, runIds, attempts] = await Promise.all([
    records.groupMembers.findAll({
      where: { groupId: exercise.group.id, ...(only === undefined ? {} : { personId: only }) },
      include: [{ association: 'person', attributes: ['id', 'name'] }],
    }),
    records.marks.findAll({
      where: { exerciseId, ...(only === undefined ? {} : { personId: only }) },
      include: [{ association: 'givenBy', attributes: ['name'] }],
      order: ['sequence'],
    }),
    runsOfExercise(records, exerciseId),
    records.cuttingAttempts.findAll({ where: { exerciseId }, attributes: ['personId', 'score'], order: ['sequence'] }),
  ])
  const wanted = members.map(({ personId }) => runIds.get(personId)).filter((runId) => runId !== undefined)
  const runs = new Map((await findRuns(records, wanted)).map((run) => [run.id, run]))
  const results = await Promise.all(
    members.map(async ({ person }): Promise<StudentResult> => {
      const { id, name } = found(person)
      const run = runs.get(runIds.get(id) ?? '')
      const given = Object.fromEntries(
        marks
          .filter((mark) => mark.personId === id)
          .map(({ criterion, mark, word, givenBy, at }) => [criterion, { mark, word, by: found(givenBy).name, at: at.toISOString() }]),
      )
      const counted = new Map(Object.entries(given).flatMap(([key, { mark }]) => (mark === null ? [] : [[key, mark] as const])))
      const rubric = task.kind === 'bench' ? task.rubric : []
      return {
        student: { id, name },
        runId: run?.id ?? null,
        runStatus: run?.status ?? null,
        given,
        computed: run && run.weighings.length > 0 ? await computedOf(by, run) : [],
        total: totalOfMarks(rubric, counted),
        marked: rubric.filter(({ key }) => counted.has(key)).length,
        // the first try counts: what comes after has seen the best plan
        score: attempts.find((attempt) => attempt.personId === id)?.score ?? null,
      }
    }),
  )
  return { exercise, results: results.sort((a, b) => a.student.name.localeCompare(b.student.name)) }
}

/** Outputs by whose weight it shows whether meat was left on the bones. */
const frames = ['carcass', 'back', 'frame', 'frames', 'bones', 'bone', 'chine']

/** Marks that follow from what a student weighed, against what this kitchen's tests of that cut gave. */
async function computedOf({ records, kitchen }: Actor, run: Run): Promise<ComputedMark[]> {
  const { received, tubs, sheet, cutSheet, item, minutes } = run
  const next = { items: 1, grams: received.tenths / 10 }
  const expected = await expectCutOf(records, kitchen, item.id, { id: cutSheet.id, body: sheet }, next)
  const { totals } = readLedger(run.weighings)
  const pctOf = (some: Run['tubs']) => (100 * some.reduce((sum, tub) => sum + (totals.get(tub.id)?.tenths ?? 0), 0)) / received.tenths
  const frame = tubs.find(({ key, role }) => role === 'byproduct' && key !== null && frames.includes(key))
  const frameExpected = frame && expected.shares.get(frame.key ?? '')
  const { targetTenths, toleranceTenths } = portionTub(tubs) ?? { targetTenths: null, toleranceTenths: null }
  return computedMarks({
    mains: { pct: pctOf(tubs.filter(({ role }) => role === 'main')), expected: expected.mains },
    portions: portionsOf(run).map((grams) => grams * 10),
    within:
      targetTenths !== null && toleranceTenths !== null
        ? { low: targetTenths - toleranceTenths, high: targetTenths + toleranceTenths }
        : undefined,
    frame: frame && frameExpected ? { name: frame.name, pct: pctOf([frame]), expected: frameExpected } : undefined,
    minutes: minutes === null ? undefined : { taken: minutes, expected: expected.minutesPerItem },
  })
}
