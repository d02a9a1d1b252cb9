import { randomUUID } from 'node:crypto'
import type { Page } from '@playwright/test'
import { barriers, expect, type Fleam, receive, stepIn, storedRun, test, tubOf, weighByKeyboard } from './fleam.ts'

test.beforeEach(({ fleam }) => fleam.scale.clear())

/** Lays a weight on the pan and waits until the tub has taken it by itself. */
async function layOn(page: Page, { scale }: Fleam, grams: number, tub: string, total: string): Promise<void> {
  await scale.put(grams)
  await expect(tubOf(page, tub)).toContainText(total)
  await scale.clear()
  await expect(page.locator('.readout')).toHaveText('0g')
}

async function finish(page: Page, reason = 'a test'): Promise<void> {
  await page.getByRole('button', { name: 'Finish and cost' }).click()
  const where = page.getByLabel('Where it went')
  if (await where.isVisible()) await where.fill(reason)
  await page.getByRole('button', { name: 'Close the run' }).click()
  await expect(page.getByRole('heading', { name: 'Where the weight went' })).toBeVisible()
}

const kilos = (grams: number) => grams.toLocaleString('en').replace(',', ' ')

test('six turkeys by two people: hands-free with the scale, each seeing the other, few taps', async ({ page, browser, fleam, baseURL }) => {
  test.setTimeout(400_000)
  await stepIn(page, 'Ines Calloway')
  await receive(page, { item: 'Turkey, whole, oven-ready', sheet: 'Turkey, parts', billed: '43.3 kg', received: '43.2 kg', pieces: '6' })
  const sorter = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(sorter, 'Jory Penhale')
  await sorter.goto(`${page.url()}?view=sort`)
  await expect(sorter.getByRole('region', { name: 'Present step' })).toHaveCount(0)
  let taps = 0
  const tap = async (name: string) => {
    taps += 1
    await page.getByRole('button', { name }).click()
  }
  await tap('Hands-free off')
  const weighed: [tub: string, grams: number[]][] = [
    ['Breasts, boneless', Array.from({ length: 12 }, (_, index) => 1060 + index * 7)],
    ['Thighs, boned', Array.from({ length: 12 }, (_, index) => 460 + index * 3)],
    ['Drums', [5184]],
    ['Carcass and bones', [10_700]],
  ]
  for (const [tub, pieces] of weighed) {
    taps += 1
    await tubOf(page, tub).click()
    let total = 0
    for (const grams of pieces) {
      total += grams
      await layOn(page, fleam, grams, tub, kilos(total))
    }
    await expect(tubOf(sorter, tub)).toContainText(kilos(total))
  }
  await weighByKeyboard(sorter, '1.7kg', 4)
  await expect(tubOf(page, 'Drumettes')).toContainText('1 700')
  for (const [grams, tub] of [
    ['2.6kg', 5],
    ['2.58kg', 7],
    ['0.86kg', 8],
  ] as const)
    await weighByKeyboard(sorter, grams, tub)
  await expect(tubOf(page, 'Fat')).toContainText('860')
  const { weighings } = await storedRun(page)
  expect(weighings).toHaveLength(30)
  expect(new Set(weighings.map((line) => line.by.name))).toEqual(new Set(['Ines Calloway', 'Jory Penhale']))
  await finish(page)
  taps += 2
  expect(taps).toBeLessThanOrEqual(weighings.length + 8)
  await expect(page.getByText('sales value').first()).toBeVisible()
})

