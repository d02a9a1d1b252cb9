import { barriers, expect, receive, stepIn, test, weighByKeyboard } from './fleam.ts'

// every view is looked at as a whole: they share both workers
test.describe.configure({ mode: 'parallel' })

// each size and each scheme once: a page is laid out alike in both schemes, and coloured alike at both sizes; what does not hang on
// either is looked at once
const views = [
  { size: { width: 1280, height: 800 }, colorScheme: 'light', rules: undefined },
  { size: { width: 820, height: 1180 }, colorScheme: 'dark', rules: ['color-contrast', 'scrollable-region-focusable'] },
] as const
for (const { size, colorScheme, rules } of views) {
  test(`nothing bars anyone's way at ${size.width} × ${size.height}, ${colorScheme}, and no page is wider than the screen`, async ({
    page,
  }) => {
    test.setTimeout(600_000)
    await page.setViewportSize(size)
    await page.emulateMedia({ colorScheme })
    const look = async (what: string) => {
      await page.evaluate(() => document.fonts.ready)
      expect(await barriers(page, rules && [...rules]), what).toEqual([])
      expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), what).toBeLessThanOrEqual(0)
    }
    await page.goto('/sign-in')
    await expect(page.getByText('step in as')).toBeVisible()
    await look('sign in')
    await stepIn(page, 'Maren Holt')
    await expect(page.getByText('main yield').first()).toBeVisible()
    await look('board')
    await receive(page)
    await weighByKeyboard(page, '184', 1)
    await page.keyboard.type('172')
    await look('bench')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Weighings' }).click()
    await expect(page.getByRole('dialog')).toBeVisible()
    await page.waitForFunction(() => document.querySelector('.offcanvas.show:not(.showing)') !== null)
    await look('weighings')
    await page.keyboard.press('Escape')
    await page.goto(`${page.url().replace('/bench/', '/runs/')}/finish`)
    await expect(page.getByRole('heading', { name: /Finish and cost/ })).toBeVisible()
    await look('finish')
    const places = [
      '/bench',
      '/receive',
      '/receive/paper',
      '/days',
      '/school',
      '/school/eye',
      '/school/cut?rung=rack&seed=7',
      '/school/classes',
      '/school/progress',
      '/school/pace',
      '/log/claims',
      '/cut-sheets',
      '/log',
      '/log/yield-book',
      '/compare',
      '/compare/parts',
      '/compare/steps',
      '/kitchen/prices',
      '/kitchen/people',
      '/kitchen/dishes',
      '/kitchen/limits',
      '/kitchen/changes',
      '/account',
      '/kitchen/side-by-side',
      '/walk-in',
      '/walk-in/follow-ons',
      '/walk-in/trace?lot=H132',
      '/plan',
      '/plan/rack',
      '/plan/pair',
    ]
    for (const place of places) {
      await page.goto(place)
      await page.getByRole('heading').first().waitFor()
      await expect(page.getByText('Fetching')).toHaveCount(0)
      await look(place)
    }
    await page.goto('/school/classes')
    await page
      .getByRole('link', { name: /Handed back/ })
      .last()
      .click()
    await expect(page.getByText('14 done')).toBeVisible()
    await look('a class at its benches')
    await page.goto('/cut-sheets?words=tenderloin')
    await page.getByRole('link', { name: /Beef tenderloin, traditional/ }).click()
    await expect(page.getByText('Step by step')).toBeVisible()
    await look('cut sheet')
    await page.getByRole('link', { name: 'Drawing for the wall' }).click()
    await page.getByText('Life-size', { exact: true }).click()
    await expect(page.getByRole('region', { name: /^Sheet 1 of/ })).toBeVisible()
    await look('a drawing, life-size')
    await page.getByText('Step by step', { exact: true }).click()
    await look('a drawing, step by step')
    await page.goto('/walk-in')
    await page.locator('.lots a').first().click()
    await expect(page.getByRole('heading', { name: 'Its books' })).toBeVisible()
    await page.waitForFunction(() => document.querySelector('.offcanvas.show:not(.showing)') !== null)
    await look('a lot')
    await page.goto('/walk-in/follow-ons')
    await page.locator('.last-runs a').first().click()
    await expect(page.getByText('What it costs')).toBeVisible()
    await look('a follow-on')
    await page.goto('/compare')
    await page.getByRole('link', { name: /Salmon: Portions/ }).click()
    await expect(page.getByText(/^middle 90 %/)).toBeVisible()
    await look('a comparison')
    await page.goto('/compare/parts')
    await page.getByRole('link', { name: 'Chicken, whole, case of five' }).click()
    await expect(page.getByText(/^Best use today/)).toBeVisible()
    await look('an item in parts')
    await page.goto('/log')
    await page.getByRole('rowheader').nth(4).getByRole('link').click()
    await expect(page.getByText('Where the weight went')).toBeVisible()
    await look('result')
    const finished = await (await page.request.get('/api/v1/runs?status=finished&limit=1')).json()
    await page.goto(`/runs/${finished.entries[0].id}/put-right`)
    await expect(page.getByText('Nothing is changed yet.')).toBeVisible()
    await look('putting right')
    await page.goto('/days')
    await page
      .getByRole('link', { name: /^Saturday: carvery/ })
      .last()
      .click()
    await expect(page.getByText('The day costs')).toBeVisible({ timeout: 60_000 })
    await look('a day')
    await page.getByRole('link', { name: 'Who and where' }).click()
    await expect(page.getByRole('heading', { name: 'How each dish is cooked' })).toBeVisible()
    await look('who and where')
    await page.getByRole('link', { name: 'When it starts' }).click()
    const plan = page.getByRole('button', { name: 'Plan when it starts' })
    await expect(plan.or(page.getByText('By place'))).toBeVisible()
    if (await plan.isVisible()) await plan.click()
    await page.getByText('By place').click({ timeout: 60_000 })
    await look('when it starts')
    await page.getByRole('link', { name: 'Sheets', exact: true }).click()
    await expect(page.getByRole('link', { name: /^Calendar file of / }).first()).toBeVisible()
    await look('sheets')
  })
}
