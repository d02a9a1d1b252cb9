import type { GuessCreate, TrainedEye } from '@fleam/contract/practice'
import { eyeOf } from '@fleam/core/practice/trained-eye'
import { type Actor, hasRole } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import { ProblemError } from '../../http/problems.ts'

/** So many guesses back an eye is judged. */
const shown = 300

/** How well somebody judges weights: oneself, or anyone for a lead. */
export async function findEye({ records, person }: Actor, personId = person.id): Promise<TrainedEye> {
  const isOther = personId !== person.id
  if (isOther && !hasRole(person, 'lead'))
    throw new ProblemError('role-too-low', { detail: 'Only oneself and leads see how somebody practises.' })
  const { id, name } = isOther ? found(await records.people.findOne({ where: { id: personId }, attributes: ['id', 'name'] })) : person
  const rows = await records.guesses.findAll({ where: { personId: id }, order: [['sequence', 'DESC']], limit: shown })
  const guesses = rows.reverse().map((row) => ({
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
