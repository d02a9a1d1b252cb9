import { connect } from 'node:net'
import { setTimeout as pause } from 'node:timers/promises'
import Fastify from 'fastify'
import type { SignedIn } from '../src/http/access.ts'
import { openEventStream } from '../src/http/event-stream.ts'
import type { OpenStreams } from '../src/http/open-streams.ts'

/** A server of streams alone: one with a cookie stays open, the session of one without ends soon after. */
async function streamServer() {
  const app = Fastify({ forceCloseConnections: true })
  app.decorateRequest('signedIn', null)
  app.addHook('onRequest', async (request) => {
    request.signedIn = { sessionId: request.headers.cookie === undefined ? 'ending' : 'standing' } as SignedIn
  })
  const streams: OpenStreams = {
    add(sessionId, end) {
      if (sessionId === 'ending') setTimeout(end, 5)
      return () => undefined
    },
    count: () => 0,
    close: () => undefined,
  }
  app.get('/stream', (request, reply) => {
    openEventStream(request, reply, streams, 5)
  })
  const url = new URL(await app.listen({ port: 0, host: '127.0.0.1' }))
  return { app, port: Number(url.port) }
}

test('of two streams in a row on one connection the second may end first, and nothing is written after', async () => {
  const { app, port } = await streamServer()
  const failures: unknown[] = []
  const fail = (error: unknown) => failures.push(error)
  process.on('uncaughtException', fail)
  const socket = connect(port, '127.0.0.1')
  let heard = ''
  socket.setEncoding('utf8').on('data', (text: string) => {
    heard += text
  })
  const ask = (more: string) => `GET /stream HTTP/1.1\r\nhost: x\r\n${more}\r\n`
  socket.write(ask('cookie: a=b\r\n') + ask(''))
  await pause(200)
  process.off('uncaughtException', fail)
  expect(failures).toEqual([])
  // the first goes on beating; the second waits for its turn on the connection
  expect(heard.match(/retry: 1000/g)?.length).toBe(1)
  expect(heard.split(':\n\n').length).toBeGreaterThan(3)
  socket.destroy()
  await app.close()
})
