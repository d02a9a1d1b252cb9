import type { Claim } from '@fleam/contract/claims'
import type { Comparison } from '@fleam/contract/compare'
import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { KitchenDay } from '@fleam/contract/day'
import type { DaySchedule } from '@fleam/contract/day-schedule'
import type { DishNeed } from '@fleam/contract/dishes'
import type { CookingTest, FollowOn, FollowOnSheetEntry, SavedValue } from '@fleam/contract/follow-ons'
import type { Kitchen } from '@fleam/contract/kitchen'
import type { KitchenOrder } from '@fleam/contract/ordering'
import type { Person, Session } from '@fleam/contract/people'
import type { UsualShapes } from '@fleam/contract/plan'
import type { FetchedList, Item, PriceMove, Quote, Supplier } from '@fleam/contract/prices'
import type { BoxItem } from '@fleam/contract/receiving'
import { mayAs } from '@fleam/contract/roles'
import type { Run } from '@fleam/contract/runs'
import type { Lot, PortionsEaten, ThrownAway } from '@fleam/contract/walk-in'
import type { WayOfCutting, YieldBookEntry, YieldTestRecord } from '@fleam/contract/yield-book'
import { queryOptions, useQuery, useSuspenseQuery } from '@tanstack/react-query'
import { get, getAll, ProblemFailure } from './http.ts'
import { sessionIsSettled, sessionRanOut } from './session-over.ts'
import { finishSigningOut } from './sign-out.ts'

/** Who is signed in; `null` when nobody is. Who was at it when a session ran out stays until somebody signs in. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async ({ client }): Promise<Session | null> => {
    if (await finishSigningOut()) return null
    try {
      const session = await get<Session>('/session')
      sessionIsSettled()
      return session
    } catch (error) {
      if (!(error instanceof ProblemFailure && error.problem.status === 401)) throw error
      const known = client.getQueryData<Session | null>(['session']) ?? null
      if (known) sessionRanOut()
      return known
    }
  },
  staleTime: 60_000,
})

export const itemsQuery = queryOptions({ queryKey: ['items'], queryFn: () => getAll<Item>('/items') })
export const suppliersQuery = queryOptions({ queryKey: ['suppliers'], queryFn: () => getAll<Supplier>('/suppliers') })
export const peopleQuery = queryOptions({ queryKey: ['people'], queryFn: () => getAll<Person>('/people') })
export const cutSheetsQuery = queryOptions({ queryKey: ['cut-sheets'], queryFn: () => getAll<CutSheet>('/cut-sheets') })

const listOf = <Entry>(key: string, path: string) =>
  queryOptions({ queryKey: [key], queryFn: async () => (await get<{ entries: Entry[] }>(path)).entries })
export const dishNeedsQuery = listOf<DishNeed>('dish-needs', '/dish-needs')
export const yieldBookQuery = listOf<YieldBookEntry>('yield-book', '/yield-book')
export const waysQuery = listOf<WayOfCutting>('ways', '/ways-of-cutting')
export const comparisonsQuery = listOf<Comparison>('comparisons', '/comparisons')
export const daysQuery = listOf<KitchenDay>('days', '/days')
export const dayQuery = (id: string) => queryOptions({ queryKey: ['day', id], queryFn: () => get<KitchenDay>(`/days/${id}`) })
export const schedulesQuery = listOf<DaySchedule>('schedules', '/schedules')
export const scheduleQuery = (id: string) =>
  queryOptions({ queryKey: ['schedule', id], queryFn: () => get<DaySchedule>(`/days/${id}/schedule`) })
export const ordersQuery = listOf<KitchenOrder>('orders', '/orders')
export const lotsQuery = listOf<Lot>('lots', '/lots')
export const followOnsQuery = listOf<FollowOn>('follow-ons', '/follow-ons')
export const followOnSheetsQuery = listOf<FollowOnSheetEntry>('follow-on-sheets', '/follow-on-sheets')
export const savedValuesQuery = listOf<SavedValue>('saved-values', '/saved-values')
export const claimsQuery = listOf<Claim>('claims', '/claims')
export const boxItemsQuery = listOf<BoxItem>('box-items', '/box-items')
export const cookingTestsQuery = listOf<CookingTest>('cooking-tests', '/cooking-tests')
export const portionsEatenQuery = listOf<PortionsEaten>('portions-eaten', '/portions-eaten')
export const thrownAwayQuery = listOf<ThrownAway>('thrown-away', '/thrown-away')
/** Price lists that were fetched; only managers may ask. */
export const fetchedListsQuery = queryOptions({
  queryKey: ['fetched-lists'],
  queryFn: () => get<{ entries: FetchedList[]; hasSimulated: boolean }>('/fetched-lists'),
})
export const priceMovesQuery = listOf<PriceMove>('price-moves', '/price-moves')

export function yieldTestsQuery(itemId: string, cutSheetId: string) {
  return queryOptions({
    queryKey: ['yield-tests', itemId, cutSheetId],
    queryFn: async () => (await get<{ entries: YieldTestRecord[] }>(`/yield-book/tests?itemId=${itemId}&cutSheetId=${cutSheetId}`)).entries,
  })
}

export function quotesQuery(itemId: string) {
  return queryOptions({ queryKey: ['quotes', itemId], queryFn: () => getAll<Quote>(`/items/${itemId}/quotes`) })
}

/** The shapes that this kitchen's pieces usually have. */
export const usualShapesQuery = queryOptions({
  queryKey: ['usual-shapes'],
  queryFn: async () => (await get<UsualShapes>('/usual-shapes')).entries,
  staleTime: 60_000,
})

/** Under which the pictures of a run are kept. */
export const picturesKey = (runId: string) => ['pictures', runId]

export function runQuery(id: string) {
  return queryOptions({
    queryKey: ['run', id],
    queryFn: () => get<Run>(`/runs/${id}`),
    structuralSharing: (known, fresh) => withAllLines(known as Run | undefined, fresh as Run),
  })
}

/** The ledger only grows: what has arrived live while an answer was under way stays. */
function withAllLines(known: Run | undefined, fresh: Run): Run {
  if (!known) return fresh
  const union = <Line extends { id: string }>(old: readonly Line[], read: readonly Line[]) => {
    const ids = new Set(read.map((line) => line.id))
    return [...read, ...old.filter((line) => !ids.has(line.id))]
  }
  return { ...fresh, weighings: union(known.weighings, fresh.weighings), events: union(known.events, fresh.events) }
}

/** The signed-in session; only for pages that are shown to people who are signed in. */
export function useSession(): Session {
  const { data } = useSuspenseQuery(sessionQuery)
  if (!data) throw new Error('This page is for people who are signed in.')
  return data
}

export function useKitchen(): Kitchen {
  return useSession().kitchen
}

/** Whether the signed-in person has this role or a higher one. */
export function useHasRole(role: Person['role']): boolean {
  return mayAs(useSession().person.role, role)
}

export { useQuery }
