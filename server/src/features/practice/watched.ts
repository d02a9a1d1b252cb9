import { type Actor, hasRole } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { ProblemError } from '../../http/problems.ts'

/**
 * Whose practice, marks and progress are asked for: oneself, anyone for a lead, and for an instructor the students of their groups. Nobody else's.
 */
export async function findWatched(by: Actor, personId = by.person.id): Promise<{ id: string; name: string }> {
  const { records, person } = by
  if (personId === person.id) return person
  if (!hasRole(person, 'instructor')) throw onlyWatchers()
  const watched = found(await records.people.findOne({ where: { id: personId }, attributes: ['id', 'name'] }))
  if (!hasRole(person, 'lead') && !(await teaches(by, personId))) throw onlyWatchers()
  return watched
}

const onlyWatchers = () =>
  new ProblemError('role-too-low', { detail: 'Only oneself, leads and one’s own instructor see how somebody gets on.' })

/** Whether somebody is in a group of this instructor's. */
async function teaches({ records, person }: Actor, studentId: string): Promise<boolean> {
  const groups = await records.studentGroups.findAll({ where: { instructorId: person.id }, attributes: ['id'] })
  return (await records.groupMembers.count({ groupId: groups.map(({ id }) => id), personId: studentId })) > 0
}
