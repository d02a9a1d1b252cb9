import type { BenchEvent } from '@fleam/contract/bench'
import type { Run, Weighing } from '@fleam/contract/runs'

/** Whether what others weigh arrives by itself just now. */
export type LiveState = 'connecting' | 'live' | 'away'

export interface LiveListener {
  onState(state: LiveState): void
  /** The stream has begun, or begun again: what was missed must be read. */
  onReady(): void
  onWeighing(weighing: Weighing, runId: string): void
  onEvent(event: BenchEvent, runId: string): void
}

/** What is used of the browser's event stream. */
export interface EventStream {
  addEventListener(name: string, listener: (message: { data: string }) => void): void
  onerror: ((event: never) => void) | null
  readyState: number
  close(): void
}

const closed = 2
const silenceMs = 4000

/**
 * Follows a run as others work on it, and comes back by itself.
 * @param runId every run of the kitchen without one
 * @param openStream opens the stream of a path
 * @returns what ends it
 */
export function followRun(runId: string | undefined, listener: LiveListener, openStream: (path: string) => EventStream): () => void {
  let stream: EventStream | undefined
  let retry: ReturnType<typeof setTimeout> | undefined
  const open = () => {
    const opened = openStream(runId === undefined ? '/api/v1/live' : `/api/v1/live?runId=${runId}`)
    stream = opened
    opened.addEventListener('ready', () => {
      listener.onState('live')
      listener.onReady()
    })
    opened.addEventListener('weighing', ({ data }) => {
      const { weighing, runId: of } = JSON.parse(data) as { weighing: Weighing; runId: string }
      listener.onWeighing(weighing, of)
    })
    opened.addEventListener('bench', ({ data }) => {
      const { event, runId: of } = JSON.parse(data) as { event: BenchEvent; runId: string }
      listener.onEvent(event, of)
    })
    opened.onerror = () => {
      listener.onState('away')
      // a stream that was refused, such as by a session that ran out, does not come back by itself
      if (opened.readyState === closed) retry = setTimeout(open, silenceMs)
    }
  }
  open()
  return () => {
    clearTimeout(retry)
    stream?.close()
  }
}

/** What the server has stored, put into the run that is shown; what is there already stays as it is. */
export function withStored(run: Run, stored: { weighings: Weighing[] } | { event: BenchEvent }): Run {
  if ('event' in stored) {
    return run.events.some((event) => event.id === stored.event.id) ? run : { ...run, events: [...run.events, stored.event] }
  }
  const fresh = stored.weighings.filter((weighing) => !run.weighings.some((line) => line.id === weighing.id))
  return fresh.length === 0 ? run : { ...run, weighings: [...run.weighings, ...fresh] }
}
