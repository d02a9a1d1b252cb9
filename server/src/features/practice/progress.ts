import type { Progress } from '@fleam/contract/practice'
import type { Run } from '@fleam/contract/runs'
import { totalOfMarks } from '@fleam/core/practice/computed-marks'
import { nextPractice } from '@fleam/core/practice/next-practice'
import { isKnown, standingsOf } from '@fleam/core/practice/spacing'
import { portionsOf, portionTub } from '@fleam/core/runs/run-record'
import { summarise } from '@fleam/core/statistics/sample'
import type { Actor } from '../../http/access.ts'
import { findRuns } from '../runs/find-run.ts'
import { expectCutOf } from '../yield-book/service.ts'
import { findAttempts, findEye, findPractised } from './service.ts'

const shownRuns = 40
const dayMs = 86_400_000
const practiceDays = 14

/** How somebody gets on: runs against what to expect of them, eye, questions, cutting on screen, marks, and what to practise next. */
export async function findProgress(by: Actor, asked?: string): Promise<Progress> {
  const practised = await findPractised(by, asked)
  const { personId, name } = practised
  const [eye, { attempts }, runs, marked] = await Promise.all([
    findEye(by, personId),
    findAttempts(by, personId),
    lastRuns(by, personId),
    marksOf(by, personId),
  ])
  const answers = practised.answers.map(({ card, isRight, at }) => ({ card, isRight, at: Date.parse(at) }))
  const standings = [...standingsOf(answers).values()]
  const now = Date.now()
  const due = standings.filter(({ dueAt }) => dueAt <= now).length
  const lately = answers.filter(({ at }) => at > now - practiceDays * dayMs)
  const rungs = [...new Set(attempts.map(({ rung }) => rung))]
  const learning = { runs, eye: eye.eye, due, asked: standings.length, marks: marked.marks, attempts: attempts.length }
  return {
    ...{ personId, name, runs, eye: eye.eye, ...marked },
    practice: {
      ...{ asked: standings.length, known: standings.filter(isKnown).length, due },
      days: new Set(lately.map(({ at }) => Math.floor(at / dayMs))).size,
      rightPct: lately.length === 0 ? null : (100 * lately.filter(({ isRight }) => isRight).length) / lately.length,
    },
    screen: rungs.map((rung) => {
      const scores = attempts.filter((one) => one.rung === rung).map(({ score }) => score)
      return { rung, tries: scores.length, best: Math.max(...scores), last: scores.at(-1) ?? 0 }
    }),
    next: nextPractice(learning),
  }
}

/** Somebody's last finished runs against what to expect of each, the earliest first. */
async function lastRuns(by: Actor, personId: string): Promise<Progress['runs']> {
  const { records, kitchen } = by
  const rows = await records.runs.findAll({
    attributes: ['id'],
    where: { cookId: personId, status: 'finished' },
    order: [['startedAt', 'DESC']],
    limit: shownRuns,
  })
  const runs = await findRuns(
    records,
    rows.map(({ id }) => id),
  )
  const exercises = new Set((await records.exerciseRuns.findAll({ where: { personId }, attributes: ['runId'] })).map(({ runId }) => runId))
  const expectations = new Map<string, ReturnType<typeof expectCutOf>>()
  const expectationOf = ({ item, cutSheet, sheet, received, pieces }: Run) => {
    const key = `${item.id} ${cutSheet.id}`
    const known =
      expectations.get(key) ??
      expectCutOf(records, kitchen, item.id, { id: cutSheet.id, body: sheet }, { items: 1, grams: received.tenths / 10 / pieces })
    expectations.set(key, known)
    return known
  }
  const shown = await Promise.all(
    runs.map(async (run) => {
      const { mains, minutesPerItem } = await expectationOf(run)
      const portions = portionsOf(run)
      const { mean, variance } = summarise(portions)
      const target = portionTub(run.tubs)?.targetTenths
      const over = target == null ? null : portions.reduce((sum, grams) => sum + Math.max(0, grams - target / 10), 0)
      const { low, mean: typical, high } = mains
      return {
        ...{ id: run.id, number: run.number, sheet: run.cutSheet.name, item: run.item.name, at: run.startedAt },
        isExercise: exercises.has(run.id),
        mainPct: run.figures?.mainPct ?? 0,
        expected: { low, mean: typical, high },
        spreadPct: portions.length > 2 && mean > 0 ? (100 * Math.sqrt(variance)) / mean : null,
        giveaway: over === null || run.figures?.costPerKg == null ? null : (over / 1000) * run.figures.costPerKg,
        minutes: run.minutes ?? 0,
        expectedMinutes: minutesPerItem.mean * run.pieces,
      }
    }),
  )
  return shown.sort((a, b) => a.at.localeCompare(b.at))
}

/** The marks of exercises that were handed back: the mean by criterion, and the total of each exercise. */
async function marksOf({ records }: Actor, personId: string): Promise<Pick<Progress, 'marks' | 'exercises'>> {
  const marks = await records.marks.findAll({ where: { personId }, order: ['sequence'] })
  const exercises = await records.exercises.findAll({
    where: { id: [...new Set(marks.map(({ exerciseId }) => exerciseId))] },
    order: ['day', 'id'],
  })
  const byName = new Map<string, number[]>()
  const totals: Progress['exercises'] = []
  for (const { id, name, day, body, handedBackAt } of exercises) {
    if (handedBackAt === null || body.kind !== 'bench') continue
    // the last of a criterion counts, and may have taken the mark away
    const last = new Map(marks.filter(({ exerciseId }) => exerciseId === id).map(({ criterion, mark }) => [criterion, mark]))
    const given = new Map([...last].flatMap(([key, mark]) => (mark === null ? [] : [[key, mark] as const])))
    const total = totalOfMarks(body.rubric, given)
    if (total !== null) totals.push({ id, name, day, total })
    for (const criterion of body.rubric) {
      const mark = given.get(criterion.key)
      if (mark !== undefined) byName.set(criterion.name, [...(byName.get(criterion.name) ?? []), mark])
    }
  }
  return {
    exercises: totals,
    marks: [...byName].map(([name, all]) => ({ name, mark: all.reduce((sum, mark) => sum + mark, 0) / all.length, times: all.length })),
  }
}
