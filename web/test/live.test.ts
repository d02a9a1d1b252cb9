import type { Run, Weighing } from '@fleam/contract/runs'
import { type EventStream, followRun, type LiveState, withStored } from '../src/live/live-run.ts'

/** A stream that a test speaks through. */
function streamOf() {
  const listeners = new Map<string, (message: { data: string }) => void>()
  const stream: EventStream = {
    addEventListener: (name, listener) => void listeners.set(name, listener),
    onerror: null,
    readyState: 1,
    close: () => {
      stream.readyState = 2
    },
  }
  return { stream, tell: (name: string, data: object = {}) => listeners.get(name)?.({ data: JSON.stringify(data) }) }
}

function follow() {
  const streams: ReturnType<typeof streamOf>[] = []
  const seen: (LiveState | string)[] = []
  const end = followRun(
    'run',
    {
      onState: (state) => seen.push(state),
      onReady: () => seen.push('read again'),
      onWeighing: ({ id }) => seen.push(`weighing ${id}`),
      onEvent: ({ what }) => seen.push(`event ${what.kind}`),
    },
    () => {
      const opened = streamOf()
      streams.push(opened)
      return opened.stream
    },
  )
  return { streams, seen, end }
}

test('what others do arrives as it happens; what was missed before is read', () => {
  const { streams, seen } = follow()
  streams[0]?.tell('ready')
  streams[0]?.tell('weighing', { weighing: { id: 'w' } })
  streams[0]?.tell('bench', { event: { id: 'e', what: { kind: 'step', step: 1 } } })
  expect(seen).toEqual(['live', 'read again', 'weighing w', 'event step'])
})

test('a stream that broke comes back by itself; one that was refused is opened anew', () => {
  jest.useFakeTimers()
  const { streams, seen, end } = follow()
  const [first] = streams
  first?.stream.onerror?.(undefined as never)
  jest.advanceTimersByTime(10_000)
  expect([streams.length, seen]).toEqual([1, ['away']])
  if (first) first.stream.readyState = 2
  first?.stream.onerror?.(undefined as never)
  jest.advanceTimersByTime(5_000)
  expect(streams).toHaveLength(2)
  streams[1]?.tell('ready')
  expect(seen.slice(-2)).toEqual(['live', 'read again'])
  end()
  expect(streams[1]?.stream.readyState).toBe(2)
  jest.useRealTimers()
})

test('what is stored is put into a run once', () => {
  const run = { weighings: [{ id: 'a' }], events: [] } as unknown as Run
  const stored = withStored(run, { weighings: [{ id: 'a' } as Weighing, { id: 'b' } as Weighing] })
  expect(stored.weighings.map(({ id }) => id)).toEqual(['a', 'b'])
  expect(withStored(stored, { weighings: [{ id: 'b' } as Weighing] })).toBe(stored)
  const event = { id: 'e', sequence: 1, what: { kind: 'step', step: 1 }, at: '', by: { id: 'p', name: 'P' } } as const
  const noted = withStored(stored, { event })
  expect(withStored(noted, { event })).toBe(noted)
  expect(noted.events).toEqual([event])
})
