import { readFile } from 'node:fs/promises'
import { expect, receive, stepIn, storedRun, test, tubOf, weighByKeyboard, weighByTouch } from './fleam.ts'

test.describe('one tenderloin, from the invoice to the cost of a steak', () => {
  test.use({ hasTouch: true })

  test('by touch alone: received, weighed, finished, costed, logged', async ({ page }) => {
    await stepIn(page, 'Ines Calloway')
    await page.getByRole('link', { name: 'Receive and weigh in' }).tap()
    await page.getByLabel('Billed weight').fill('2.95 kg')
    await page.getByLabel('Received weight').fill('2880')
    await expect(page.getByText('Short delivery: 70 g short (2.4 %)')).toBeVisible()
    await page.getByLabel('Received weight').fill('2936')
    await expect(page.getByText('14 g short (0.5 %)')).toBeVisible()
    await page.getByLabel('Core temperature').fill('7.2')
    await page.getByRole('button', { name: 'To the bench' }).tap()
    await expect(page.getByText('is over the limit of 5 °C: say what is done with it.')).toBeVisible()
    await page.getByLabel('Taken in, chilled and cut at once').check()
    await page.getByLabel('Why, and what was done').fill('Van was late; chilled hard')
    await page.getByRole('button', { name: 'To the bench' }).tap()

    for (const grams of ['184', '179', '172', '181', '193.5', '180', '176', '1880']) await weighByTouch(page, grams, 'Centre steaks')
    await expect(tubOf(page, 'Centre steaks')).toContainText('3 145.5')
    await expect(page.getByText('Too much weighed')).toBeVisible()
    await page.getByRole('button', { name: 'Take back' }).tap()
    await weighByTouch(page, '188', 'Centre steaks')
    await expect(tubOf(page, 'Centre steaks')).toContainText('1 453.5')
    const rest: [string, string][] = [
      ['346.5', 'Head roast'],
      ['330', 'Tournedos and tips'],
      ['132', 'Side muscle'],
      ['190', 'Lean trim'],
      ['200', 'Silverskin'],
    ]
    for (const [weight, tub] of rest) await weighByTouch(page, weight, tub)
    await page.getByRole('button', { name: 'Add a tub' }).tap()
    await page.getByLabel('Name').fill('Chain')
    await page.getByRole('button', { name: 'Add the tub' }).tap()
    await weighByTouch(page, '40', 'Chain')
    await expect(page.getByText('Still on the board 244 g')).toBeVisible()
    await expect(page.getByText(/A portion, if it ends as expected €\d+\.\d\d · ready-cut €11\.44/)).toBeVisible()

    await page.getByRole('button', { name: 'Finish and cost' }).tap()
    await page.getByRole('button', { name: 'Close the run' }).tap()
    await expect(page.getByText('are unaccounted for, over 2 %: say where they went.').first()).toBeVisible()
    await page.getByLabel('Where it went').fill('Fat went in the bin unweighed')
    await page.getByLabel('Knife time').fill('22')
    await page.getByLabel('Tournedos and tips').fill('17')
    await page.getByRole('button', { name: 'Close the run' }).tap()

    await expect(page.getByText('Cutting here saves')).toBeVisible()
    // other tests move prices: it is reckoned by what was in force when this one came
    await expect(page.getByText('As invoiced')).toBeVisible()
    const { quote, rates } = (await storedRun(page)) as unknown as {
      quote: { price: { amount: number } }
      rates: { ratePerHour: number; onCostPct: number }
    }
    const labour = (22 / 60) * rates.ratePerHour * (1 + rates.onCostPct / 100)
    const credit = 0.33 * 17
    await expect(page.locator('.ladder')).toContainText(`As invoiced€${(2.95 * quote.price.amount).toFixed(2)}`)
    await expect(page.locator('.ladder')).toContainText(`Labour, 22 min+ €${labour.toFixed(2)}`)
    await expect(page.locator('.ladder')).toContainText(`less Tournedos and tips− €${credit.toFixed(2)}`)
    const amounts = (await page.locator('.ladder-amount').allTextContents()).map((text) =>
      Number(text.replace(/[^\d.−]/g, '').replace('−', '-')),
    )
    const net = amounts.pop() ?? 0
    expect(Math.round(amounts.reduce((sum, amount) => sum + amount, 0) * 100)).toBe(Math.round(net * 100))
    const steak = page.getByRole('row', { name: /Centre steaks/ })
    const byCredit = await steak.textContent()
    await page.getByText('Weight', { exact: true }).first().tap()
    await expect(page.getByText('Right where the parts are worth much the same per kilo')).toBeVisible()
    expect(await steak.textContent()).not.toBe(byCredit)
    await expect(page.getByText('1 under, 5 within, 2 over.')).toBeVisible()
    await expect(page.getByText(/Given away 26.5\sg, €\d/)).toBeVisible()
    await expect(page.locator('.taken-back')).toContainText('1 880 g')
    await page.getByRole('link', { name: 'Yield log' }).tap()
    await expect(page.getByRole('row').nth(1)).toContainText('Ines Calloway')
  })

  test('on a tablet held upright nothing is cut off and every target is large enough', async ({ page }) => {
    await page.setViewportSize({ width: 820, height: 1180 })
    await stepIn(page, 'Jory Penhale')
    await receive(page)
    await weighByTouch(page, '184', 'Centre steaks')
    await expect(tubOf(page, 'Centre steaks')).toContainText('184')
    for (const button of await page.getByRole('main').getByRole('button').all()) {
      const box = await button.boundingBox()
      expect(box && box.height >= 63.5 && box.x >= 0 && box.x + box.width <= 820, String(await button.textContent())).toBe(true)
    }
  })
})

