import type { Page } from '@playwright/test'
import { expect, type Fleam, receiveByHand, stepIn, storedRun, test, tubOf, weighByKeyboard } from './fleam.ts'

test.use({ serviceWorkers: 'allow' })

/** Waits until the tablet keeps the pages itself. */
async function pagesKept(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const registration = await navigator.serviceWorker.ready
    while (registration.active?.state !== 'activated') await new Promise((resolve) => setTimeout(resolve, 20))
  })
}

async function killFor(fleam: Fleam, work: () => Promise<void>): Promise<void> {
  await fleam.kill()
  try {
    await work()
  } finally {
    await fleam.start()
  }
}

test('the app opens without a server, shows the run as it was, and what is weighed then is stored once it is back', async ({
  page,
  fleam,
}) => {
  await stepIn(page, 'Ines Calloway')
  await receiveByHand(page)
  await weighByKeyboard(page, '184', 1)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
  await pagesKept(page)
  // what was seen is gathered for a second before it is kept
  await page.waitForTimeout(1500)
  const address = page.url()
  await killFor(fleam, async () => {
    await page.goto('about:blank')
    await page.goto(address)
    await expect(tubOf(page, 'Centre steaks')).toContainText('184')
    await weighByKeyboard(page, '176', 1)
    await weighByKeyboard(page, '612', 2)
    await expect(page.getByRole('button', { name: '2 waiting on this tablet' })).toBeVisible()
    await page.reload()
    await expect(tubOf(page, 'Head roast')).toContainText('612')
    await page.goto('/cut-sheets')
    await expect(page.getByRole('link', { name: /Turkey, parts/ })).toBeVisible()
    await page.goto(address)
  })
  // after a while without an answer the tablet asks every five seconds
  await expect(page.getByText('waiting on this tablet')).toHaveCount(0, { timeout: 60_000 })
  await expect.poll(async () => (await storedRun(page)).weighings.map((line) => line.tenths)).toEqual([1840, 1760, 6120])
})

test('two tablets weigh thirty times each with the server killed in between: each once, in order', async ({
  page,
  browser,
  fleam,
  baseURL,
}) => {
  test.setTimeout(400_000)
  await stepIn(page, 'Ines Calloway')
  await receiveByHand(page, { billed: '9kg', received: '9kg', pieces: '3' })
  const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(other, 'Jory Penhale')
  await other.goto(page.url())
  await expect(tubOf(other, 'Centre steaks')).toBeVisible()
  const weighBoth = async (from: number, to: number) => {
    for (let index = from; index < to; index += 1) {
      await weighByKeyboard(page, String(100 + index), 1)
      await weighByKeyboard(other, String(50 + index), 3)
    }
  }
  await weighBoth(0, 10)
  await killFor(fleam, () => weighBoth(10, 20))
  await weighBoth(20, 24)
  await killFor(fleam, async () => {
    await other.context().setOffline(true)
    await weighBoth(24, 30)
  })
  await other.context().setOffline(false)
  await expect.poll(async () => (await storedRun(page)).weighings.length, { timeout: 60_000 }).toBe(60)
  const { weighings, tubs } = await storedRun(page)
  const into = (name: string) =>
    weighings.filter((line) => line.tubId === tubs.find((tub) => tub.name === name)?.id).map((line) => line.tenths)
  expect(into('Centre steaks')).toEqual(Array.from({ length: 30 }, (_, index) => (100 + index) * 10))
  expect(into('Tournedos and tips')).toEqual(Array.from({ length: 30 }, (_, index) => (50 + index) * 10))
  await expect(tubOf(page, 'Tournedos and tips')).toContainText('1 935')
})

test('a session that ran out: what was weighed waits, and goes out under who weighed it', async ({ page }) => {
  await stepIn(page, 'Pip Marsden')
  await receiveByHand(page)
  const { id } = await storedRun(page)
  await page.context().clearCookies()
  await weighByKeyboard(page, '184', 1)
  await page.getByRole('button', { name: '1 waiting on this tablet' }).click()
  await page.getByRole('link', { name: 'Sign in' }).click()
  await page.getByRole('button', { name: 'Jory Penhale' }).click()
  await expect(tubOf(page, 'Centre steaks')).toBeVisible()
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
  const run = await (await page.request.get(`/api/v1/runs/${id}`)).json()
  expect(run.weighings.map((line: { tenths: number; by: { name: string } }) => [line.tenths, line.by.name])).toEqual([
    [1840, 'Pip Marsden'],
  ])
})