test('a crate of eight bass: length questions the scale, a soft fish is cautioned, a tap takes what the scale holds', async ({
  page,
  fleam,
}) => {
  await stepIn(page, 'Pip Marsden')
  await page.goto('/receive')
  await page.getByLabel('What came').selectOption({ label: 'Sea bass, whole' })
  await page.getByLabel('Cut sheet').selectOption({ label: 'Round white fish, skinless portions' })
  await page.getByLabel('Pieces, how many').fill('8')
  await page.getByLabel('Billed weight').fill('6.6 kg')
  await page.getByLabel('Received weight').fill('6.56 kg')
  await page.getByLabel('Length of one').fill('55')
  await expect(page.getByText('should weigh 1 664 g to 2 163 g')).toBeVisible()
  await page.getByLabel('Length of one').fill('41.5')
  await expect(page.getByText('Is the length, the count, the kind or the scale wrong')).toHaveCount(0)
  await page.getByText('Soft', { exact: true }).click()
  await expect(page.getByText('A soft fish cuts rubbery and ragged')).toBeVisible()
  await page.getByRole('button', { name: 'To the bench' }).click()
  // the scale is heard before anything is put on it
  await expect(page.locator('.readout')).toHaveText('0g', { timeout: 60_000 })
  for (const grams of [151, 148, 139]) {
    await fleam.scale.put(grams)
    await expect(page.locator('.readout:not(.readout-empty)')).toHaveText(`${grams}g`)
    await expect(page.getByText('Scale steady')).toBeVisible()
    await tubOf(page, 'Portions').click()
    await expect(page.getByRole('status').filter({ hasText: `${grams} g into Portions` })).toBeVisible()
    await fleam.scale.clear()
    await expect(page.locator('.readout')).toHaveText('0g')
  }
  await tubOf(page, 'Tails').click()
  await expect(tubOf(page, 'Portions')).toContainText('438')
  await page.getByRole('button', { name: 'Move the last piece, 139 g from Portions' }).click()
  await tubOf(page, 'Tails').click()
  await expect(tubOf(page, 'Portions')).toContainText('299')
  await expect(tubOf(page, 'Tails')).toContainText('139')
  await expect.poll(async () => (await storedRun(page)).weighings.filter((line) => line.movedFromId !== null).length).toBe(1)
  const run = await storedRun(page)
  expect(run.fish).toEqual({ species: 'Bass', lengthCm: 41.5, condition: 'soft' })
})

test('a piece is dragged to another tub in one gesture', async ({ page }) => {
  await stepIn(page, 'Pip Marsden')
  await receive(page)
  await weighByKeyboard(page, '184', 1)
  const from = await page.getByRole('button', { name: 'Move the last piece, 184 g from Centre steaks' }).boundingBox()
  const to = await tubOf(page, 'Tournedos').boundingBox()
  if (!from || !to) throw new Error('The piece and its tub must be on the screen.')
  await page.mouse.move(from.x + 30, from.y + 30)
  await page.mouse.down()
  await page.mouse.move(to.x + 60, to.y + 60, { steps: 6 })
  await page.mouse.up()
  await expect(tubOf(page, 'Tournedos')).toContainText('184')
  await expect(tubOf(page, 'Centre steaks')).not.toContainText('184')
  // and what is weighed after it goes out too
  await weighByKeyboard(page, '176', 1)
  await expect.poll(async () => (await storedRun(page)).weighings.map(({ tenths }) => tenths)).toEqual([1840, 1840, 1840, 1760])
})

test('racks into cutlets, piece by piece, each one’s yield told apart', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await page.goto('/receive')
  await page.getByLabel('What came').selectOption({ label: 'Lamb rack, Frenched, for cutlets' })
  await page.getByLabel('Cut sheet').selectOption({ label: 'Lamb cutlets from a Frenched rack' })
  await page.getByLabel('Pieces, how many').fill('2')
  await page.getByText('Piece by piece').click()
  await page.getByLabel('Billed weight').fill('1.27 kg')
  await page.getByLabel('Received weight').fill('1.27 kg')
  await page.getByRole('button', { name: 'To the bench' }).click()
  await expect(tubOf(page, 'Cutlets')).toBeVisible()
  for (const grams of [71, 74, 76, 79, 80, 82, 78, 83]) await weighByKeyboard(page, String(grams), 1)
  await page.getByRole('button', { name: /^Piece 1 of 2/ }).click()
  for (const grams of [70, 72, 75, 77, 79, 80, 76, 79]) await weighByKeyboard(page, String(grams), 1)
  await page.getByRole('button', { name: /^Piece 2 of 2/ }).click()
  await expect(page.getByText('all done')).toBeVisible()
  await weighByKeyboard(page, '15', 2)
  await finish(page)
  const rows = page.locator('.piece-yields tbody tr')
  await expect(rows.nth(0)).toContainText('623 g')
  await expect(rows.nth(1)).toContainText('608 g')
})

