import type { FastifyReply, FastifyRequest } from 'fastify'
import { signedIn } from './access.ts'
import type { OpenStreams } from './open-streams.ts'

export interface EventStream {
  send(event: string, data: unknown, id?: string): void
  end(): void
  /** Called once when the listener is gone or the stream was ended. */
  onEnd(work: () => void): void
}

const heartbeatMs = 15_000
/** A listener that does not read is let go; it comes back by itself and resumes. */
const mostUnread = 1024 * 1024

/**
 * Opens a stream of server-sent events to a signed-in listener; it ends when the session does. Nothing is written after its end,
 * which on a connection with several requests in a row can be long before it closes.
 */
export function openEventStream(request: FastifyRequest, reply: FastifyReply, streams: OpenStreams, beatMs = heartbeatMs): EventStream {
  let end = () => {}
  const leave = streams.add(signedIn(request).sessionId, () => end())
  reply.hijack()
  const { raw } = reply
  // what every answer carries, which a stream of one's own would leave out
  raw.writeHead(200, {
    ...(reply.getHeaders() as Record<string, string>),
    'content-type': 'text/event-stream; charset=utf-8',
    'cache-control': 'no-store',
    'x-accel-buffering': 'no',
  })
  const write = (text: string) => {
    if (raw.destroyed || raw.writableEnded) return
    raw.write(text)
    if (raw.writableLength > mostUnread) raw.destroy()
  }
  raw.on('error', () => raw.destroy())
  write('retry: 1000\n\n')
  const work: (() => void)[] = []
  const heartbeat = setInterval(() => write(':\n\n'), beatMs)
  end = () => {
    clearInterval(heartbeat)
    leave()
    raw.end()
  }
  raw.once('close', () => {
    clearInterval(heartbeat)
    leave()
    for (const one of work) one()
  })
  return {
    send: (event, data, id) => write(`${id === undefined ? '' : `id: ${id}\n`}event: ${event}\ndata: ${JSON.stringify(data)}\n\n`),
    end: () => end(),
    onEnd(one) {
      if (raw.destroyed) one()
      else work.push(one)
    },
  }
}