test('who was at it when the session ran out signs in again on the same page, and what waited goes out', async ({ page }) => {
  await stepIn(page, 'Pip Marsden')
  await receiveByHand(page)
  await page.context().clearCookies()
  await weighByKeyboard(page, '184', 1)
  const again = page.getByRole('form', { name: 'Sign in again' })
  await again.getByLabel('PIN or passphrase of Pip Marsden').fill('0000')
  await again.getByRole('button', { name: 'Sign in again' }).click()
  await expect(again).toContainText('do not go together')
  await page.goto(page.url())
  await expect(tubOf(page, 'Centre steaks')).toContainText('184')
  await again.getByLabel('PIN or passphrase of Pip Marsden').fill(await secretOf(page, 'Pip Marsden'))
  await again.getByRole('button', { name: 'Sign in again' }).click()
  await expect(again).toHaveCount(0)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
})

/** What the demo gives this person to sign in with. */
async function secretOf(page: Page, name: string): Promise<string> {
  const { people } = await (await page.request.get('/api/v1/demo')).json()
  return people.find((person: { name: string }) => person.name === name).secret
}

test('signing out holds though the server does not hear of it: a reload does not open as the same person', async ({ page }) => {
  await stepIn(page, 'Pip Marsden')
  await page.route('**/api/v1/session', (route) => (route.request().method() === 'DELETE' ? route.abort() : route.continue()))
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByRole('heading', { name: 'Who is at the bench?' })).toBeVisible()
  await page.goto('/log')
  await expect(page.getByRole('heading', { name: 'Who is at the bench?' })).toBeVisible()
  expect((await page.request.get('/api/v1/session')).status()).toBe(200)
  await page.unroute('**/api/v1/session')
  await page.goto('/log')
  await expect(page.getByRole('heading', { name: 'Who is at the bench?' })).toBeVisible()
  await expect.poll(async () => (await page.request.get('/api/v1/session')).status()).toBe(401)
})

test('a clock that is two days ahead refuses nothing', async ({ page }) => {
  await page.addInitScript(() => {
    const now = Date.now
    Date.now = () => now() + 2 * 86_400_000
    const Real = Date
    globalThis.Date = new Proxy(Real, {
      construct: (target, args) => (args.length === 0 ? new target(Real.now()) : Reflect.construct(target, args)),
    })
  })
  await stepIn(page, 'Pip Marsden')
  await page.route('**/api/v1/runs', (route) => {
    const body = { ...route.request().postDataJSON(), startedAt: new Date().toISOString() }
    return route.request().method() === 'POST' ? route.continue({ postData: body }) : route.continue()
  })
  await receiveByHand(page)
  await weighByKeyboard(page, '184', 1)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
  await expect(page.getByText('not accepted')).toHaveCount(0)
})

test('a lead opens a closed run for a weighing that came late', async ({ page, browser, baseURL }) => {
  await page.route('**/api/v1/live**', (route) => route.abort('connectionrefused'))
  await stepIn(page, 'Adaeze Lindqvist')
  await receiveByHand(page)
  await weighByKeyboard(page, '2.88kg', 1)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
  const run = await storedRun(page)
  const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(other, 'Tobias Quill')
  const finished = await other.request.post(`/api/v1/runs/${run.id}/finish`, { data: { version: run.version, minutes: 20 } })
  expect(finished.status()).toBe(200)
  await weighByKeyboard(page, '41', 8)
  await page.getByRole('button', { name: '1 not accepted' }).click()
  await page.getByRole('button', { name: 'Open the run and put it in' }).click()
  await expect.poll(async () => (await storedRun(page)).weighings.map((line) => line.tenths)).toEqual([28_800, 410])
})
