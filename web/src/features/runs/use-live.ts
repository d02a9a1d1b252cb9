import type { BenchEvent } from '@fleam/contract/bench'
import type { Run, Weighing } from '@fleam/contract/runs'
import { type QueryClient, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { runQuery } from '../../api/queries.ts'

/** Whether what others weigh arrives by itself just now. */
export type LiveState = 'connecting' | 'live' | 'away'

const silenceMs = 4000

/** Follows a run as others work on it. While the server is away the page goes on with what it has. */
export function useLive(runId: string, onOther?: (weighing: Weighing) => void): LiveState {
  const queryClient = useQueryClient()
  const [state, setState] = useState<LiveState>('connecting')
  useEffect(() => {
    let source: EventSource | undefined
    let retry: ReturnType<typeof setTimeout> | undefined
    const open = () => {
      source = new EventSource(`/api/v1/live?runId=${runId}`)
      source.addEventListener('ready', () => {
        setState('live')
        void queryClient.invalidateQueries({ queryKey: runQuery(runId).queryKey })
      })
      source.addEventListener('weighing', (message) => {
        const { weighing } = JSON.parse(message.data) as { weighing: Weighing }
        addToRun(queryClient, runId, { weighings: [weighing] })
        onOther?.(weighing)
      })
      source.addEventListener('bench', (message) => {
        const { event } = JSON.parse(message.data) as { event: BenchEvent }
        if (event.what.kind === 'changed') void queryClient.invalidateQueries({ queryKey: runQuery(runId).queryKey })
        else addToRun(queryClient, runId, { event })
      })
      source.onerror = () => {
        setState('away')
        // a stream that was refused, such as by a session that ran out, does not come back by itself
        if (source?.readyState === EventSource.CLOSED) retry = setTimeout(open, silenceMs)
      }
    }
    open()
    return () => {
      clearTimeout(retry)
      source?.close()
    }
  }, [runId, queryClient])
  return state
}

/** Puts what the server has stored into the run that is shown; what is there already stays as it is. */
export function addToRun(queryClient: QueryClient, runId: string, stored: { weighings: Weighing[] } | { event: BenchEvent }): void {
  queryClient.setQueryData(runQuery(runId).queryKey, (known) => known && withStored(known, stored))
}

function withStored(run: Run, stored: { weighings: Weighing[] } | { event: BenchEvent }): Run {
  if ('event' in stored) {
    return run.events.some((event) => event.id === stored.event.id) ? run : { ...run, events: [...run.events, stored.event] }
  }
  const fresh = stored.weighings.filter((weighing) => !run.weighings.some((line) => line.id === weighing.id))
  return fresh.length === 0 ? run : { ...run, weighings: [...run.weighings, ...fresh] }
}
