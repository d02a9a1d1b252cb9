import type { KitchenDay } from '@fleam/contract/day'
import type { DaySchedule } from '@fleam/contract/day-schedule'
import type { Browser, Page } from '@playwright/test'
import { expect, receiveByHand, stepIn, storedRun, test } from './fleam.ts'

const hour = 3_600_000
const clock = (moment: Date) => moment.toISOString().slice(11, 16)
const calendarDay = (moment: Date) => moment.toISOString().slice(0, 10)

/** What is cut which way, whatever other tests left in the walk-in. */
const cuts = [
  { dish: 'Steak, marrow', sheet: 'Beef tenderloin, traditional', items: 5 },
  { dish: 'Supreme, cider sauce', sheet: 'Chicken, supremes and legs', items: 5 },
  { dish: 'Roast turkey breast', sheet: 'Turkey, parts', items: 12 },
]

/** When things are served, by service: late enough for what is salted overnight, though the test runs late on the eve. */
const servedAt = ['19:00', '20:30', '22:00']

/** A day like the demo's Saturday, tomorrow, so that its eve is today; everybody works round the clock, whatever the hour of the test. */
async function putOnTomorrow(page: Page): Promise<KitchenDay> {
  const { entries } = (await (await page.request.get('/api/v1/days')).json()) as { entries: KitchenDay[] }
  // the earliest: others may have copied it
  const saturday = entries.findLast(({ name, body }) => name.startsWith('Saturday: carvery') && body.crew.length > 0)
  if (!saturday) throw new Error('The demo has no Saturday.')
  const { body } = saturday
  const crew = body.crew.map((shift) => ({ ...shift, from: '00:00', to: '23:59' }))
  const services = body.services.map((service, index) => ({ ...service, at: servedAt[index] ?? service.at }))
  const soon = new Date(Date.now() + hour / 12)
  const arrivals = body.arrivals.map((arrival) => ({
    ...arrival,
    at: calendarDay(soon) === calendarDay(new Date()) ? clock(soon) : '23:59',
  }))
  const sheets = (await (await page.request.get('/api/v1/cut-sheets?limit=200')).json()) as {
    entries: { id: string; body: { name: string } }[]
  }
  const way = Object.fromEntries(
    cuts.map(({ dish, sheet, items }) => {
      const itemId = body.dishes.find((one) => one.name === dish)?.itemId
      const sheetId = sheets.entries.find((one) => one.body.name === sheet)?.id
      if (!itemId || !sheetId) throw new Error(`The demo has no “${dish}” by “${sheet}”.`)
      return [`${itemId}:${sheetId}`, items]
    }),
  )
  const date = calendarDay(new Date(Date.now() + 24 * hour))
  const data = {
    ...{ id: crypto.randomUUID(), name: 'The Saturday', date },
    body: { ...body, services, crew, arrivals, held: { way, offer: {}, readyCut: {} }, heldJobs: {} },
  }
  const answer = await page.request.post('/api/v1/days', { data })
  expect(answer.status()).toBe(201)
  return answer.json()
}

const scheduleOf = async (page: Page, id: string): Promise<DaySchedule> => (await page.request.get(`/api/v1/days/${id}/schedule`)).json()

/** Receives something at a bench of its own and cuts it: every output weighed, and the run closed. */
async function cutAtBench(
  browser: Browser,
  baseURL: string | undefined,
  who: string,
  delivery: Parameters<typeof receiveByHand>[1],
  shares: Record<string, string>,
): Promise<void> {
  const bench = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(bench, who)
  await receiveByHand(bench, delivery)
  const { id, tubs } = (await storedRun(bench)) as unknown as { id: string; tubs: { id: string; name: string }[] }
  for (const [name, weight] of Object.entries(shares)) {
    const tubId = tubs.find((tub) => tub.name === name)?.id
    const line = { id: crypto.randomUUID(), tubId, weight, weighedAt: new Date().toISOString() }
    expect([name, (await bench.request.post(`/api/v1/runs/${id}/weighings`, { data: line })).status()]).toEqual([name, 201])
  }
  await bench.goto(`/runs/${id}/finish`)
  await expect(bench.getByRole('button', { name: 'Close the run' })).toBeVisible()
  const where = bench.getByLabel('Where it went')
  // the field goes away when what was weighed last is there
  await expect(async () => {
    if (await where.isVisible()) await where.fill('a test', { timeout: 1000 })
  }).toPass()
  await bench.getByRole('button', { name: 'Close the run' }).click()
  await expect(bench.getByRole('heading', { name: 'Where the weight went' })).toBeVisible()
  await bench.context().close()
}

