import { randomUUID } from 'node:crypto'
import type { Exercise, ExerciseResults, OwnResult, StudentGroup, StudentResult } from '@fleam/contract/classes'
import type { Pace, Progress } from '@fleam/contract/practice'
import type { Run } from '@fleam/contract/runs'
import { type Answer, type Asker, addPerson, stockedKitchen, weighingRequest } from './kitchen.ts'

const { kitchen, test_ } = stockedKitchen()
const as = <Shape>({ body }: Answer) => body as unknown as Shape
const now = () => new Date().toISOString()

const rubric = [
  { key: 'knife', name: 'Hold and knife', weight: 2 },
  { key: 'even', name: 'Portions even', weight: 1 },
  { key: 'time', name: 'Time', weight: 0 },
]

async function giveClass(students: readonly Asker[]) {
  const group = { id: randomUUID(), name: `Class ${randomUUID().slice(0, 8)}`, memberIds: students.map(({ personId }) => personId) }
  expect((await kitchen.instructor.ask('POST', '/groups', group)).status).toBe(201)
  const task = { kind: 'bench', cutSheetId: kitchen.cutSheetId, itemId: kitchen.itemId, supplierId: null, target: '180 g', rubric }
  const create = { id: randomUUID(), groupId: group.id, name: 'First loin', day: '2026-11-26', task }
  return { group, exercise: as<Exercise>(await kitchen.instructor.ask('POST', '/exercises', create)), create }
}

const begin = { received: '2 kg', coreTempC: 3, weightsChecked: true }

async function mark(exerciseId: string, personId: string, criterion: string, value: number | null, word = '') {
  const body = { id: randomUUID(), personId, criterion, mark: value, word, at: now() }
  return kitchen.instructor.ask('POST', `/exercises/${exerciseId}/marks`, body)
}

test('an exercise is given once, begun once by each, cut, marked and handed back', async () => {
  const { exercise, create } = await giveClass([kitchen.student])
  const path = `/exercises/${exercise.id}`
  expect((await kitchen.instructor.ask('POST', '/exercises', create)).status).toBe(201)
  const starts = await Promise.all([1, 2].map(() => kitchen.student.ask('POST', `${path}/run`, { id: randomUUID(), ...begin })))
  expect(starts.map(({ status }) => status)).toEqual([201, 201])
  const [run, again] = starts.map((start) => as<Run>(start)) as [Run, Run]
  expect(again.id).toBe(run.id)
  expect(run).toMatchObject({ cook: { id: kitchen.student.personId }, leftOut: { reason: 'Exercise: First loin' } })
  const [main] = run.tubs
  for (const weight of ['182 g', '178 g', '260 g'])
    expect((await kitchen.student.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(main?.id ?? '', weight))).status).toBe(201)

  await mark(exercise.id, kitchen.student.personId, 'knife', 1)
  await mark(exercise.id, kitchen.student.personId, 'knife', 3, 'Hand behind the blade now.')
  const marked = as<StudentResult>(await mark(exercise.id, kitchen.student.personId, 'even', 2))
  expect(marked.total).toBeCloseTo((100 * (2 * 3 + 2)) / 12, 9)
  expect(marked.given.knife).toMatchObject({ mark: 3, word: 'Hand behind the blade now.' })
  expect(marked.computed.find(({ key }) => key === 'evenness')).toMatchObject({ why: '2 of 3 within tolerance', mark: 2.7 })

  expect((await kitchen.student.ask('GET', `${path}/own-result`)).status).toBe(403)
  expect((await kitchen.instructor.ask('POST', `${path}/hand-back`, { version: 1, handedBack: true })).status).toBe(200)
  const own = as<OwnResult>(await kitchen.student.ask('GET', `${path}/own-result`))
  expect(own.result.total).toBeCloseTo(66.67, 1)
  expect(own.spread).toEqual([0, 0, 0, 0, 0, 0, 1, 0, 0, 0])
  const page = await kitchen.student.ask('GET', `${path}/students/${kitchen.student.personId}/page.pdf`)
  expect(String(page.body)).toContain('%PDF')
  const late = await kitchen.instructor.ask('POST', `${path}/hand-back`, { version: 1, handedBack: false })
  expect(late.status).toBe(409)
})