test('a chicken for a sauté: which pieces go together so that plates are even', async ({ page }) => {
  await stepIn(page, 'Ines Calloway')
  await receive(page, { item: 'Chicken, whole, case of five', sheet: 'Chicken for a sauté', billed: '2050', received: '2040' })
  for (const grams of [178, 166, 190, 160]) await weighByKeyboard(page, String(grams), 1)
  for (const grams of [180, 131, 176, 140]) await weighByKeyboard(page, String(grams), 2)
  await page.getByRole('button', { name: 'Plates' }).click()
  const panel = page.getByRole('dialog', { name: 'Even plates' })
  await expect(panel.locator('.plates li')).toHaveCount(4)
  await expect(panel.locator('.plates li').first()).toContainText('342 g166 g breast pieces + 176 g leg pieces')
  await expect(panel).toContainText('24 g between the heaviest and the lightest plate, against')
})

test('a tenderloin used to the last: into the tub with tare, optional and cold noted, cost to the end', async ({ page, fleam }) => {
  await stepIn(page, 'Adaeze Lindqvist')
  await receive(page, { sheet: 'Beef tenderloin, used to the last' })
  await page.getByLabel('How it is weighed').selectOption({ label: 'Into the tub' })
  await page.getByRole('button', { name: 'Hands-free off' }).click()
  await tubOf(page, 'Grind').click()
  await fleam.scale.put(412)
  await expect(page.getByText('Put the tub on and press Tare.')).toBeVisible()
  await page.getByRole('button', { name: 'Tare' }).click()
  await expect(page.getByText('tare 412 g')).toBeVisible()
  await fleam.scale.put(80)
  await expect(tubOf(page, 'Grind')).toContainText('80')
  await fleam.scale.put(66.4)
  await expect(tubOf(page, 'Grind')).toContainText('146.4')
  await page.getByLabel('How it is weighed').selectOption({ label: 'By hand' })
  for (const [grams, tub] of [
    ['2.08kg', 1],
    ['235', 2],
    ['230', 3],
    ['180', 5],
    ['44', 6],
  ] as const)
    await weighByKeyboard(page, grams, tub)
  await page.getByRole('button', { name: /min out/ }).click()
  await expect(page.getByRole('button', { name: /in the cold/ })).toBeVisible()
  await page.getByRole('button', { name: 'Temperature' }).click()
  await page.getByLabel('Temperature, °C').fill('7.5')
  await page.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByText('It is over the house limit: say what was done.')).toBeVisible()
  await page.getByLabel('What was done').fill('Chilled for twenty minutes')
  await page.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByText('Chilled for twenty minutes')).toBeVisible()
  await page.keyboard.press('Escape')
  await finish(page)
  await expect(page.getByText('Noted at the bench')).toBeVisible()
  await expect(page.getByText('7.5 °C product core')).toBeVisible()
})

test('a lost scale is said, weighing goes on by hand, and it comes back by itself', async ({ page, fleam }) => {
  await stepIn(page, 'Jory Penhale')
  await receive(page)
  await expect(page.getByText('Scale steady')).toBeVisible()
  await fleam.scale.behave({ isConnected: false })
  await expect(page.getByText(/Type the weight; it comes back by itself/)).toBeVisible()
  await weighByKeyboard(page, '184', 1)
  await expect(tubOf(page, 'Centre steaks')).toContainText('184')
  await fleam.scale.behave({ isConnected: true })
  await expect(page.getByText('Scale steady')).toBeVisible()
})

