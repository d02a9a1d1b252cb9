import { gzipSync } from 'node:zlib'
import { addDays, format } from 'date-fns'
import { expect, receive, stepIn, test } from './fleam.ts'

test('a new kitchen is led to its first manager, its prices and its people', async ({ page, emptyFleam }) => {
  await page.goto(emptyFleam.url)
  await page.getByLabel('Name of the kitchen').fill('Quay Kitchen')
  await page.getByLabel('Your name').fill('Wren Ashby')
  await page.getByLabel('Passphrase').fill('short')
  await page.getByRole('button', { name: 'Open the kitchen' }).click()
  await expect(page.getByText('Use at least 12 characters: a few words are easy to keep.')).toBeVisible()
  await page.getByLabel('Passphrase').fill('four wet oars')
  await page.getByRole('button', { name: 'Open the kitchen' }).click()
  await page.getByLabel('Labour').fill('18,50')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('Kept.')).toBeVisible()

  await page.getByRole('link', { name: 'Prices' }).click()
  await page.getByRole('button', { name: 'Add a supplier' }).click()
  await page.getByLabel('Name').fill('Quayside Meats')
  await page.getByRole('button', { name: 'Keep' }).click()
  await page.getByRole('button', { name: 'Add an item bought whole' }).click()
  await page.getByLabel('Name').fill('Tenderloin')
  await page.getByRole('button', { name: 'Keep' }).click()
  await page.getByRole('button', { name: 'Quotes of Tenderloin' }).click()
  await page.getByLabel('Price, EUR').fill('much')
  await page.getByRole('button', { name: 'Add this quote' }).click()
  await expect(page.getByText('Type an amount.')).toBeVisible()
  for (const price of ['30', '31.40']) {
    await page.getByLabel('Price, EUR').fill(price)
    await page.getByRole('button', { name: 'Add this quote' }).click()
    await expect(
      page
        .getByRole('listitem')
        .filter({ hasText: `€${Number(price).toFixed(2)}` })
        .first(),
    ).toBeVisible()
  }
  await expect(page.getByRole('dialog').getByText('€30.00 / kg')).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()

  await page.getByRole('link', { name: 'People' }).click()
  await page.getByRole('button', { name: 'Add a person' }).click()
  await page.getByLabel('Name').fill('Robin Tarn')
  await page.getByLabel('PIN').fill('1234')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('Choose figures that nobody tries first.')).toBeVisible()
  await page.getByLabel('PIN').fill('4719')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('Robin Tarn')).toBeVisible()
  await page.getByRole('link', { name: 'What was changed' }).click()
  await expect(page.getByText('labour: rate per hour')).toBeVisible()
  await page.getByRole('link', { name: 'Tablets' }).click()
  await expect(page.getByText('No tablet is the kitchen’s own yet.')).toBeVisible()
  await page.getByLabel('What it is called').fill('Fish bench')
  await page.getByRole('button', { name: 'Enrol this device' }).click()
  await expect(page.getByText('tablet enrolled: Fish bench')).toBeVisible()
  await page.getByRole('button', { name: 'Somebody else' }).click()
  const type = async (pin: string) => {
    for (const figure of pin) await page.getByRole('button', { name: figure, exact: true }).click()
    await page.getByRole('button', { name: 'Enter' }).click()
  }
  await page.getByRole('button', { name: 'Robin Tarn' }).click()
  await type('8888')
  await expect(page.getByText('That name and PIN or passphrase do not go together.')).toBeVisible()
  for (let figures = 0; figures < 4; figures += 1) await page.getByRole('button', { name: 'Delete the last figure' }).click()
  await type('4719')
  await expect(page.getByText('Nothing is being cut.')).toBeVisible()
  // the person at the tablet is changed in two taps and a secret, and one comes back to where one was
  await page.getByRole('link', { name: 'Cut sheets' }).click()
  await expect(page).toHaveURL(/\/cut-sheets$/)
  await page.getByRole('button', { name: 'Somebody else' }).click()
  await page.getByRole('button', { name: 'Wren Ashby' }).click()
  await page.getByLabel('Passphrase').fill('four wet oars')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('link', { name: 'Wren Ashby · manager' })).toBeVisible()
  await expect(page).toHaveURL(/\/cut-sheets$/)
})

test('a cook sees prices and people and cannot change them', async ({ page }) => {
  await stepIn(page, 'Ines Calloway')
  await page.goto('/kitchen/prices')
  await expect(page.getByText('Bought whole')).toBeVisible()
  await expect(page.getByRole('button', { name: /^Add/ })).toHaveCount(0)
  await page.goto('/kitchen/limits')
  await expect(page.getByText('A manager can change these.')).toBeVisible()
  await expect(page.getByLabel('Labour')).toBeDisabled()
})

test('the pages are dark where the tablet is, and as chosen from then on', async ({ page }) => {
  await page.emulateMedia({ colorScheme: 'dark' })
  await stepIn(page, 'Pip Marsden')
  const theme = () => page.locator('html').getAttribute('data-bs-theme')
  expect(await theme()).toBe('dark')
  await page.getByRole('button', { name: 'Light pages' }).click()
  await expect(page.getByRole('button', { name: 'Dark pages' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('button', { name: 'Dark pages' })).toBeVisible()
  expect(await theme()).toBe('light')
})

test('what was typed for a new dish is there again after a reload; its day is the same east and west', async ({
  page,
  browser,
  baseURL,
}) => {
  const day = format(addDays(new Date(), 60), 'd MMM yyyy')
  await stepIn(page, 'Tobias Quill')
  await page.goto('/kitchen/dishes')
  await page.getByLabel('Dish').fill('Cheek pie')
  await page.reload()
  await expect(page.getByLabel('Dish')).toHaveValue('Cheek pie')
  await page.getByLabel('How much').fill('a lot')
  await page.getByRole('button', { name: 'Add the dish' }).click()
  await expect(page.getByRole('alert').first()).toBeVisible()
  await page.getByLabel('How much').fill('2 kg')
  await page.getByLabel('By').fill(day)
  await page.getByLabel('By').press('Escape')
  await page.getByRole('button', { name: 'Add the dish' }).click()
  await expect(page.getByText(`by ${day}`)).toBeVisible()
  await page.reload()
  await expect(page.getByText(`by ${day}`)).toBeVisible()
  await expect(page.getByLabel('Dish')).toHaveValue('')
  for (const timezoneId of ['Pacific/Auckland', 'America/Los_Angeles']) {
    const there = await (await browser.newContext({ baseURL: baseURL ?? '', timezoneId })).newPage()
    await stepIn(there, 'Pip Marsden')
    await there.goto('/kitchen/dishes')
    await expect(there.getByText(`by ${day}`)).toBeVisible()
    await there.context().close()
  }
})

test('the bench page loads at most 240 kB of JavaScript, gzipped', async ({ page }) => {
  await stepIn(page, 'Maren Holt')
  await receive(page)
  const scripts = new Set<string>()
  page.on('response', (response) => {
    if (response.url().endsWith('.js')) scripts.add(response.url())
  })
  await page.reload()
  await expect(page.getByRole('region', { name: 'Tubs' })).toBeVisible()
  // asked for again: a browser may let go of what it has run
  const bodies = await Promise.all([...scripts].map(async (url) => (await page.request.get(url)).body()))
  const bytes = bodies.reduce((sum, body) => sum + gzipSync(body).length, 0)
  expect(bytes).toBeGreaterThan(50_000)
  expect(bytes).toBeLessThanOrEqual(240_000)
})