test('a student sees their own runs, exercises and marks, and nobody else’s', async () => {
  const other = await addPerson(test_, kitchen.kitchenId, 'student')
  const { exercise } = await giveClass([kitchen.student, other])
  const path = `/exercises/${exercise.id}`
  const run = as<Run>(await kitchen.student.ask('POST', `${path}/run`, { id: randomUUID(), ...begin }))
  const body = weighingRequest(run.tubs[0]?.id ?? '', '180 g')
  for (const [method, where, sent] of [
    ['GET', `/runs/${run.id}`, undefined],
    ['GET', `/runs/${run.id}/pictures`, undefined],
    ['POST', `/runs/${run.id}/weighings`, body],
    ['GET', `/live?runId=${run.id}`, undefined],
    ['GET', '/live', undefined],
    ['GET', `/practice/eye?person=${kitchen.student.personId}`, undefined],
    ['GET', `/practice/progress?person=${kitchen.student.personId}`, undefined],
    ['GET', `${path}/results`, undefined],
    ['GET', `${path}/students/${kitchen.student.personId}/page.pdf`, undefined],
    ['GET', '/lots', undefined],
    ['GET', '/items', undefined],
  ] as const)
    expect([where, (await other.ask(method, where, sent)).status]).toEqual([where, 403])
  const { entries } = as<{ entries: { id: string }[] }>(await other.ask('GET', '/runs'))
  expect(entries).toEqual([])
  const outsider = await addPerson(test_, kitchen.kitchenId, 'student')
  expect((await outsider.ask('GET', path)).status).toBe(403)
  expect(as<{ entries: Exercise[] }>(await outsider.ask('GET', '/exercises')).entries).toEqual([])
  expect((await outsider.ask('POST', `${path}/run`, { id: randomUUID(), ...begin })).status).toBe(403)
})

test('an instructor sees their own students’ progress and groups, not those of another; a lead sees all', async () => {
  const { group, exercise } = await giveClass([kitchen.student])
  const colleague = await addPerson(test_, kitchen.kitchenId, 'instructor')
  const eye = `/practice/progress?person=${kitchen.student.personId}`
  expect((await kitchen.instructor.ask('GET', eye)).status).toBe(200)
  expect((await colleague.ask('GET', eye)).status).toBe(403)
  expect((await kitchen.lead.ask('GET', eye)).status).toBe(200)
  expect((await kitchen.instructor.ask('GET', `/practice/answers?person=${kitchen.cook.personId}`)).status).toBe(403)
  for (const where of [`/groups/${group.id}/gradebook.csv`, `/exercises/${exercise.id}/results`])
    expect([where, (await colleague.ask('GET', where)).status]).toEqual([where, 403])
  const change = { version: 1, name: 'Taken', memberIds: [] }
  expect((await colleague.ask('PUT', `/groups/${group.id}`, change)).status).toBe(403)
  expect(as<{ entries: StudentGroup[] }>(await colleague.ask('GET', '/groups')).entries).toEqual([])
  expect(as<{ entries: StudentGroup[] }>(await kitchen.lead.ask('GET', '/groups')).entries.length).toBeGreaterThan(0)
})

test('the gradebook leaves names out where they are not wanted, and is safe in a spreadsheet', async () => {
  const { group, exercise } = await giveClass([kitchen.student])
  await mark(exercise.id, kitchen.student.personId, 'knife', 4, '=2+3')
  const { results } = as<ExerciseResults>(await kitchen.instructor.ask('GET', `/exercises/${exercise.id}/results`))
  const name = results[0]?.student.name ?? ''
  const named = String((await kitchen.instructor.ask('GET', `/groups/${group.id}/gradebook.csv`)).body)
  expect(named).toContain(name)
  expect(named).not.toContain(',=2+3')
  const unnamed = String((await kitchen.instructor.ask('GET', `/groups/${group.id}/gradebook.csv?names=no`)).body)
  expect(unnamed).not.toContain(name)
  expect(unnamed.split('\n').length).toBe(named.split('\n').length)
})

test('what cannot be is refused by its field', async () => {
  const { group, exercise } = await giveClass([kitchen.student])
  const field = ({ body }: Answer) => body.errors?.[0]?.field
  expect(field(await mark(exercise.id, kitchen.student.personId, 'beauty', 4))).toBe('criterion')
  expect(field(await mark(exercise.id, kitchen.student.personId, 'knife', 5))).toBe('mark')
  expect(field(await mark(exercise.id, kitchen.cook.personId, 'knife', 4))).toBe('personId')
  const twice = { id: randomUUID(), name: 'Twice', memberIds: [kitchen.student.personId, kitchen.student.personId] }
  expect(field(await kitchen.instructor.ask('POST', '/groups', twice))).toBe('memberIds')
  expect((await kitchen.instructor.ask('POST', '/groups', { id: randomUUID(), name: group.name, memberIds: [] })).status).toBe(409)
})