test('by keyboard alone: weighed, taken back, refused, finished', async ({ page }) => {
  await stepIn(page, 'Jory Penhale')
  await receive(page)
  await weighByKeyboard(page, '184', 1)
  await page.keyboard.type('6129')
  await page.keyboard.press('Backspace')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  await expect(tubOf(page, 'Head roast')).toContainText('612')
  await page.keyboard.type('1.2.3')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('status')).toHaveText('There are two decimal signs: write 1.25 kg or 1,25 kg.')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Backspace')
  await expect(tubOf(page, 'Head roast')).not.toContainText('612')
  await page.keyboard.type('1,25 kg')
  await page.keyboard.press('Enter')
  await expect(tubOf(page, 'Head roast')).toContainText('1 250')
  await page.keyboard.type('9000kg')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('status')).toContainText('over 500 kg')
  await page.keyboard.press('Escape')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys and cautions' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(4)
})

test('in pounds and ounces, entry included', async ({ page, browser, baseURL }) => {
  await stepIn(page, 'Maren Holt')
  await page.goto('/kitchen/limits')
  await page.getByText('Pounds and ounces').click()
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('Kept.')).toBeVisible()
  const cook = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(cook, 'Pip Marsden')
  await receive(cook, { billed: '6 lb 8 oz', received: '6 lb 7.5 oz' })
  await cook.keyboard.type('2 lb 3.5 oz')
  await cook.keyboard.press('Enter')
  await expect(tubOf(cook, 'Centre steaks')).toContainText('2 lb 3.5oz')
  await cook.keyboard.type('6.4')
  await cook.keyboard.press('Enter')
  await expect(cook.getByText('Received 6 lb 7.5 oz')).toBeVisible()
  await expect.poll(async () => (await storedRun(cook)).weighings.map((line) => line.tenths)).toEqual([10_064, 1814])
  await cook.goto('/log')
  await expect(cook.getByText('Cost / lb')).toBeVisible()
  await page.getByText('Grams and kilos').click()
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('Kept.')).toBeVisible()
})

test('of two people who finish one run, the second sees who was first', async ({ page, browser, baseURL }) => {
  await stepIn(page, 'Jory Penhale')
  await receive(page)
  await weighByKeyboard(page, '2.9kg', 1)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
  const lead = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(lead, 'Tobias Quill')
  const finish = `${page.url().replace('/bench/', '/runs/')}/finish`
  for (const who of [page, lead]) {
    await who.goto(finish)
    await expect(who.getByRole('button', { name: 'Close the run' })).toBeEnabled()
  }
  await lead.getByRole('button', { name: 'Close the run' }).click()
  await expect(lead.getByText('Where the weight went')).toBeVisible()
  await page.getByRole('button', { name: 'Close the run' }).click()
  await expect(page.getByText('This run is closed. Tobias Quill finished it.')).toBeVisible()
  await lead.getByLabel('Why it is opened again').fill('The trim was not weighed')
  await lead.getByRole('button', { name: 'Open this run again' }).click()
  await expect(lead.getByRole('region', { name: 'Tubs' })).toBeVisible()
})

test('the yield log is filtered, sorted, opened, and taken out as CSV, JSON and PDF', async ({ page }) => {
  await stepIn(page, 'Maren Holt')
  await page.goto('/log')
  await page.getByLabel('Cook').selectOption({ label: 'Tobias Quill' })
  await page.getByLabel('Item').selectOption({ label: 'Rib of beef, seven bones' })
  await page.getByRole('button', { name: 'Main yield' }).click()
  await expect(page.getByRole('columnheader', { name: 'Main yield' })).toHaveAttribute('aria-sort', 'descending')
  const rows = page.getByRole('row').filter({ has: page.getByRole('rowheader') })
  await expect(rows.first()).toContainText('Tobias Quill')
  await expect(
    page
      .getByText('Pip Marsden', { exact: true })
      .locator('visible=true')
      .filter({ hasNot: page.locator('option') }),
  ).toHaveCount(0)
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'CSV', exact: true }).click()])
  const lines = (await readFile(await csv.path(), 'utf8')).trim().split('\r\n')
  expect(lines.length - 1).toBe(await rows.count())
  await page.getByLabel('From').fill('2001-01-01')
  await page.getByLabel('To', { exact: true }).fill('2001-02-01')
  await expect(page.getByText('No run fits these filters.')).toBeVisible()
  await page.getByRole('button', { name: 'Show all runs' }).click()
  await rows.first().getByRole('link').click()
  const pdf = await page.request.get((await page.getByRole('link', { name: 'Sheet for the wall' }).getAttribute('href')) ?? '')
  expect(pdf.headers()['content-type']).toBe('application/pdf')
})

test('an import shows what it read before it writes, and refuses a broken file by line', async ({ page }) => {
  await stepIn(page, 'Maren Holt')
  await page.goto('/log')
  const monthAgo = new Date(Date.now() - 30 * 86_400_000).toISOString().slice(0, 10)
  const exported = await (await page.request.get(`/api/v1/runs.json?from=${monthAgo}`)).text()
  await page.getByRole('button', { name: 'Import JSON' }).click()
  const choose = (text: string) =>
    page.getByLabel('JSON file').setInputFiles({ name: 'log.json', mimeType: 'application/json', buffer: Buffer.from(text) })
  await choose(exported.slice(0, 900))
  await expect(page.getByText(/Line \d+, column \d+: This is not valid JSON here/)).toBeVisible()
  await choose(exported)
  await expect(page.getByText(/are here already/)).toBeVisible()
})
