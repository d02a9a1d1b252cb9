import { rubricOf } from '@fleam/core/practice/rubric'
import { seededRandom } from '@fleam/core/random/seeded-random'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import { found } from '../http/changes.ts'
import { type Line, lines } from './lines.ts'
import { classmates, demoPeople } from './people.ts'
import { type Context, type DemoRun, makeRun } from './runs.ts'

const dayMs = 86_400_000
const sheetSlug = 'chicken-saute'
const item = 'Chicken, whole, case of five'
const exerciseName = 'Chicken for a sauté'
const firstOnes = demoPeople.filter(({ role }) => role === 'student').map(({ name }) => name)
const students = [...firstOnes, ...classmates]

/** A class that has done an exercise: the runs of its students, with how well each works. */
interface SchoolClass {
  runs: (DemoRun & { student: string; skill: number })[]
}

/** The chickens that a class of fourteen cut for a sauté yesterday; left out of the yield book. */
export function makeClass(context: Context, firstNumber: number): SchoolClass {
  const random = seededRandom(1426)
  const line: Line = { ...found(lines.find((one) => one.item === item)), sheets: [[sheetSlug, 1]], pieces: [1], grams: 2340, spread: 90 }
  return {
    runs: students.map((student, index) => {
      const skill = random.next()
      const hand = {
        name: student,
        offTargetGrams: 2 + (1 - skill) * 6,
        spreadGrams: 5 + (1 - skill) * 12,
        mainPct: -3 * (1 - skill),
        pace: 1 + (1 - skill) * 0.7,
      }
      const made = makeRun(context, random, { line, daysAgo: 1, isBad: false, hand }, firstNumber + index)
      const by = { id: found(context.personIds.get(student)), name: student }
      const leftOut = { reason: `Exercise: ${exerciseName}`, by, at: new Date(context.today.getTime() - dayMs).toISOString() }
      return { ...made, run: { ...made.run, leftOut }, student, skill }
    }),
  }
}

const words = [
  'Hand behind the blade.',
  'Bend the leg further before you cut.',
  'Clean joints, well done.',
  'Look at the oyster again.',
  '',
]

/** The group with what it was given: yesterday’s, marked and handed back, and another for today that nobody has begun. */
export async function fillSchool(tx: KitchenRecords, { today, personIds, sheets, items }: Context, { runs }: SchoolClass): Promise<void> {
  const random = seededRandom(77)
  const instructorId = found(personIds.get(found(demoPeople.find(({ role }) => role === 'instructor')).name))
  const sheet = found(sheets.find(({ slug }) => slug === sheetSlug))
  const rubric = rubricOf(sheet.body.rubric ?? [])
  const groupId = uuidv7()
  await tx.studentGroups.create({ id: groupId, name: 'Autumn class', instructorId })
  await tx.groupMembers.bulkCreate(students.map((name) => ({ groupId, personId: found(personIds.get(name)) })))
  const body = {
    ...{ kind: 'bench' as const, cutSheetId: sheet.id, itemId: found(items.find(({ name }) => name === item)).id, supplierId: null },
    ...{ target: null, rubric },
  }
  const dayOf = (moment: Date) => moment.toISOString().slice(0, 10)
  const [yesterday, handedBackAt] = [new Date(today.getTime() - dayMs), new Date(today.getTime() - dayMs / 2)]
  const done = { id: uuidv7(), groupId, name: exerciseName, day: dayOf(yesterday), body, handedBackAt }
  const open = { id: uuidv7(), groupId, name: 'Chicken for a sauté, once more', day: dayOf(today), body }
  const rack = {
    id: uuidv7(),
    groupId,
    name: 'A rack on screen',
    day: dayOf(today),
    body: { kind: 'screen' as const, rung: 'rack', seed: 1887, shape: null },
  }
  await tx.exercises.bulkCreate([done, open, rack])
  await tx.exerciseRuns.bulkCreate(
    runs.map(({ run, student }) => ({ exerciseId: done.id, personId: found(personIds.get(student)), runId: run.id })),
  )
  await tx.marks.bulkCreate(
    runs.flatMap(({ student, skill }) => {
      const mark = () => Math.max(0, Math.min(4, Math.round(random.normal(1.6 + 2 * skill, 0.6))))
      const row = { exerciseId: done.id, personId: found(personIds.get(student)), givenById: instructorId, at: handedBackAt }
      const given = rubric.map(({ key }) => ({ ...row, id: uuidv7(), criterion: key, mark: mark(), word: '' }))
      return [...given, { ...row, id: uuidv7(), criterion: '', mark: null, word: words[Math.floor(skill * words.length)] ?? '' }]
    }),
  )
}
