import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { type APIRequestContext, test as base, expect, type Page } from '@playwright/test'
import { createConnection } from 'mariadb'
import { freePort } from '../scripts/mariadb.mjs'

const root = join(import.meta.dirname, '..')

/** The built server on a database of its own; it can be killed and started again on the same port. */
export interface Fleam {
  url: string
  kill(): Promise<void>
  start(): Promise<void>
}

async function openFleam(demo: boolean): Promise<Fleam & { close(): Promise<void> }> {
  const server = process.env.FLEAM_TEST_DATABASE ?? ''
  const name = `fleam_test_${randomUUID().replaceAll('-', '')}`
  const run = async (sql: string) => {
    const { hostname, port, username, password } = new URL(server)
    const connection = await createConnection({ host: hostname, port: Number(port), user: username, password })
    await connection.query(sql)
    await connection.end()
  }
  await run(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`)
  const port = await freePort()
  const url = `http://127.0.0.1:${port}`
  let child: ChildProcess
  const start = async () => {
    const env = { ...process.env, DATABASE_URL: `${server}${name}`, PORT: String(port), HOST: '127.0.0.1', FLEAM_DEMO: demo ? '1' : '0' }
    child = spawn(process.execPath, [join(root, 'scripts/serve.mjs')], { cwd: root, env, stdio: 'ignore' })
    for (let tries = 0; tries < 400; tries += 1) {
      if (
        await fetch(`${url}/api/v1/health`).then(
          (answer) => answer.ok,
          () => false,
        )
      )
        return
      await pause(50)
    }
    throw new Error('The server did not start.')
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
    async close() {
      await kill()
      await run(`DROP DATABASE ${name}`)
    },
  }
}

export const test = base.extend<{ emptyFleam: Fleam }, { fleam: Fleam }>({
  fleam: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the fixtures off the pattern
    async ({}, use) => {
      const fleam = await openFleam(true)
      await use(fleam)
      await fleam.close()
    },
    { scope: 'worker' },
  ],
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the fixtures off the pattern
  emptyFleam: async ({}, use) => {
    const fleam = await openFleam(false)
    await use(fleam)
    await fleam.close()
  },
  baseURL: async ({ fleam }, use) => use(fleam.url),
})
export { expect }

/** Steps in as one of the people whom the demo's sign-in page offers. */
export async function stepIn(page: Page, name: string): Promise<void> {
  await page.goto('/sign-in')
  await page.getByRole('button', { name }).click()
  await expect(page.getByRole('heading', { name: 'On the bench' })).toBeVisible()
}

export async function receive(
  page: Page,
  { billed = '2950', received = '2936', lot = '14-B', sheet = 'Beef tenderloin, traditional' } = {},
): Promise<void> {
  await page.goto('/receive')
  await page.getByLabel('Cut sheet').selectOption({ label: sheet })
  await page.getByLabel('Billed weight').fill(billed)
  await page.getByLabel('Received weight').fill(received)
  await page.getByLabel('Core temperature').fill('2.8')
  await page.getByLabel('Lot').fill(lot)
  await page.getByRole('button', { name: 'To the bench' }).click()
  await expect(page.getByRole('region', { name: 'Tubs' })).toBeVisible()
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
  weighings: { id: string; tenths: number; reversesId: string | null }[]
  tubs: { id: string; name: string }[]
}

/** The run whose bench is open, as the server has it. */
export async function storedRun(page: Page, request: APIRequestContext = page.request): Promise<StoredRun> {
  const id = /(?:bench|runs)\/([^/]+)/.exec(page.url())?.[1]
  return (await request.get(`/api/v1/runs/${id}`)).json()
}
