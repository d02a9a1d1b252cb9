import type { BenchEvent } from '@fleam/contract/bench'
import type { Weighing } from '@fleam/contract/runs'
import { type QueryClient, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { picturesKey, runQuery } from '../api/queries.ts'
import { followRun, type LiveState, withStored } from './live-run.ts'

/** Follows a run as others work on it. While the server is away the page goes on with what it has. */
export function useLive(runId: string, onOther?: (weighing: Weighing) => void): LiveState {
  const queryClient = useQueryClient()
  const [state, setState] = useState<LiveState>('connecting')
  useEffect(() => {
    const readAgain = () => void queryClient.invalidateQueries({ queryKey: runQuery(runId).queryKey })
    return followRun(
      runId,
      {
        onState: setState,
        onReady: readAgain,
        onWeighing(weighing) {
          addToRun(queryClient, runId, { weighings: [weighing] })
          onOther?.(weighing)
        },
        onEvent(event) {
          if (event.what.kind === 'changed' && event.what.what === 'pictures')
            void queryClient.invalidateQueries({ queryKey: picturesKey(runId) })
          else if (event.what.kind === 'changed') readAgain()
          else addToRun(queryClient, runId, { event })
        },
      },
      (path) => new EventSource(path),
    )
  }, [runId, queryClient])
  return state
}

/** Puts what the server has stored into the run that is shown. */
export function addToRun(queryClient: QueryClient, runId: string, stored: { weighings: Weighing[] } | { event: BenchEvent }): void {
  queryClient.setQueryData(runQuery(runId).queryKey, (known) => known && withStored(known, stored))
}
