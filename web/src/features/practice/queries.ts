import type { Attempts, Pace, Practised, Progress, TrainedEye } from '@fleam/contract/practice'
import { queryOptions } from '@tanstack/react-query'
import { get } from '../../api/http.ts'

export const eyeQuery = (person: string) =>
  queryOptions({ queryKey: ['eye', person], queryFn: () => get<TrainedEye>(`/practice/eye?person=${person}`) })
export const practisedQuery = (person: string) =>
  queryOptions({ queryKey: ['practised', person], queryFn: () => get<Practised>(`/practice/answers?person=${person}`) })
export const attemptsQuery = (person: string) =>
  queryOptions({ queryKey: ['attempts', person], queryFn: () => get<Attempts>(`/practice/attempts?person=${person}`) })
export const progressQuery = (person: string) =>
  queryOptions({ queryKey: ['progress', person], queryFn: () => get<Progress>(`/practice/progress?person=${person}`) })
export const paceQuery = (person: string, sheet: string) =>
  queryOptions({
    queryKey: ['pace', person, sheet],
    queryFn: () => get<Pace>(`/practice/pace?person=${person}${sheet ? `&sheet=${sheet}` : ''}`),
  })
