import type { StudentResult } from '@fleam/contract/classes'
import type { Actor } from '../../http/access.ts'
import { csvLine } from '../../http/csv.ts'
import { findTaughtGroup } from './groups.ts'
import { findResults } from './results.ts'

/**
 * Every mark of a group as CSV: one line a student, exercise and criterion. Without names each student is a number, which says nothing of who it is.
 */
export async function writeGradebook(by: Actor, groupId: string, withNames: boolean): Promise<string> {
  const group = await findTaughtGroup(by, groupId)
  const exercises = await by.records.exercises.findAll({ where: { groupId }, order: ['day', 'id'] })
  const numbers = new Map(group.members.map(({ id }, at) => [id, `student ${at + 1}`]))
  const lines = [csvLine(['group', 'exercise', 'day', 'student', 'criterion', 'weight', 'mark_0_to_4', 'word', 'kind'])]
  for (const { id } of exercises) {
    const { exercise, results } = await findResults(by, id)
    const { name, day, task } = exercise
    for (const result of results) {
      const who = withNames ? result.student.name : numbers.get(result.student.id)
      const line = (criterion: string, weight: number | string, mark: number | null, word: string, kind: string) =>
        lines.push(csvLine([group.name, name, day, who, criterion, weight, mark ?? '', word, kind]))
      for (const { key, name: criterion, weight } of task.kind === 'bench' ? task.rubric : []) {
        const given = result.given[key]
        line(criterion, weight, given?.mark ?? null, given?.word ?? '', 'given')
      }
      for (const { name: criterion, mark, why } of result.computed) line(criterion, '', mark, why, 'computed')
      line('total, percent', '', rounded(result), result.given['']?.word ?? '', task.kind === 'bench' ? 'total' : 'score on screen')
    }
  }
  return lines.join('')
}

function rounded({ total, score }: StudentResult): number | null {
  const value = total ?? score
  return value === null ? null : Math.round(value * 10) / 10
}
