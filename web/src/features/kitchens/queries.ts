import type { Invitation, Place, SideBySide } from '@fleam/contract/kitchens'
import { queryOptions } from '@tanstack/react-query'
import { get } from '../../api/http.ts'

/** Kitchens that one works in. */
export const placesQuery = queryOptions({
  queryKey: ['kitchens'],
  queryFn: async () => (await get<{ entries: Place[] }>('/kitchens')).entries,
})

export const invitationsQuery = queryOptions({
  queryKey: ['invitations'],
  queryFn: async () => (await get<{ entries: Invitation[] }>('/invitations')).entries,
  staleTime: 0,
})

export const sideBySideQuery = (asked: { from: string; to: string; slug: string }) =>
  queryOptions({
    queryKey: ['side-by-side', asked],
    queryFn: () => {
      const { slug, ...days } = asked
      return get<SideBySide>(`/kitchens/figures?${new URLSearchParams({ ...days, ...(slug ? { slug } : {}) })}`)
    },
    placeholderData: (before) => before,
  })
