import type { Exercise, ExerciseResults, OwnResult, StudentGroup } from '@fleam/contract/classes'
import { queryOptions } from '@tanstack/react-query'
import { get } from '../../api/http.ts'

export const groupsQuery = queryOptions({
  queryKey: ['groups'],
  queryFn: async () => (await get<{ entries: StudentGroup[] }>('/groups')).entries,
})
export const exercisesQuery = queryOptions({
  queryKey: ['exercises'],
  queryFn: async () => (await get<{ entries: Exercise[] }>('/exercises')).entries,
})
export const exerciseQuery = (id: string) => queryOptions({ queryKey: ['exercises', id], queryFn: () => get<Exercise>(`/exercises/${id}`) })
export const resultsQuery = (id: string) =>
  queryOptions({ queryKey: ['exercise-results', id], queryFn: () => get<ExerciseResults>(`/exercises/${id}/results`) })
export const ownResultQuery = (id: string) =>
  queryOptions({ queryKey: ['exercise-results', id, 'own'], queryFn: () => get<OwnResult>(`/exercises/${id}/own-result`) })
