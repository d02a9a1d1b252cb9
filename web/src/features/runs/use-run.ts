import type { Happening } from '@fleam/contract/bench'
import type { Run, Weighing } from '@fleam/contract/runs'
import type { TakenLoad } from '@fleam/contract/scales'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo } from 'react'
import { newId } from '../../api/new-id.ts'
import { runQuery, useSession } from '../../api/queries.ts'
import { addToRun } from '../../live/use-live.ts'
import type { OutboxWhat } from '../../outbox/outbox-line.ts'
import { outbox, useOutbox } from '../../outbox/tablet-outbox.ts'
import { withWaiting } from '../../outbox/with-waiting.ts'

/** A run as it stands on the server, with what this tablet has not sent yet. */
export function useRun(id: string) {
  const query = useQuery(runQuery(id))
  const { lines } = useOutbox()
  const run = useMemo(() => query.data && withWaiting(query.data, lines), [query.data, lines])
  return { run, error: query.error, refetch: query.refetch }
}

/** Puts weights into tubs, moves them, takes them back and notes what happens; at once on the screen and in order on the server. */
export function useWeighing(run: Run) {
  const queryClient = useQueryClient()
  const { person } = useSession()
  useEffect(() => {
    return outbox.whenStored((line, stored) => {
      if (line.runId !== undefined && !('lot' in stored || 'followOn' in stored || 'picture' in stored))
        addToRun(queryClient, line.runId, stored)
    })
  }, [queryClient])
  const by = { id: person.id, name: person.name }
  const put = (what: OutboxWhat, id = newId()) => {
    void outbox.post({ id, runId: run.id, at: new Date().toISOString(), person: by, ...what })
    return id
  }
  return {
    weighIn: (tubId: string, weight: { tenths: number; entered: string }, piece: number | null, load: TakenLoad | null) =>
      put({ kind: 'weighing', tubId, tenths: weight.tenths, entered: weight.entered, piece, load }),
    takeBack: ({ id, tubId, tenths, entered, piece }: Weighing) => put({ kind: 'reversal', reversesId: id, tubId, tenths, entered, piece }),
    movePiece: ({ id, tubId: fromTubId, tenths, entered, piece }: Weighing, to: { tubId: string; piece: number | null }) =>
      put({ kind: 'move', reversalId: newId(), weighingId: id, fromTubId, tubId: to.tubId, tenths, entered, piece: to.piece ?? piece }),
    note: (what: Happening) => put({ kind: 'event', what }),
  }
}
