import type { groupChange, groupCreate, StudentGroup } from '@fleam/contract/classes'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import { type Actor, hasRole } from '../../http/access.ts'
import { changeAsRead, createOnce, found, recordChange } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import type { StudentGroupRow } from './student-group.model.ts'

const withInstructor = { association: 'instructor', attributes: ['id', 'name'] }

/** The groups that somebody teaches; for a lead, every group. */
export async function listGroups({ records, person }: Actor): Promise<StudentGroup[]> {
  const where = hasRole(person, 'lead') ? {} : { instructorId: person.id }
  const rows = await records.studentGroups.findAll({ where, include: [withInstructor], order: ['name'] })
  return Promise.all(rows.map((row) => toGroup(records, row)))
}

/** A group of one's own, or any for a lead. */
export async function findTaughtGroup({ records, person }: Actor, id: string): Promise<StudentGroup> {
  const row = found(await records.studentGroups.findOne({ where: { id }, include: [withInstructor] }))
  if (row.instructorId !== person.id && !hasRole(person, 'lead')) throw notYours()
  return toGroup(records, row)
}

const notYours = () => new ProblemError('role-too-low', { detail: 'Only its own instructor and leads see and change a group.' })

async function toGroup(records: KitchenRecords, { id, name, version, instructor }: StudentGroupRow): Promise<StudentGroup> {
  const members = await records.groupMembers.findAll({
    where: { groupId: id },
    include: [{ association: 'person', attributes: ['id', 'name'] }],
  })
  return {
    ...{ id, name, version },
    instructor: { id: found(instructor).id, name: found(instructor).name },
    members: members.map(({ person }) => ({ id: found(person).id, name: found(person).name })).sort((a, b) => a.name.localeCompare(b.name)),
  }
}

export async function createGroup(by: Actor, { memberIds, ...create }: z.infer<typeof groupCreate>): Promise<StudentGroup> {
  const { records, person } = by
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        await refuseUnknown(tx, memberIds)
        await tx.studentGroups.create({ ...create, instructorId: person.id })
        await tx.groupMembers.bulkCreate(memberIds.map((personId) => ({ groupId: create.id, personId })))
        const after = { name: create.name, members: memberIds.length }
        await recordChange(tx, by, { subject: 'group', subjectId: create.id, action: 'added', before: undefined, after })
      }),
    async () => {
      const row = await records.studentGroups.findOne({ where: { id: create.id }, include: [withInstructor] })
      return row ? toGroup(records, row) : undefined
    },
  )
}

/** Changes a group's name and who is in it. Who has begun an exercise of it keeps the run. */
export async function changeGroup(by: Actor, id: string, change: z.infer<typeof groupChange>): Promise<StudentGroup> {
  const { version, name, memberIds } = change
  await findTaughtGroup(by, id)
  return by.records.transaction(async (tx) => {
    await refuseUnknown(tx, memberIds)
    const show = () => findTaughtGroup({ ...by, records: tx }, id)
    const { before } = await changeAsRead(tx.studentGroups, { id }, version, show, { name })
    await tx.groupMembers.destroy({ groupId: id })
    await tx.groupMembers.bulkCreate(memberIds.map((personId) => ({ groupId: id, personId })))
    const after = await show()
    await recordChange(tx, by, { subject: 'group', subjectId: id, action: 'changed', before: summary(before), after: summary(after) })
    return after
  })
}

const summary = ({ name, members }: StudentGroup) => ({ name, members: members.map((member) => member.name) })

async function refuseUnknown(tx: KitchenRecords, memberIds: readonly string[]): Promise<void> {
  const known = await tx.people.count({ id: [...memberIds], active: true })
  if (known !== memberIds.length) throw refuseField('memberIds', 'Somebody of these is no longer in this kitchen.')
}
