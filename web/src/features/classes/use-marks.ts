import type { ExerciseResults, MarkCreate, StudentResult } from '@fleam/contract/classes'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'
import { newId } from '../../api/new-id.ts'
import { useSession } from '../../api/queries.ts'
import { useKept } from '../practice/kept.ts'
import { resultsQuery } from './queries.ts'

/** Marks as they are given: shown at once, kept on this tablet until the server has them. */
export function useMarks(exerciseId: string) {
  const queryClient = useQueryClient()
  const { person } = useSession()
  const path = useCallback(() => `/exercises/${exerciseId}/marks`, [exerciseId])
  const take = useCallback(
    (result: StudentResult) =>
      queryClient.setQueryData(
        resultsQuery(exerciseId).queryKey,
        (known: ExerciseResults | undefined) =>
          known && { ...known, results: known.results.map((one) => (one.student.id === result.student.id ? result : one)) },
      ),
    [queryClient, exerciseId],
  )
  const { add, waiting, trouble } = useKept<MarkCreate, StudentResult>(`fleam.marks.${person.id}.${exerciseId}`, path, take)
  return {
    trouble,
    waiting: waiting.length,
    give: (personId: string, criterion: string, mark: number | null, word: string) =>
      add({ id: newId(), personId, criterion, mark, word, at: new Date().toISOString() }),
    /** The results with the marks that wait here. */
    withWaiting: (results: readonly StudentResult[]): StudentResult[] =>
      results.map((result) => {
        const own = waiting.filter(({ personId }) => personId === result.student.id)
        if (own.length === 0) return result
        const given = Object.fromEntries(own.map(({ criterion, mark, word, at }) => [criterion, { mark, word, by: person.name, at }]))
        return { ...result, given: { ...result.given, ...given } }
      }),
  }
}
