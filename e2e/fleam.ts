import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { AxeBuilder } from '@axe-core/playwright'
import { type APIRequestContext, test as base, expect, type Page } from '@playwright/test'
import { healthy } from '../scripts/healthy.mjs'
import { freePort } from '../scripts/mariadb.mjs'
import { makeTestDatabase } from '../scripts/test-database.mjs'

const root = join(import.meta.dirname, '..')

/** The built server on a database of its own; it can be killed and started again on the same port. */
export interface Fleam {
  url: string
  kill(): Promise<void>
  start(): Promise<void>
  /** The scale of its benches. */
  scale: TestScale
  /** Its label printer. */
  printer: TestPrinter
  /** Who sells to it, and has its prices at an address. */
  supplier: TestSupplier
}

/** A simulated label printer that a test gives troubles to. */
export interface TestPrinter {
  behave(change: { labelsLeft?: number; isOnline?: boolean }): Promise<void>
  /** Labels that came out. */
  printed(): Promise<number>
}

/** A simulated supplier that a test gives troubles to. */
export interface TestSupplier {
  behave(change: { shortShare?: number; daysOn?: number; isOnline?: boolean }): Promise<void>
}

/** A simulated bench scale that a test puts things on. */
export interface TestScale {
  put(grams: number): Promise<void>
  clear(): Promise<void>
  behave(change: object): Promise<void>
}

async function openFleam(demo: boolean): Promise<Fleam & { close(): Promise<void> }> {
  const database = makeTestDatabase({ demo })
  const port = await freePort()
  const url = `http://127.0.0.1:${port}`
  const [scale, printer, supplier] = await Promise.all([openScale(), openPrinter(), openSupplier()])
  let child: ChildProcess
  const start = async () => {
    const env = {
      ...process.env,
      DATABASE_URL: database.url,
      PORT: String(port),
      HOST: '127.0.0.1',
      FLEAM_DEMO: demo ? '1' : '0',
      FLEAM_SCALE: scale.address,
      FLEAM_PRINTER: printer.address,
      FLEAM_SUPPLIER: supplier.address,
    }
    child = spawn(process.execPath, [join(root, 'server/dist/main.js')], { cwd: root, env, stdio: 'ignore' })
    await healthy(`${url}/api/v1`)
  }
  const kill = async () => {
    const gone = new Promise((resolve) => child.once('exit', resolve))
    child.kill('SIGKILL')
    await gone
  }
  await start()
  return {
    url,
    kill,
    start,
    scale,
    printer,
    supplier,
    async close() {
      await kill()
      scale.stop()
      printer.stop()
      supplier.stop()
      database.drop()
    },
  }
}

/** A simulated device as a process of its own, with what its page understands. */
async function openDevice(file: string, name: string, isReady: (page: string) => Promise<boolean>) {
  const [port, pagePort] = [await freePort(), await freePort()]
  const env = { ...process.env, [`${name}_PORT`]: String(port), [`${name}_PAGE_PORT`]: String(pagePort) }
  const child = spawn(process.execPath, [join(root, file), '--with-parent'], { cwd: root, env, stdio: ['pipe', 'ignore', 'ignore'] })
  const page = `http://127.0.0.1:${pagePort}`
  for (let tries = 0; tries < 200; tries += 1) {
    if (await isReady(page).catch(() => false)) break
    await pause(50)
  }
  return { address: `127.0.0.1:${port}`, page, stop: () => void child.kill('SIGTERM') }
}

async function askDevice(page: string, method: string, path: string, body?: object): Promise<Response> {
  const answer = await fetch(`${page}${path}`, { method, ...(body ? { body: JSON.stringify(body) } : {}) })
  if (!answer.ok) throw new Error(`The device answered ${answer.status} to ${method} ${path}.`)
  return answer
}

async function openScale(): Promise<TestScale & { address: string; stop(): void }> {
  const still = { settleSeconds: 0.02, noiseGrams: 0, driftGramsPerMinute: 0 }
  const device = await openDevice('scripts/scale.mjs', 'SCALE', async (page) => (await askDevice(page, 'POST', '/behave', still)).ok)
  const ask = (method: string, path: string, body?: object) => askDevice(device.page, method, path, body)
  return {
    ...device,
    put: async (grams) => void (await ask('POST', '/things', { name: 'a piece', grams })),
    clear: async () => {
      await ask('DELETE', '/things')
      await ask('POST', '/clear-tare')
    },
    behave: async (change) => void (await ask('POST', '/behave', change)),
  }
}

async function openPrinter(): Promise<TestPrinter & { address: string; stop(): void }> {
  const device = await openDevice('scripts/printer.mjs', 'PRINTER', async (page) => (await askDevice(page, 'GET', '/state')).ok)
  return {
    ...device,
    behave: async (change) => void (await askDevice(device.page, 'POST', '/behave', change)),
    async printed() {
      const { jobs } = (await (await askDevice(device.page, 'GET', '/state')).json()) as { jobs: { labels: number; state: string }[] }
      return jobs.filter(({ state }) => state === 'completed').reduce((sum, { labels }) => sum + labels, 0)
    },
  }
}

async function openSupplier(): Promise<TestSupplier & { address: string; stop(): void }> {
  const device = await openDevice('scripts/supplier.mjs', 'SUPPLIER', async (page) => (await askDevice(page, 'GET', '/state')).ok)
  return { ...device, behave: async (change) => void (await askDevice(device.page, 'POST', '/behave', change)) }
}

