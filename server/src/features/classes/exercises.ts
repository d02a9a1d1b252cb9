import type { Exercise, exerciseChange, exerciseCreate, exerciseHandBack, exerciseStart } from '@fleam/contract/classes'
import type { Run } from '@fleam/contract/runs'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import { type Actor, hasRole } from '../../http/access.ts'
import { changeAsRead, createOnce, found, recordChange } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findCutSheet } from '../cut-sheets/service.ts'
import { noteChanged } from '../runs/bench-events.ts'
import { findRun } from '../runs/find-run.ts'
import { prepareRun } from '../runs/service.ts'
import type { ExerciseRow } from './exercise.model.ts'
import { findTaughtGroup } from './groups.ts'

const shown = 200
const withGroup = {
  association: 'group',
  attributes: ['id', 'name', 'instructorId'],
  include: [{ association: 'instructor', attributes: ['id', 'name'] }],
}

/** The exercises of somebody's groups, as a student or as an instructor; for a lead, all. The newest first. */
export async function listExercises(by: Actor): Promise<Exercise[]> {
  const { records, person } = by
  const [taught, joined] = await Promise.all([
    records.studentGroups.findAll({ where: hasRole(person, 'lead') ? {} : { instructorId: person.id }, attributes: ['id'] }),
    records.groupMembers.findAll({ where: { personId: person.id }, attributes: ['groupId'] }),
  ])
  const teaches = hasRole(person, 'instructor') ? taught.map(({ id }) => id) : []
  const rows = await records.exercises.findAll({
    where: { groupId: [...teaches, ...joined.map(({ groupId }) => groupId)] },
    include: [withGroup],
    order: [
      ['day', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: shown,
  })
  return toExercises(by, rows)
}

/** An exercise of a group that one teaches or is in. */
export async function findExercise(by: Actor, id: string): Promise<Exercise> {
  const { records, person } = by
  const row = found(await records.exercises.findOne({ where: { id }, include: [withGroup] }))
  const isTaught = hasRole(person, 'lead') || (hasRole(person, 'instructor') && found(row.group).instructorId === person.id)
  if (!isTaught && (await records.groupMembers.count({ groupId: row.groupId, personId: person.id })) === 0)
    throw new ProblemError('role-too-low', { detail: 'This exercise is another group’s.' })
  return found((await toExercises(by, [row]))[0])
}

/** An exercise that one has given, or any for a lead. */
export async function findTaughtExercise(by: Actor, id: string): Promise<Exercise> {
  const row = found(await by.records.exercises.findOne({ where: { id }, include: [withGroup] }))
  await findTaughtGroup(by, row.groupId)
  return found((await toExercises(by, [row]))[0])
}

async function toExercises({ records, person }: Actor, rows: readonly ExerciseRow[]): Promise<Exercise[]> {
  const tasks = rows.flatMap(({ body }) => (body.kind === 'bench' ? [body] : []))
  const [sheets, items, own] = await Promise.all([
    records.cutSheets.findAll({
      where: { id: [...new Set(tasks.map(({ cutSheetId }) => cutSheetId))] },
      include: [{ association: 'newestVersion', attributes: ['name'] }],
    }),
    records.items.findAll({ where: { id: [...new Set(tasks.map(({ itemId }) => itemId))] }, attributes: ['id', 'name'] }),
    records.exerciseRuns.findAll({ where: { exerciseId: rows.map(({ id }) => id), personId: person.id } }),
  ])
  const sheetNames = new Map(sheets.map(({ id, newestVersion }) => [id, newestVersion?.name ?? '']))
  const itemNames = new Map(items.map(({ id, name }) => [id, name]))
  const ownRuns = new Map(own.map(({ exerciseId, runId }) => [exerciseId, runId]))
  return rows.map(({ id, name, day, version, group, body, handedBackAt }) => {
    const { instructor } = found(group)
    return {
      ...{ id, name, day, version, task: body },
      group: { id: found(group).id, name: found(group).name },
      instructor: { id: found(instructor).id, name: found(instructor).name },
      sheetName: body.kind === 'bench' ? (sheetNames.get(body.cutSheetId) ?? null) : null,
      itemName: body.kind === 'bench' ? (itemNames.get(body.itemId) ?? null) : null,
      handedBackAt: handedBackAt?.toISOString() ?? null,
      ownRunId: ownRuns.get(id) ?? null,
    }
  })
}

/** Gives an exercise to a group. */
export async function giveExercise(by: Actor, { groupId, task, ...create }: z.infer<typeof exerciseCreate>): Promise<Exercise> {
  const { records } = by
  await findTaughtGroup(by, groupId)
  if (task.kind === 'bench') await refuseUnknownTask(records, task)
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        await tx.exercises.create({ ...create, groupId, body: task })
        const after = { name: create.name, day: create.day, kind: task.kind }
        await recordChange(tx, by, { subject: 'exercise', subjectId: create.id, action: 'given', before: undefined, after })
      }),
    async () => {
      const row = await records.exercises.findOne({ where: { id: create.id, groupId }, include: [withGroup] })
      return row ? (await toExercises(by, [row]))[0] : undefined
    },
  )
}