test('the demo’s Saturday is planned, ordered, received, cut on two benches with a late delivery, planned again and served', async ({
  page,
  browser,
  fleam,
  baseURL,
}) => {
  test.setTimeout(400_000)
  await fleam.supplier.behave({ isOnline: true, shortShare: 0, daysOn: 0 })
  await stepIn(page, 'Maren Holt')
  const { id } = await putOnTomorrow(page)

  // planned, and ordered from every supplier that takes orders by wire
  await page.goto(`/days/${id}`)
  await expect(page.getByText('The day costs')).toBeVisible({ timeout: 60_000 })
  await expect(page.getByRole('row', { name: /^Turkey, whole, oven-ready, Greywether Poultry/ })).toBeVisible()
  const order = page.locator('.order').filter({ hasText: 'Tidewater Meats' })
  await order.getByRole('button', { name: 'Write this order' }).click()
  await order.getByRole('button', { name: 'Send it' }).click()
  await order.getByRole('link', { name: 'Receive it' }).click()
  await page.getByRole('button', { name: 'Put its boxes on the list' }).click()
  await page.getByRole('button', { name: /^Put \d+ box(es)? on the books/ }).click()
  await expect(page.getByText(/box(es)? on the books\./).first()).toBeVisible()

  // scheduled: everything in time, by person and by place; a job is held and the rest goes round it
  await page.goto(`/days/${id}/schedule`)
  await page.getByRole('button', { name: 'Plan when it starts' }).click()
  await expect(page.getByText('Everything is ready in time.')).toBeVisible({ timeout: 60_000 })
  await page.getByText('By place', { exact: true }).click()
  await expect(page.getByText('Bench by the window')).toBeVisible()
  await page.getByText('By person', { exact: true }).click()
  // what is served in the evening is cut on its own morning
  await page.getByRole('radiogroup', { name: 'Day shown' }).locator('label').last().click()
  const cut = page.getByRole('button', { name: /^Cut Turkey, .*\d\d:\d\d$/ }).first()
  const panel = page.getByRole('dialog')
  // the lanes are drawn anew where a press meets a new answer
  await expect(async () => {
    await cut.click({ timeout: 2000 })
    await expect(panel).toBeVisible({ timeout: 2000 })
  }).toPass()
  await panel.getByLabel('Who does it').selectOption({ label: 'Tobias Quill' })
  await panel.getByRole('button', { name: 'Hold it there' }).click()
  await expect(page.getByRole('button', { name: /^Cut Turkey, .*held/ })).toBeVisible({ timeout: 60_000 })
  const held = (await scheduleOf(page, id)).jobs.filter(({ isHeld }) => isHeld)
  expect(held.map(({ name }) => name)).toEqual(['Cut Turkey'])

  // the loins and the chickens are cut on two benches; the prep list knows it from what was weighed
  await Promise.all([
    cutAtBench(
      browser,
      baseURL,
      'Ines Calloway',
      { item: 'Beef tenderloin, peeled, side muscle on', billed: '15.4 kg', received: '15.4 kg', pieces: '5' },
      {
        'Centre steaks': '5.9 kg',
        'Head roast': '3 kg',
        'Tournedos and tips': '1.7 kg',
        'Side muscle': '1.1 kg',
        'Silverskin, sinew': '2.6 kg',
      },
    ),
    cutAtBench(
      browser,
      baseURL,
      'Jory Penhale',
      { item: 'Chicken, whole, case of five', sheet: 'Chicken, supremes and legs', billed: '10 kg', received: '10 kg', pieces: '5' },
      { Supremes: '2.6 kg', 'Legs with oyster': '3.1 kg', Carcass: '3.2 kg', 'Wing, two joints': '0.5 kg', Fat: '0.5 kg' },
    ),
  ])
  await page.goto('/')
  const list = page.locator('section').filter({ has: page.getByRole('heading', { name: 'To do for The Saturday' }) })
  await expect(list).toBeVisible()
  const known = (await scheduleOf(page, id)).jobs.filter(({ kind, state }) => kind === 'cut' && state === 'done')
  expect(known.map(({ name, by }) => `${name} ${by}`)).toEqual(expect.arrayContaining(['Cut Beef tenderloin null', 'Cut Chicken null']))

  // the birds come two hours late: it is said, and the rest is planned again from now
  await page.goto(`/days/${id}/hands`)
  const late = new Date(Date.now() + 2 * hour)
  const arrival = page.locator('.day-row').filter({ hasText: 'Turkey, whole, oven-ready' })
  await arrival.getByLabel('At', { exact: true }).fill(clock(late))
  if (calendarDay(late) !== calendarDay(new Date())) await arrival.getByLabel('Comes').selectOption({ label: 'the day itself' })
  await page.getByRole('button', { name: 'Keep who and where' }).click()
  await expect(page.getByRole('button', { name: 'Kept', exact: true })).toBeVisible()
  await page.goto(`/days/${id}/schedule`)
  await expect(page.getByText('The day was changed since this was planned')).toBeVisible()
  await page.getByRole('button', { name: 'Plan the rest from now' }).click()
  await expect(page.getByText('The day was changed since this was planned')).toBeHidden({ timeout: 60_000 })
  const again = await scheduleOf(page, id)
  const receiving = again.jobs.find(({ name }) => name === 'Receive Turkey')
  const birds = again.jobs.filter(({ name, state, isHeld }) => name === 'Cut Turkey' && state === 'open' && !isHeld)
  // another's birds of today may have come in by then
  const earliest = (receiving?.state === 'done' ? again.fromMinute : receiving?.until) ?? Number.POSITIVE_INFINITY
  expect(again.fromMinute).not.toBeNull()
  for (const { from } of birds) expect(from).toBeGreaterThanOrEqual(earliest)

  // served: one thing by hand on the Board, the rest ticked as it is done
  await page.goto('/')
  await list
    .getByRole('button', { name: /^Done: / })
    .first()
    .click()
  await expect(page.getByText(/: done\./).first()).toBeVisible()
  for (const { id: job } of (await scheduleOf(page, id)).jobs.filter(({ state }) => state !== 'done')) {
    const data = { id: crypto.randomUUID(), job, state: 'done', at: new Date().toISOString() }
    expect((await page.request.post(`/api/v1/days/${id}/ticks`, { data })).status()).toBe(200)
  }
  await page.reload()
  await expect(list.getByText('Everything is done.')).toBeVisible()
})
