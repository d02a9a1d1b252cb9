import type { BrowserContext, Page } from '@playwright/test'
import type { Exercise } from '../contract/src/classes.ts'
import type { Run } from '../contract/src/runs.ts'
import { expect, stepIn, test } from './fleam.ts'

const classmates = ['Abel Corrigan', 'Bettany Voss', 'Cosmo Harkaway', 'Delphi Amory', 'Emrys Tolland', 'Fenella Brook', 'Gideon Sayle']
const others = ['Hester Quince', 'Ivo Pendarves', 'Juno Alderley', 'Kit Marrable', 'Lowri Stannage', 'Moss Trewin']

/** A student at their own tablet, who begins the exercise and weighs at the scale of their bench. */
async function atBench(context: BrowserContext, name: string, exerciseId: string) {
  const { request } = context
  expect((await request.post('/api/v1/session', { data: { name, secret: '5093' } })).status()).toBe(201)
  const data = { id: crypto.randomUUID(), received: '2340 g', coreTempC: 3, weightsChecked: true }
  const begun = await request.post(`/api/v1/exercises/${exerciseId}/run`, { data })
  expect(begun.status()).toBe(201)
  const run = (await begun.json()) as Run
  return {
    run,
    async weigh(key: string, grams: number) {
      const tubId = run.tubs.find((tub) => tub.key === key)?.id
      const body = { id: crypto.randomUUID(), tubId, weight: `${grams} g`, weighedAt: new Date().toISOString() }
      expect((await request.post(`/api/v1/runs/${run.id}/weighings`, { data: body })).status()).toBe(201)
    },
    async finish() {
      const { version } = (await (await request.get(`/api/v1/runs/${run.id}`)).json()) as Run
      const body = { version, minutes: 9, unaccountedReason: 'spilt' }
      expect((await request.post(`/api/v1/runs/${run.id}/finish`, { data: body })).status()).toBe(200)
    },
  }
}

const pieces = [
  ...[198, 202, 196, 204].map((grams) => ['breast', grams] as const),
  ...[181, 179, 184, 176].map((grams) => ['leg', grams] as const),
  ...[126, 128].map((grams) => ['wing', grams] as const),
  ...([
    ['back', 452],
    ['fat', 92],
  ] as const),
]

async function exerciseNamed(page: Page, name: string): Promise<Exercise> {
  const { entries } = (await (await page.request.get('/api/v1/exercises')).json()) as { entries: Exercise[] }
  const exercise = entries.find((one) => one.name === name)
  if (!exercise) throw new Error(`${name} was not given.`)
  return exercise
}

test('a class of fourteen does the sauté chicken: given, cut, watched, marked and handed back', async ({ page, browser, baseURL }) => {
  test.slow()
  await stepIn(page, 'Oriel Trevanion')
  await page.goto('/school/classes')
  await page.getByRole('button', { name: 'Give an exercise' }).click()
  await page.getByLabel('Name, if it has one of its own').fill('Sauté, the fourteen')
  await page.getByRole('button', { name: 'Give it to 14' }).click()
  await expect(page.getByRole('heading', { name: 'Sauté, the fourteen' })).toBeVisible()
  await expect(page.getByText('0 benches at work, 0 done, 14 not begun.')).toBeVisible()
  const exercise = await exerciseNamed(page, 'Sauté, the fourteen')
  const bench = (name: string) => page.locator('.wall-bench').filter({ hasText: name })

  const contexts = await Promise.all([...classmates, ...others].map(() => browser.newContext({ baseURL })))
  const benches = await Promise.all(
    [...classmates, ...others].map((name, at) => atBench(contexts[at] as BrowserContext, name, exercise.id)),
  )
  // the fourteenth begins on the page
  const tablet = await (await browser.newContext({ baseURL })).newPage()
  await tablet.goto('/sign-in')
  await tablet.getByRole('button', { name: 'Wren Fairlight' }).click()
  await expect(tablet).toHaveURL(/school\/classes/)
  await tablet.getByRole('link', { name: /Sauté, the fourteen/ }).click()
  await tablet.getByLabel('Your piece weighs').fill('2340 g')
  await tablet.getByLabel('Core, °C').fill('3')
  await tablet.getByRole('button', { name: 'Begin at your bench' }).click()
  await expect(tablet).toHaveURL(/\/bench\//)
  await expect(page.getByText('14 benches at work, 0 done, 0 not begun.')).toBeVisible()

  const [abel] = benches
  await abel?.weigh('breast', 198)
  await expect(bench('Abel Corrigan')).toContainText('8 % of')
  await Promise.all(
    benches.map(async (one, at) => {
      for (const [key, grams] of at === 0 ? pieces.slice(1) : pieces) await one.weigh(key, grams)
    }),
  )
  await expect(bench('Bettany Voss')).toContainText('4 right')
  await Promise.all(benches.map((one) => one.finish()))
  await expect(page.getByText('1 bench at work, 13 done, 0 not begun.')).toBeVisible()

  // marked with the network gone, and kept
  await page.route('**/marks', (route) => route.abort())
  await bench('Abel Corrigan').click()
  const marks = page.getByRole('dialog')
  await expect(marks.getByText('4 of 4 within tolerance')).toBeVisible()
  await marks.getByRole('group', { name: 'Mark for Joints cut, no bone' }).getByRole('button', { name: '4' }).click()
  await marks.getByRole('group', { name: 'Mark for Hold and knife' }).getByRole('button', { name: '2' }).click()
  await marks.getByLabel('A word on the whole').fill('Joints found, mind the holding hand.')
  await marks.getByRole('button', { name: 'Keep the word' }).click()
  await marks.getByRole('button', { name: 'Close' }).click()
  await expect(page.getByText('3 marks kept on this tablet until the server has them')).toBeVisible()
  await page.unroute('**/marks')
  await expect(page.getByText('kept on this tablet')).toHaveCount(0, { timeout: 60_000 })
  await expect(bench('Abel Corrigan')).toContainText('2 of 9 marked · 75 %')
  await page.getByRole('button', { name: 'Hand the marks back' }).click()
  await expect(page.getByText('Handed back: each student sees their own marks.')).toBeVisible()

  const abelPage = await (contexts[0] as BrowserContext).newPage()
  await abelPage.goto(`/school/classes/${exercise.id}`)
  await expect(abelPage.getByText('75 %', { exact: true })).toBeVisible()
  await expect(abelPage.getByText('Joints found, mind the holding hand.')).toBeVisible()
  await expect(abelPage.getByText('Bettany Voss')).toHaveCount(0)
  for (const context of contexts) await context.close()
  await tablet.context().close()
})