test('hands-free takes a piece once: after a reload, after Finish and back, and with two tablets on one scale', async ({
  page,
  browser,
  fleam,
  baseURL,
}) => {
  await stepIn(page, 'Adaeze Lindqvist')
  await receive(page)
  await page.getByRole('button', { name: 'Hands-free off' }).click()
  await tubOf(page, 'Centre steaks').click()
  await fleam.scale.put(184)
  await expect(tubOf(page, 'Centre steaks')).toContainText('184')
  const taken = page.getByText('Taken: lift it for the next.')
  await expect(taken).toBeVisible()
  await page.reload()
  await expect(taken).toBeVisible()
  await page.getByRole('button', { name: 'Finish and cost' }).click()
  await page.getByRole('link', { name: /Back to the bench/ }).click()
  await expect(taken).toBeVisible()
  const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(other, 'Jory Penhale')
  await other.goto(page.url())
  await other.getByRole('button', { name: 'Hands-free off' }).click()
  await expect(other.getByText('Taken: lift it for the next.')).toBeVisible()
  expect((await storedRun(page)).weighings).toHaveLength(1)
  await fleam.scale.clear()
  await expect(page.locator('.readout')).toHaveText('0g')
  await expect(other.locator('.readout')).toHaveText('0g')
  await fleam.scale.put(179)
  await expect(tubOf(page, 'Centre steaks')).toContainText('363')
  await expect(tubOf(other, 'Centre steaks')).toContainText('363')
  await expect(page.getByText('1 not sent')).toHaveCount(0)
  expect((await storedRun(page)).weighings).toHaveLength(2)
  // it would go on taking what is laid on this scale
  await other.context().close()
})

test('station ticks, the present step of another, and an optional step left out', async ({ page, browser, baseURL }) => {
  await stepIn(page, 'Tobias Quill')
  await receive(page, { item: 'Chicken, whole, case of five', sheet: 'Chicken, supremes and legs', billed: '2050', received: '2040' })
  const step = page.getByRole('region', { name: 'Present step' })
  await step.getByRole('button', { name: 'steel' }).click()
  await expect(step.getByRole('button', { name: 'steel' })).toHaveAttribute('aria-pressed', 'true')
  await page.getByRole('button', { name: 'Next step' }).click()
  await page.getByRole('button', { name: 'Next step' }).click()
  await expect(step).toContainText('Free the wishbone')
  await step.getByRole('button', { name: /Done on this run/ }).click()
  const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(other, 'Pip Marsden')
  await other.goto(page.url())
  const theirs = other.getByRole('region', { name: 'Present step' })
  await expect(theirs).toContainText('Tobias Quill: Free the wishbone')
  await other.getByRole('button', { name: 'Next step' }).click()
  await other.getByRole('button', { name: 'Next step' }).click()
  await expect(theirs).toContainText('Take the legs off')
  await expect(step).toContainText('Pip Marsden: Take the legs off')
  await expect(theirs.getByRole('img')).toHaveAttribute('aria-label', /thigh, drum, oyster/)
})

/** What the demo has left of something at this hour is gone. */
async function emptyOf(page: Page, name: string): Promise<void> {
  const { entries } = await (await page.request.get('/api/v1/lots')).json()
  for (const lot of entries.filter((one: { name: string }) => one.name === name)) {
    const what = { kind: 'take', takenFor: 'thrown away', note: 'dropped' }
    const at = new Date().toISOString()
    const moved = await page.request.post(`/api/v1/lots/${lot.id}/moves`, { data: { id: randomUUID(), what, at } })
    expect(moved.status()).toBe(201)
  }
}

test('a lead writes down what a dish needs; the bench says what the run brings and where the rest could come from', async ({ page }) => {
  await stepIn(page, 'Adaeze Lindqvist')
  await emptyOf(page, 'Side muscle')
  await page.goto('/kitchen/dishes')
  await page.getByLabel('Dish', { exact: true }).fill('Saturday skewers')
  await page.getByLabel('What it needs').selectOption({ label: 'Side muscle (beef)' })
  await page.getByLabel('How much').fill('1 kg')
  await page.getByRole('button', { name: 'Add the dish' }).click()
  await expect(page.getByText('1 000 g missing')).toBeVisible()
  await receive(page)
  await page.getByRole('button', { name: 'Dishes' }).click()
  const panel = page.getByRole('dialog', { name: 'Dishes that wait for this' })
  await expect(panel).toContainText(/This run will bring about 20\d(\.\d)?\sg/)
  await expect(panel).toContainText(/79\d(\.\d)?\sg still missing/)
  await expect(panel).toContainText('4 more on this sheet')
})

