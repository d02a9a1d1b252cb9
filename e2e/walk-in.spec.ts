import type { Page } from '@playwright/test'
import { expect, receive, stepIn, test, weighByKeyboard } from './fleam.ts'

/** Three steaks cut, finished and put away. */
async function threeSteaks(page: Page, lot: string): Promise<void> {
  await receive(page, { lot })
  for (const weight of ['184', '182', '180']) await weighByKeyboard(page, weight, 1)
  await page.getByRole('button', { name: 'Finish and cost' }).click()
  await page
    .getByLabel(/minutes/i)
    .first()
    .fill('9')
  await page.getByLabel('Where it went').fill('drip and trim, not weighed')
  await page.getByRole('button', { name: 'Close the run' }).click()
  await expect(page.getByRole('heading', { name: 'In the walk-in' })).toBeVisible()
}

test('what was cut lies in the walk-in: one portion goes to a dish, offline too, and is taken back', async ({ page, fleam }) => {
  await stepIn(page, 'Tobias Quill')
  await threeSteaks(page, 'W-1')
  await page.getByRole('link', { name: 'Centre steaks' }).first().click()
  const panel = page.getByRole('dialog')
  await expect(panel.getByText('546 g, 3 portions')).toBeVisible()
  await panel.getByRole('button', { name: 'One portion more' }).click()
  await panel.getByLabel('Which dish').fill('Steak, chips')
  await panel.getByRole('button', { name: 'Take 1 portion' }).click()
  await expect(panel.getByText('364 g, 2 portions')).toBeVisible()
  await expect(panel.getByText('Steak, chips').first()).toBeVisible()

  await fleam.kill()
  await panel.getByRole('button', { name: 'One portion more' }).click()
  await panel.getByRole('button', { name: 'Take 1 portion' }).click()
  await expect(panel.getByText('182 g, 1 portion')).toBeVisible()
  await expect(page.getByRole('button', { name: '1 waiting on this tablet' })).toBeVisible()
  await fleam.start()
  await expect(page.getByText('waiting on this tablet')).toHaveCount(0, { timeout: 15_000 })
  await expect(panel.getByText('182 g, 1 portion')).toBeVisible()
  await panel
    .getByRole('button', { name: /^Take back: Taken/ })
    .first()
    .click()
  await expect(panel.getByText('364 g, 2 portions')).toBeVisible()
})

test('steaks become grind, with what it costs, and the way is drawn from the delivery on', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await threeSteaks(page, 'W-2')
  await page.goto('/walk-in/follow-ons')
  await page.getByRole('button', { name: 'Make something' }).click()
  await page.getByLabel('What', { exact: true }).selectOption({ label: 'House grind' })
  const panel = page.getByRole('dialog')
  await panel
    .getByRole('checkbox', { name: /Centre steaks/ })
    .last()
    .check()
  await panel.getByRole('button', { name: 'Take it and start' }).click()
  await expect(page.getByRole('heading', { name: 'What came out' })).toBeVisible()
  await page.getByLabel('How much, grams').fill('520')
  await page.getByRole('button', { name: 'Finish and put away' }).click()
  await expect(page.getByRole('heading', { name: 'What it costs' })).toBeVisible()
  await page.getByRole('link', { name: 'From the invoice to here' }).click()
  await expect(page.getByRole('link', { name: /House grind \(lot/ })).toBeVisible()
  await expect(page.getByText(/lot W-2/).first()).toBeVisible()
})

test('a supplier calls a lot back: it is found, and what is left is blocked with one tap', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await threeSteaks(page, 'W-3')
  await page.goto('/walk-in/trace')
  await page.getByRole('searchbox', { name: 'A supplier’s lot' }).fill('W-3')
  await page.getByRole('button', { name: 'Find it' }).click()
  await expect(page.getByRole('heading', { name: 'Supplier’s lot W-3' })).toBeVisible()
  await page.getByLabel('Why').fill('listeria, the supplier rang')
  await page.getByRole('button', { name: 'Block what is left' }).click()
  await expect(page.getByText('Nothing of it is left that is not blocked.')).toBeVisible()
  await page.getByRole('link', { name: /Centre steaks \(lot/ }).click()
  await expect(page.getByRole('dialog').getByText('Called back: it is not to be used.')).toBeVisible()
})
