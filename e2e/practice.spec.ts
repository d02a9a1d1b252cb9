import type { Page } from '@playwright/test'
import { expect, receive, stepIn, test, weighByKeyboard } from './fleam.ts'

test('a weight is said before the scale says it, and waits on the tablet while the server is away', async ({ page, fleam }) => {
  await stepIn(page, 'Jory Penhale')
  await page.goto('/cut-sheets')
  await page.getByRole('link', { name: 'Practise', exact: true }).click()
  await page.getByRole('link', { name: 'By eye' }).click()
  await expect(page.getByText('Nothing was guessed yet.')).toBeVisible()
  await expect(page.getByText('Lay a piece on the pan.')).toBeVisible()
  await fleam.scale.put(184)
  await expect(page.getByText('Something lies still on the pan.')).toBeVisible()
  await expect(page.getByText('184')).toHaveCount(0)
  await page.getByLabel('You say').fill('200')
  await page.getByRole('button', { name: 'Show what it weighs' }).click()
  await expect(page.getByText('You said 200 g: 8.7 % too much.')).toBeVisible()
  await expect(page.getByText('one guess so far')).toBeVisible()
  await page.route('**/api/v1/practice/eye', (route) => route.abort())
  await page.getByLabel('You say').fill('180')
  await page.getByRole('button', { name: 'Show what it weighs' }).click()
  await expect(page.getByText('1 guess kept on this tablet until the server has them')).toBeVisible()
  await page.unroute('**/api/v1/practice/eye')
  await page.reload()
  await expect(page.getByText('kept on this tablet')).toHaveCount(0)
  await expect(page.locator('.headline').filter({ has: page.getByText('Guesses', { exact: true }) })).toContainText('2')
})

/** Taps something of the drawing in its middle. */
async function tap(page: Page, id: string): Promise<void> {
  const box = await page.locator(`[data-drawn="${id}"] path`).first().boundingBox()
  if (!box) throw new Error(`${id} is not drawn.`)
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2)
}

test('landmarks, cut lines and what now are practised from a sheet, and wait on the tablet while the server is away', async ({ page }) => {
  await stepIn(page, 'Ines Calloway')
  await page.goto('/school')
  await page.route('**/api/v1/practice/answers', (route) => route.abort())
  await page.getByRole('button', { name: /^Begin: 8 questions/ }).click()
  await expect(page.getByRole('heading', { name: 'Tap the giblets and lump fat.' })).toBeVisible()
  await tap(page, 'giblets')
  await expect(page.getByText('Right.', { exact: true })).toBeVisible()
  for (let card = 1; card < 8; card += 1) {
    await page.getByRole('button', { name: 'Go on' }).click()
    const drawing = page.getByRole('button', { name: /^The drawing/ })
    await drawing.focus()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: 'Go on' })).toBeVisible()
  }
  await page.getByRole('button', { name: 'Stop here' }).click()
  await expect(page.getByText('8 answers kept on this tablet until the server has them')).toBeVisible()
  await expect(page.getByText('Done for today.')).toBeVisible()
  await page.unroute('**/api/v1/practice/answers')
  await page.reload()
  await expect(page.getByText('Done for today.')).toBeVisible()
  await expect(page.getByText('kept on this tablet')).toHaveCount(0)
})

test('a rack is cut on screen, held against its best plan, and kept', async ({ page }) => {
  await stepIn(page, 'Ines Calloway')
  await page.goto('/school/cut?rung=rack&seed=77')
  const box = await page.locator('.screen-piece').boundingBox()
  if (!box) throw new Error('There is no piece.')
  for (const share of [0.25, 0.5, 0.74]) await page.mouse.click(box.x + box.width * share, box.y + box.height * 0.45)
  await expect(page.getByRole('slider')).toHaveCount(3)
  await page.getByRole('slider', { name: 'Cut 1' }).focus()
  await page.keyboard.press('ArrowRight')
  const [kept] = await Promise.all([
    page.waitForResponse((response) => response.url().includes('/practice/attempts') && response.request().method() === 'POST'),
    page.getByRole('button', { name: 'Cut it' }).click(),
  ])
  const { score, cutsCm } = (await kept.json()) as { score: number; cutsCm: number[] }
  expect(cutsCm).toHaveLength(3)
  await expect(page.locator('.cut-verdict .headline b')).toHaveText(String(Math.floor(score * 10) / 10))
  await expect(page.getByText('The dotted lines are the best plan.')).toBeVisible()
  await expect(page.getByRole('button', { name: /A rack/ })).toContainText(`best ${Math.floor(score)}`)
})

test('a cook’s fortnight of practice shows, to the cook and to a lead', async ({ page }) => {
  await stepIn(page, 'Adaeze Lindqvist')
  await page.goto('/school/progress')
  await page.getByLabel('Whose').selectOption({ label: 'Pip Marsden' })
  await expect(page.getByRole('heading', { name: 'Progress of Pip Marsden' })).toBeVisible()
  await expect(page.getByText(/Your guesses run .* high, beyond chance/)).toBeVisible()
  await expect(page.getByText(/days of the last fortnight/)).toBeVisible()
  await expect(page.getByRole('img', { name: /yields lie within what to expect/ })).toBeVisible()
  await expect(page.getByText(/A rack: best \d+, last \d+, 7 pieces/)).toBeVisible()
})

test('no pace is shown before the cautions are read, once', async ({ page }) => {
  await stepIn(page, 'Pip Marsden')
  await page.goto('/school/pace')
  await expect(page.getByRole('heading', { name: 'Before any pace is shown' })).toBeVisible()
  await expect(page.getByRole('table')).toHaveCount(0)
  await page.getByRole('button', { name: 'Read: show the pace' }).click()
  await expect(page.getByRole('columnheader', { name: 'Own best' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('columnheader', { name: 'The house' })).toBeVisible()
})

test('within a run a weight is said before the piece is weighed, and nothing waits for it', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await receive(page)
  await page.getByRole('button', { name: 'By eye' }).click()
  await page.getByLabel('You say').fill('200')
  await page.getByRole('button', { name: 'Say it' }).click()
  await expect(page.getByRole('button', { name: 'Said 200 g' })).toBeVisible()
  await weighByKeyboard(page, '184', 1)
  await expect(page.getByText('You said 200 g: 8.7 % too much.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'By eye' })).toBeVisible()
  await page.goto('/school/eye')
  await expect(page.locator('.headline').filter({ has: page.getByText('Guesses', { exact: true }) })).toContainText('1')
})
