export interface ReadEvent {
  event: string
  data: unknown
  id: string | undefined
}

/** Reads a stream of server-sent events, one kind at a time, in order. */
export interface EventReader {
  next(event: string): Promise<ReadEvent>
  waiting(event: string): number
  close(): void
}

const patienceMs = 5000

export async function readEvents(url: string, cookie: string, lastEventId?: string): Promise<EventReader> {
  const stop = new AbortController()
  const response = await fetch(url, {
    headers: { cookie, ...(lastEventId ? { 'last-event-id': lastEventId } : {}) },
    signal: stop.signal,
  })
  if (!response.body) throw new Error('The stream did not open.')
  const events: ReadEvent[] = []
  const watchers = new Set<() => void>()
  void follow(response.body, (event) => {
    events.push(event)
    for (const watcher of watchers) watcher()
  }).catch(() => undefined)
  return {
    next: (kind) =>
      new Promise((resolve, reject) => {
        const look = () => {
          const at = events.findIndex((event) => event.event === kind)
          const [found] = at < 0 ? [] : events.splice(at, 1)
          if (!found) return
          clearTimeout(timer)
          watchers.delete(look)
          resolve(found)
        }
        const timer = setTimeout(() => reject(new Error(`No “${kind}” came in ${patienceMs} ms.`)), patienceMs)
        watchers.add(look)
        look()
      }),
    waiting: (kind) => events.filter((event) => event.event === kind).length,
    close: () => stop.abort(),
  }
}

async function follow(body: ReadableStream<Uint8Array>, onEvent: (event: ReadEvent) => void): Promise<void> {
  const decoder = new TextDecoder()
  let text = ''
  for await (const chunk of body) {
    text += decoder.decode(chunk, { stream: true })
    const blocks = text.split('\n\n')
    text = blocks.pop() ?? ''
    for (const block of blocks) {
      const field = (name: string) =>
        block
          .split('\n')
          .find((line) => line.startsWith(`${name}: `))
          ?.slice(name.length + 2)
      const event = field('event')
      if (event) onEvent({ event, data: JSON.parse(field('data') ?? 'null'), id: field('id') })
    }
  }
}
