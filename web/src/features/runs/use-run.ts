import type { Run, Weighing } from '@fleam/contract/runs'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo, useSyncExternalStore } from 'react'
import { newId } from '../../api/new-id.ts'
import { runQuery, useSession } from '../../api/queries.ts'
import { outboxState, post, watchOutbox, whenStored, withWaiting } from './outbox.ts'

export function useOutbox() {
  return useSyncExternalStore(watchOutbox, outboxState)
}

/** A run as it stands on the server, with what this tablet has not sent yet. */
export function useRun(id: string) {
  const query = useQuery(runQuery(id))
  const { lines } = useOutbox()
  const run = useMemo(() => query.data && withWaiting(query.data, lines), [query.data, lines])
  return { run, error: query.error, refetch: query.refetch }
}

/** Puts weights into tubs and takes them back, at once on the screen and in order on the server. */
export function useWeighing(run: Run | undefined) {
  const queryClient = useQueryClient()
  const { person } = useSession()
  useEffect(() => {
    whenStored((runId, weighing) => {
      queryClient.setQueryData(runQuery(runId).queryKey, (known) => known && withStored(known, weighing))
    })
  }, [queryClient])
  const by = { id: person.id, name: person.name }
  const moment = () => new Date().toISOString()
  return {
    weighIn(tubId: string, weight: { tenths: number; entered: string }) {
      if (run) void post({ id: newId(), runId: run.id, tubId, ...weight, reversesId: null, weighedAt: moment(), person: by })
    },
    takeBack(line: Weighing) {
      if (!run) return
      const { tubId, tenths, entered } = line
      void post({ id: newId(), runId: run.id, tubId, tenths, entered, reversesId: line.id, weighedAt: moment(), person: by })
    },
  }
}

function withStored(run: Run, weighing: Weighing): Run {
  if (run.weighings.some((line) => line.id === weighing.id)) return run
  return { ...run, weighings: [...run.weighings, weighing] }
}