export const test = base.extend<{ emptyFleam: Fleam; clearedScale: undefined }, { fleam: Fleam }>({
  fleam: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the fixtures off the pattern
    async ({}, use) => {
      const fleam = await openFleam(true)
      await use(fleam)
      await fleam.close()
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the fixtures off the pattern
  emptyFleam: async ({}, use) => {
    const fleam = await openFleam(false)
    await use(fleam)
    await fleam.close()
  },
  baseURL: async ({ fleam }, use) => use(fleam.url),
  clearedScale: [
    async ({ fleam }, use) => {
      await fleam.scale.clear()
      await use(undefined)
    },
    { auto: true },
  ],
})
export { expect }

/** Steps in as one of the people whom the demo's sign-in page offers, without that page. */
export async function stepIn(page: Page, name: string): Promise<void> {
  const { people } = (await (await page.request.get('/api/v1/demo')).json()) as { people: { name: string; secret: string }[] }
  const secret = people.find((person) => person.name === name)?.secret
  expect((await page.request.post('/api/v1/session', { data: { name, secret } })).status()).toBe(201)
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'On the bench' })).toBeVisible()
}

interface Delivery {
  item?: string
  billed?: string
  received?: string
  lot?: string
  sheet?: string
  pieces?: string
}
const usualDelivery = {
  item: 'Beef tenderloin, peeled, side muscle on',
  billed: '2950',
  received: '2936',
  lot: '14-B',
  sheet: 'Beef tenderloin, traditional',
  pieces: '1',
}

/** Weighs a delivery in, without the page that does it, and opens its bench. */
export async function receive(page: Page, delivery: Delivery = {}): Promise<void> {
  const { item, billed, received, lot, sheet, pieces } = { ...usualDelivery, ...delivery }
  const listed = async <Entry>(path: string) => ((await (await page.request.get(`/api/v1${path}`)).json()) as { entries: Entry[] }).entries
  const items = await listed<{ id: string; name: string; latestQuote: { supplier: { id: string } | null } | null }>('/items?limit=200')
  const sheets = await listed<{ id: string; body: { name: string } }>('/cut-sheets?limit=200')
  const bought = items.find(({ name }) => name === item)
  const id = randomUUID()
  const answer = await page.request.post('/api/v1/runs', {
    data: {
      ...{ id, itemId: bought?.id, cutSheetId: sheets.find(({ body }) => body.name === sheet)?.id, lot },
      supplierId: bought?.latestQuote?.supplier?.id ?? null,
      billed: /[a-z]/.test(billed) ? billed : `${billed} g`,
      received: /[a-z]/.test(received) ? received : `${received} g`,
      ...{ pieces: Number(pieces), coreTempC: 2.8, weightsChecked: true, startedAt: new Date().toISOString() },
    },
  })
  expect(answer.status(), await answer.text()).toBe(201)
  await page.goto(`/bench/${id}`)
  await expect(page.getByRole('region', { name: 'Tubs' })).toBeVisible()
}

/** The same on the page. */
export async function receiveByHand(page: Page, delivery: Delivery = {}): Promise<void> {
  const { item, billed, received, lot, sheet, pieces } = { ...usualDelivery, ...delivery }
  await page.goto('/receive')
  if (delivery.item) await page.getByLabel('What came').selectOption({ label: item })
  await page.getByLabel('Pieces, how many').fill(pieces)
  await page.getByLabel('Cut sheet').selectOption({ label: sheet })
  await page.getByLabel('Billed weight').fill(billed)
  await page.getByLabel('Received weight').fill(received)
  await page.getByLabel('Core temperature').fill('2.8')
  await page.getByLabel('Lot').fill(lot)
  await page.getByRole('button', { name: 'To the bench' }).click()
  await expect(page.getByRole('region', { name: 'Tubs' })).toBeVisible()
}

/**
 * What bars somebody's way on a page. Charts are left out: their drawings are not read out, and their tables are hundreds of plain
 * cells. `rules` are those of axe that are held against it, all unless given. Fleam has no frames, so that axe may run in the page itself rather than in one of its own each time.
 */
export async function barriers(page: Page, rules?: string[]): Promise<string[]> {
  const axe = new AxeBuilder({ page })
    .exclude('.chart-drawing')
    .exclude('.chart .visually-hidden')
    .options({ resultTypes: ['violations'] })
    .setLegacyMode(true)
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze()
  return violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)
}

export const tubOf = (page: Page, name: string) => page.getByRole('region', { name: 'Tubs' }).getByRole('button', { name })

/** Types a weight on the pad and taps the tub it goes into. */
export async function weighByTouch(page: Page, weight: string, tub: string): Promise<void> {
  for (const key of weight) await page.locator('.keypad').getByRole('button', { name: key, exact: true }).tap()
  await tubOf(page, tub).tap()
}

export async function weighByKeyboard(page: Page, weight: string, tub: number): Promise<void> {
  await page.keyboard.type(weight)
  await page.keyboard.press(`Alt+Digit${tub}`)
}

export interface StoredRun {
  id: string
  status: string
  version: number
  fish: object | null
  weighings: { id: string; tubId: string; tenths: number; reversesId: string | null; movedFromId: string | null; by: { name: string } }[]
  tubs: { id: string; name: string }[]
}

/** The run whose bench is open, as the server has it. */
export async function storedRun(page: Page, request: APIRequestContext = page.request): Promise<StoredRun> {
  const id = /(?:bench|runs)\/([^/]+)/.exec(page.url())?.[1]
  return (await request.get(`/api/v1/runs/${id}`)).json()
}