test('a piece on screen is the same for the class, and the first try is what counts', async () => {
  const { group } = await giveClass([kitchen.student])
  const task = { kind: 'screen', rung: 'rack', seed: 12 }
  const exercise = as<Exercise>(
    await kitchen.instructor.ask('POST', '/exercises', { id: randomUUID(), groupId: group.id, name: 'A rack', day: '2026-11-26', task }),
  )
  const attempt = { id: randomUUID(), rung: 'rack', seed: 12, cutsCm: [5], exerciseId: exercise.id, at: now() }
  const first = as<{ score: number }>(await kitchen.student.ask('POST', '/practice/attempts', attempt))
  await kitchen.student.ask('POST', '/practice/attempts', { ...attempt, id: randomUUID(), cutsCm: [5, 10, 15] })
  const wrong = await kitchen.student.ask('POST', '/practice/attempts', { ...attempt, id: randomUUID(), seed: 13 })
  expect(wrong.body.errors?.[0]?.field).toBe('exerciseId')
  const { results } = as<ExerciseResults>(await kitchen.instructor.ask('GET', `/exercises/${exercise.id}/results`))
  expect(results[0]?.score).toBeCloseTo(first.score, 9)
})

test('progress shows finished runs against what to expect, marks only once they are handed back, and what to practise next', async () => {
  const student = await addPerson(test_, kitchen.kitchenId, 'student')
  const { exercise } = await giveClass([student])
  const run = as<Run>(await student.ask('POST', `/exercises/${exercise.id}/run`, { id: randomUUID(), ...begin }))
  const main = run.tubs.find(({ targetTenths }) => targetTenths !== null)?.id ?? ''
  for (const weight of ['180 g', '190 g', '200 g']) await student.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(main, weight))
  const finish = { version: run.version, minutes: 9, unaccountedReason: 'the rest was left' }
  const finished = as<Run>(await student.ask('POST', `/runs/${run.id}/finish`, finish))
  await mark(exercise.id, student.personId, 'knife', 1)
  const before = as<Progress>(await student.ask('GET', '/practice/progress'))
  expect(before.marks).toEqual([])
  await kitchen.instructor.ask('POST', `/exercises/${exercise.id}/hand-back`, { version: 1, handedBack: true })
  const progress = as<Progress>(await student.ask('GET', '/practice/progress'))
  expect(progress.marks).toEqual([{ name: 'Hold and knife', mark: 1, times: 1 }])
  expect(progress.exercises).toMatchObject([{ name: 'First loin', total: 25 }])
  const [shown] = progress.runs
  expect(shown).toMatchObject({ id: run.id, isExercise: true, mainPct: finished.figures?.mainPct })
  expect(shown?.spreadPct).toBeCloseTo((100 * 10) / 190, 6)
  expect(shown?.giveaway).toBeCloseTo(0.03 * (finished.figures?.costPerKg ?? 0), 9)
  expect(progress.next.map(({ key }) => key)).toEqual(['marks', 'questions', 'screen'])
})

test('the pace goes by step against one’s own best and the house, of the sheet that is cut most', async () => {
  const [fast, slow] = (await Promise.all([1, 2].map(() => addPerson(test_, kitchen.kitchenId, 'student')))) as [Asker, Asker]
  const { exercise } = await giveClass([fast, slow])
  for (const [student, minutes] of [
    [fast, 6],
    [slow, 12],
  ] as const) {
    const run = as<Run>(await student.ask('POST', `/exercises/${exercise.id}/run`, { id: randomUUID(), ...begin }))
    const moment = (minute: number) => new Date(Date.parse(run.startedAt) + minute * 60_000).toISOString()
    for (const [step, minute] of [
      [1, 1],
      [2, 3],
    ] as const)
      await student.ask('POST', `/runs/${run.id}/bench-events`, { id: randomUUID(), what: { kind: 'step', step }, at: moment(minute) })
    const main = run.tubs[0]?.id ?? ''
    await student.ask('POST', `/runs/${run.id}/weighings`, { ...weighingRequest(main, '1.99 kg'), weighedAt: moment(4) })
    expect((await student.ask('POST', `/runs/${run.id}/finish`, { version: run.version, minutes })).status).toBe(200)
  }
  const pace = as<Pace>(await slow.ask('GET', '/practice/pace'))
  expect(pace.sheets).toMatchObject([{ id: kitchen.cutSheetId, runs: 1 }])
  // 1, 2 and 1 minutes by the bench, of the twelve that were noted
  const own = pace.steps.filter(({ last }) => last !== null)
  expect(own.map(({ last, best }) => [last, best])).toEqual([
    [3, 3],
    [6, 6],
    [3, 3],
  ])
  expect(own[1]?.house).toBeGreaterThan(0)
  expect((await fast.ask('GET', `/practice/pace?person=${slow.personId}`)).status).toBe(403)
})
