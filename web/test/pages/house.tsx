import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Item } from '@fleam/contract/prices'
import type { Run } from '@fleam/contract/runs'
import { QueryClientProvider } from '@tanstack/react-query'
import { cleanup, configure, render, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { RouterProvider } from 'react-router/dom'
import { makeTestDatabase } from '../../../scripts/test-database.mjs'
import { type RunningServer, startServer } from '../../../server/test/processes.ts'
import { queryClient } from '../../src/app/query-client.ts'
import { openRouter } from '../../src/app/router.tsx'

// the machine may be a slow one
configure({ asyncUtilTimeout: 30_000 })
const { queries } = queryClient.getDefaultOptions()
// a test does not wait for a network to come back by itself
queryClient.setDefaultOptions({ queries: { ...queries, retryDelay: 10 } })

/** A kitchen of its own on the built server, and its pages, drawn in this process without a browser. */
export interface House {
  /** Steps in by name and secret: what is asked from now on is asked as that person. */
  signIn(name: string, secret: string): Promise<void>
  /** Asks the API as the person who is signed in. */
  ask<Answer>(method: string, path: string, body?: unknown): Promise<Answer>
  /** The entries of one of its lists. */
  list<Entry>(path: string): Promise<Entry[]>
  /** Draws a page, in place of the one before. */
  open(path: string): Promise<void>
  /** Goes to a page from the one that is drawn, as a link does. */
  go(path: string): Promise<void>
  /** Requests of the pages from now on: none comes through, or each as it should. */
  network(isThere: boolean): void
  /** What React, or a page, has complained of since it was last asked. */
  complaints(): string[]
  close(): Promise<void>
}

/** Complaints of the test's own: jsdom measures nothing, and answers come when they come rather than within an `act`. */
const known = [/\bact\(/, /width\(.*\) and height\(.*\) of chart/, /Not implemented: /]

export async function openHouse({ demo }: { demo: boolean }): Promise<House> {
  const database = makeTestDatabase({ demo })
  const server: RunningServer = await startServer(database.url)
  const reach = globalThis.fetch
  const cookies = new Map<string, string>()
  let isThere = true
  globalThis.fetch = async (address, init) => {
    if (!isThere) throw new TypeError('fetch failed')
    const { headers, body, method, signal } = init ?? {}
    const answer = await reach(new URL(String(address), server.url), {
      method,
      body,
      signal,
      headers: { ...(headers as Record<string, string>), cookie: [...cookies].map((one) => one.join('=')).join('; ') },
    })
    for (const given of answer.headers.getSetCookie()) {
      const [name = '', value = ''] = (given.split(';')[0] ?? '').split('=')
      if (value === '') cookies.delete(name)
      else cookies.set(name, value)
    }
    return answer
  }
  const complaints: string[] = []
  const hear = (...words: unknown[]) => {
    const text = words.map(String).join(' ')
    if (!known.some((one) => one.test(text))) complaints.push(text.slice(0, 400))
  }
  const before = { error: console.error, warn: console.warn }
  Object.assign(console, { error: hear, warn: hear })
  let router: ReturnType<typeof openRouter> | undefined
  const leave = () => {
    cleanup()
    router?.dispose()
    queryClient.clear()
  }
  const codeHasCome = () => waitFor(() => expect(router?.state.navigation.state).toBe('idle'))
  const ask: House['ask'] = async (method, path, body) => {
    const sent = body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }
    const answer = await fetch(`/api/v1${path}`, { method, ...sent })
    const text = await answer.text()
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${text}`)
    return text === '' ? undefined : JSON.parse(text)
  }
  return {
    async signIn(name, secret) {
      leave()
      await ask('POST', '/session', { name, secret })
    },
    ask,
    list: async <Entry,>(path: string) => (await ask<{ entries: Entry[] }>('GET', path)).entries,
    async open(path) {
      leave()
      window.history.pushState({}, '', path)
      router = openRouter()
      render(
        <QueryClientProvider client={queryClient}>
          <RouterProvider router={router} />
        </QueryClientProvider>,
      )
      await codeHasCome()
    },
    async go(path) {
      await router?.navigate(path)
      await codeHasCome()
    },
    network(there) {
      isThere = there
    },
    complaints: () => complaints.splice(0),
    async close() {
      leave()
      Object.assign(console, before)
      globalThis.fetch = reach
      await server.kill()
      database.drop()
    },
  }
}

/** The demo kitchen for the tests of a file: each begins with the same person at it, nothing kept on the tablet and the server there. */
export function demoHouse(name: string, secret: string): House {
  const house = {} as House
  beforeAll(async () => void Object.assign(house, await openHouse({ demo: true })))
  afterAll(() => house.close())
  beforeEach(async () => {
    sessionStorage.clear()
    localStorage.clear()
    await house.signIn(name, secret)
  })
  afterEach(() => {
    house.network(true)
    expect(house.complaints()).toEqual([])
  })
  return house
}

/** What is still fetched; draws come from a worker, which stays still here. */
export const fetching = /^Fetching (?!the draws)/

/** The page's heading, once everything it fetches has come or failed. */
export async function settledHeading(): Promise<string> {
  const heading = await screen.findByRole('heading', { level: 1 })
  await waitFor(() => expect(screen.queryByText(fetching)).toBeNull())
  return heading.textContent ?? ''
}

export const hand = userEvent.setup({ delay: null })

export const field = (name: string | RegExp) => screen.findByLabelText(name)
export const press = async (name: string | RegExp) => hand.click(await screen.findByRole('button', { name }))

/** Types into a field in place of what it holds. */
export async function fill(name: string | RegExp, text: string): Promise<void> {
  const control = await field(name)
  await hand.clear(control)
  if (text !== '') await hand.type(control, text)
}

/** What was refused of a field, as it is read out with it. */
export async function refusalOf(name: string | RegExp): Promise<string> {
  const control = await field(name)
  await waitFor(() => expect(control.getAttribute('aria-invalid')).toBe('true'))
  return document.getElementById(control.getAttribute('aria-describedby') ?? '')?.textContent ?? ''
}

/** Starts a run of a tenderloin that came at 2,936 g; `weigh` puts a weight into one of its tubs. */
export async function startTenderloin({ ask, list }: House): Promise<{ run: Run; weigh(tub: number, weight: string): Promise<unknown> }> {
  const items = await list<Item>('/items?limit=200')
  const sheets = await list<CutSheet>('/cut-sheets?limit=200')
  const run = await ask<Run>('POST', '/runs', {
    id: crypto.randomUUID(),
    itemId: items.find(({ name }) => name.startsWith('Beef tenderloin'))?.id,
    cutSheetId: sheets.find(({ slug }) => slug === 'beef-tenderloin-traditional')?.id,
    supplierId: null,
    billed: '2950 g',
    received: '2936 g',
    weightsChecked: true,
    coreTempC: 2,
    startedAt: new Date().toISOString(),
  })
  const weigh = (tub: number, weight: string) =>
    ask('POST', `/runs/${run.id}/weighings`, {
      id: crypto.randomUUID(),
      tubId: run.tubs[tub]?.id,
      weight,
      weighedAt: new Date().toISOString(),
    })
  return { run, weigh }
}