async function refuseUnknownTask(records: KitchenRecords, task: { cutSheetId: string; itemId: string }): Promise<void> {
  if (!(await findCutSheet(records, task.cutSheetId))) throw refuseField('task.cutSheetId', 'There is no such cut sheet.')
  if ((await records.items.count({ id: task.itemId })) === 0) throw refuseField('task.itemId', 'There is no such item.')
  if ((await records.quotes.count({ itemId: task.itemId })) === 0)
    throw refuseField('task.itemId', 'It has no price yet: note one before it is cut.', 'no-quote')
}

/** Changes its name, its day and its rubric. Marks that were given stay, and count by the new weights. */
export async function changeExercise(by: Actor, id: string, change: z.infer<typeof exerciseChange>): Promise<Exercise> {
  const { version, rubric, ...rest } = change
  const { task } = await findTaughtExercise(by, id)
  const body = task.kind === 'bench' && rubric ? { ...task, rubric } : task
  return keepChange(by, id, version, { ...rest, body }, 'changed')
}

/** Shows the students their marks, or takes that back. */
export async function handBack(by: Actor, id: string, { version, handedBack }: z.infer<typeof exerciseHandBack>): Promise<Exercise> {
  await findTaughtExercise(by, id)
  return keepChange(by, id, version, { handedBackAt: handedBack ? new Date() : null }, handedBack ? 'handed back' : 'taken back')
}

async function keepChange(
  by: Actor,
  id: string,
  version: number,
  values: Partial<Pick<ExerciseRow, 'name' | 'day' | 'body' | 'handedBackAt'>>,
  action: string,
): Promise<Exercise> {
  return by.records.transaction(async (tx) => {
    const show = () => findTaughtExercise({ ...by, records: tx }, id)
    const { before } = await changeAsRead(tx.exercises, { id }, version, show, values)
    const after = await show()
    const summary = ({ name, day, handedBackAt }: Exercise) => ({ name, day, handedBackAt })
    await recordChange(tx, by, { subject: 'exercise', subjectId: id, action, before: summary(before), after: summary(after) })
    return after
  })
}

/**
 * Begins one's own run of an exercise: what, by which sheet and to which weight are the exercise's. It is left out of the yield book, which says what
 * the kitchen can expect and not what is being learnt. Begun again, the first one is answered.
 */
export async function startExercise(by: Actor, id: string, start: z.infer<typeof exerciseStart>): Promise<Run> {
  const { records, person } = by
  const { task, name, group } = await findExercise(by, id)
  if (task.kind !== 'bench') throw refuseField('id', 'This one is cut on screen.')
  const where = { exerciseId: id, personId: person.id }
  const begun = await records.exerciseRuns.findOne({ where })
  if (begun) return found(await findRun(records, begun.runId))
  if ((await records.groupMembers.count({ groupId: group.id, personId: person.id })) === 0)
    throw new ProblemError('role-too-low', { detail: `Only who is in ${group.name} does this exercise.` })
  const create = {
    ...start,
    ...{ itemId: task.itemId, cutSheetId: task.cutSheetId, supplierId: task.supplierId, target: task.target, billed: start.received },
    ...{ lot: '', pieces: 1, byPiece: false, fish: null, deliveryCheck: null, fromLotId: null, startedAt: new Date().toISOString() },
  }
  const write = await prepareRun(by, create)
  const leftOut = { reason: `Exercise: ${name}`, by: { id: person.id, name: person.name }, at: new Date().toISOString() }
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        await write(tx)
        await tx.runs.update({ leftOut }, { id: start.id })
        await tx.exerciseRuns.create({ ...where, runId: start.id })
        // the instructor's wall hears of it
        await noteChanged(tx, by, start.id, 'status')
      }),
    async () => {
      const row = await records.exerciseRuns.findOne({ where })
      return row ? findRun(records, row.runId) : undefined
    },
  )
}

/** The runs of an exercise by student. */
export async function runsOfExercise(records: KitchenRecords, exerciseId: string): Promise<Map<string, string>> {
  const rows = await records.exerciseRuns.findAll({ where: { exerciseId } })
  return new Map(rows.map(({ personId, runId }) => [personId, runId]))
}