test('a defect is noted on the step where it happened', async ({ page }) => {
  await stepIn(page, 'Pip Marsden')
  await receive(page)
  await weighByKeyboard(page, '172', 6)
  await page.getByRole('region', { name: 'Present step' }).getByRole('button', { name: 'Note' }).click()
  await page.getByLabel('Defect', { exact: true }).selectOption({ label: 'gouged meat with the silverskin' })
  await page.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByText('at “Silverskin off”')).toBeVisible()
})

for (const size of [
  { width: 1280, height: 800 },
  { width: 820, height: 1180 },
]) {
  test(`the bench’s panels bar nobody’s way at ${size.width} × ${size.height}`, async ({ page }) => {
    await page.setViewportSize(size)
    await stepIn(page, 'Maren Holt')
    await receive(page, { item: 'Chicken, whole, case of five', sheet: 'Chicken for a sauté', billed: '2050', received: '2040' })
    await weighByKeyboard(page, '178', 1)
    const violations = async (what: string) => {
      expect(await barriers(page), what).toEqual([])
    }
    for (const name of ['Plates', 'Dishes', 'By eye', 'Temperature', 'Weighings']) {
      await page.getByRole('button', { name, exact: true }).click()
      await expect(page.getByRole('dialog')).toBeVisible()
      await page.waitForFunction(() => document.querySelector('.offcanvas.show:not(.showing)') !== null)
      await violations(name)
      await page.keyboard.press('Escape')
      await expect(page.getByRole('dialog')).toHaveCount(0)
    }
    await page.getByRole('button', { name: 'Sorting view' }).click()
    await violations('sorting')
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0)
  })
}

test('piece by piece any is chosen, a weighing moves to another, and another’s weighing is taken back by name only', async ({
  page,
  browser,
  baseURL,
}) => {
  await stepIn(page, 'Ines Calloway')
  await page.goto('/receive')
  await page.getByLabel('What came').selectOption({ label: 'Lamb rack, Frenched, for cutlets' })
  await page.getByLabel('Pieces, how many').fill('3')
  await page.getByText('Piece by piece').click()
  await page.getByLabel('Billed weight').fill('1.9 kg')
  await page.getByLabel('Received weight').fill('1.9 kg')
  await page.getByRole('button', { name: 'To the bench' }).click()
  await page.getByRole('button', { name: 'Choose a piece' }).click()
  await page.getByRole('dialog', { name: 'Pieces of this run' }).getByRole('button', { name: '3' }).click()
  await expect(page.getByRole('button', { name: /^Piece 3 of 3/ })).toBeVisible()
  await weighByKeyboard(page, '71', 1)
  const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(other, 'Jory Penhale')
  await other.goto(page.url())
  await expect(other.getByRole('button', { name: 'Take back Ines’s' })).toBeVisible()
  await weighByKeyboard(other, '66', 1)
  await expect(tubOf(page, 'Cutlets')).toContainText('137')
  await page.getByRole('button', { name: 'Take back', exact: true }).click()
  await expect(tubOf(page, 'Cutlets')).toContainText('66')
  await page.getByRole('button', { name: 'Take back Jory’s' }).waitFor()
  await page
    .getByRole('button', { name: /weighed|Weighings/ })
    .first()
    .click()
  await page.getByLabel('Move 66 g elsewhere').selectOption({ label: 'Piece 2' })
  await page.keyboard.press('Escape')
  await expect.poll(async () => (await storedRun(page)).weighings.at(-1)).toMatchObject({ tenths: 660, piece: 2 })
  await other.context().close()
})

test('sorting without a scale has a pad', async ({ page, fleam }) => {
  await stepIn(page, 'Jory Penhale')
  await receive(page)
  const bench = page.url()
  await page.goto(`${bench}?view=sort`)
  await expect(page.getByText('Scale steady')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Delete the last figure' })).toHaveCount(0)
  await fleam.scale.behave({ isConnected: false })
  await expect(page.getByRole('button', { name: 'Delete the last figure' })).toBeVisible()
  await fleam.scale.behave({ isConnected: true })
  await expect(page.getByRole('button', { name: 'Delete the last figure' })).toHaveCount(0)
})
