import type { FollowOn } from '@fleam/contract/follow-ons'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo } from 'react'
import { get } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { followOnsQuery, useSession } from '../../api/queries.ts'
import type { FollowOnLine, FollowOnWhat, OutboxLine } from '../../outbox/outbox-line.ts'
import { outbox, useOutbox } from '../../outbox/tablet-outbox.ts'

export const followOnQuery = (id: string) => ({ queryKey: ['follow-on', id], queryFn: () => get<FollowOn>(`/follow-ons/${id}`) })

/** A follow-on as the server has it, with what was weighed and checked on this tablet and not sent yet. */
export function withWaitingLines(followOn: FollowOn, lines: readonly OutboxLine[]): FollowOn {
  const isWaiting = (line: OutboxLine): line is FollowOnLine =>
    line.kind === 'follow-on' && line.followOnId === followOn.id && line.refusal === null
  const waiting = lines.filter(isWaiting)
  if (waiting.length === 0) return followOn
  const { weighings, checks = [] } = followOn.body
  const known = new Set([...weighings, ...checks].map(({ id }) => id))
  const body = { ...followOn.body, weighings: [...weighings], checks: [...checks] }
  for (const { id, at, person, what } of waiting) {
    if (known.has(id)) continue
    if (what.kind === 'weighed') {
      const { output, tenths, reversesId } = what
      body.weighings.push({ id, output, tenths, portions: null, reversesId, at, by: person.name })
    } else {
      const { check: kind, words, celsius, action, isOut } = what
      body.checks.push({ id, kind, words, celsius, action, isOut, limitC: null, at, by: person.name })
    }
  }
  return { ...followOn, body }
}

export function useFollowOn(id: string) {
  const query = useQuery(followOnQuery(id))
  const { lines } = useOutbox()
  const followOn = useMemo(() => query.data && withWaitingLines(query.data, lines), [query.data, lines])
  return { followOn, isPending: query.isPending, error: query.error, refetch: query.refetch }
}

/** Puts down what happens to a follow-on: at once on the screen, in order on the server. */
export function useFollowOnLines({ id: followOnId, name }: Pick<FollowOn, 'id' | 'name'>) {
  const queryClient = useQueryClient()
  const { person } = useSession()
  useEffect(
    () =>
      outbox.whenStored((_line, answer) => {
        if (!('followOn' in answer)) return
        queryClient.setQueryData(followOnQuery(answer.followOn.id).queryKey, answer.followOn)
        void queryClient.invalidateQueries({ queryKey: followOnsQuery.queryKey })
      }),
    [queryClient],
  )
  return (what: FollowOnWhat) => {
    const by = { id: person.id, name: person.name }
    void outbox.post({ id: newId(), kind: 'follow-on', followOnId, name, what, at: new Date().toISOString(), person: by })
  }
}
