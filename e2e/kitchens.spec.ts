import { expect, stepIn, test } from './fleam.ts'

test('a manager of three kitchens sets them side by side, goes from one to the other, and asks somebody in', async ({
  page,
  browser,
  baseURL,
}) => {
  await stepIn(page, 'Maren Holt')
  await page.goto('/kitchen/people')
  await page.getByRole('link', { name: 'Side by side' }).click()
  const table = page.getByRole('region', { name: 'Kitchens side by side' })
  await expect(table.getByRole('rowheader')).toHaveText([/^Curlew Point/, /^Saltmarsh House/, /^Sandbar Hall/])
  await page.getByLabel('What was cut').selectOption('beef-tenderloin-traditional')
  await expect(page.getByText('choose what was cut above')).toHaveCount(0)
  await table.getByRole('button', { name: 'Thrown away' }).click()
  await page.getByRole('radiogroup', { name: 'What is drawn' }).getByText('Thrown away').click()
  await expect(page.getByText('Thrown away of 3 kitchens')).toBeAttached()

  await table.getByRole('button', { name: 'Go to Sandbar Hall, banquets' }).click()
  await expect(page.getByRole('heading', { name: 'On the bench' })).toBeVisible()
  await expect(page.getByText('Sandbar Hall, banquets').first()).toBeVisible()
  await page.goto('/kitchen/people')
  await expect(page.getByText('Corin Tregear')).toBeVisible()
  await page.getByRole('button', { name: 'Ask somebody in' }).click()
  await page.getByRole('button', { name: 'Make a code' }).click()
  const code = await page.locator('.code-shown').textContent()

  const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(other, 'Tobias Quill')
  await other.goto('/account')
  await other.getByLabel('Come into another kitchen').fill(String(code))
  await other.getByRole('button', { name: 'Come in', exact: true }).click()
  await expect(other.getByText('You work in Sandbar Hall, banquets too now, as lead.')).toBeVisible()
  await other.getByRole('button', { name: 'Go to Sandbar Hall, banquets' }).click()
  await expect(other.getByRole('heading', { name: 'On the bench' })).toBeVisible()
  await expect(other.getByText('Sandbar Hall, banquets').first()).toBeVisible()
  await other.goto('/account')
  await expect(other.getByText('You signed in with the passphrase of your own kitchen')).toBeVisible()
  await other.context().close()

  await page.goto('/account')
  await page.getByRole('button', { name: /^Go to Saltmarsh House/ }).click()
  await expect(page.getByRole('heading', { name: 'On the bench' })).toBeVisible()
  await expect(page.getByText('Saltmarsh House, hotel kitchen and cookery school').first()).toBeVisible()
})
