import { mayRecover, messageOf, type ProblemFailure, send, Unreachable } from '../src/api/http.ts'
import { readSaid, say, unsay, watchSaid } from '../src/ui/toasts.ts'

/** The server, or something in between, answers so. */
function answering(status: number, contentType: string | null, body: string | null): void {
  const headers = new Headers(contentType === null ? [] : [['content-type', contentType]])
  globalThis.fetch = async () => new Response(body, { status, headers })
}

const outcome = (path = '/runs') =>
  send('POST', path, { id: 'x' }).then(
    (answer) => ({ answer }),
    (error: unknown) => ({ error }),
  )

describe('an answer', () => {
  test('is the server’s where it is JSON, or nothing where nothing is to be said', async () => {
    answering(201, 'application/json; charset=utf-8', '{"id":"x"}')
    expect(await outcome()).toEqual({ answer: { id: 'x' } })
    answering(204, null, null)
    expect(await outcome()).toEqual({ answer: undefined })
  })

  test.each([
    [200, 'text/html', '<h1>Welcome to the guest network</h1>'],
    [403, 'text/html', '<h1>Sign in to the guest network</h1>'],
    [502, 'text/plain', 'Bad gateway'],
    [200, 'application/json', 'cut o'],
    [500, 'application/json', '{"error":"not ours"}'],
    [200, null, ''],
  ])('of %i %s that is not ours is none: it is tried again', async (status, contentType, body) => {
    answering(status, contentType, body)
    const { error } = (await outcome()) as { error: unknown }
    expect(error).toBeInstanceOf(Unreachable)
    expect(mayRecover(error)).toBe(true)
  })

  test('that refuses is told with its reason, and is tried again only where that can help', async () => {
    const problem = { type: 'urn:fleam:problem:run-closed', title: 'This run is closed.', detail: 'Maren finished it.', status: 409 }
    answering(409, 'application/problem+json', JSON.stringify(problem))
    const { error } = (await outcome()) as { error: ProblemFailure }
    expect([error.kind, mayRecover(error), messageOf(error)]).toEqual(['run-closed', false, 'This run is closed. Maren finished it.'])
    answering(503, 'application/problem+json', JSON.stringify({ ...problem, type: 'urn:fleam:problem:database-away', status: 503 }))
    expect(mayRecover(((await outcome()) as { error: unknown }).error)).toBe(true)
  })

  test('that never comes leaves what was typed', async () => {
    globalThis.fetch = async () => Promise.reject(new TypeError('fetch failed'))
    const { error } = (await outcome()) as { error: unknown }
    expect(messageOf(error)).toContain('What you typed is still here')
  })
})

test('of words about what was done the last three stand, each until it is taken away', () => {
  let told = 0
  const stop = watchSaid(() => {
    told += 1
  })
  for (const words of ['one', 'two', 'three', 'four']) say(words, async () => words)
  expect(readSaid().map(({ words }) => words)).toEqual(['two', 'three', 'four'])
  unsay(readSaid()[1]?.id ?? 0)
  expect(readSaid().map(({ words }) => words)).toEqual(['two', 'four'])
  stop()
  say('unheard')
  expect(told).toBe(5)
})
