import { expect, receive, stepIn, storedRun, test, tubOf, weighByKeyboard } from './fleam.ts'

test('what is weighed while the server is dead is kept through a reload and stored once when it is back', async ({ page, fleam }) => {
  await stepIn(page, 'Tobias Quill')
  await receive(page)
  await weighByKeyboard(page, '184', 1)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
  await fleam.kill()
  await weighByKeyboard(page, '179', 1)
  await weighByKeyboard(page, '612', 2)
  await expect(tubOf(page, 'Centre steaks')).toContainText('363')
  await expect(page.getByRole('button', { name: '2 waiting on this tablet' })).toBeVisible()
  await page.getByRole('button', { name: '2 waiting on this tablet' }).click()
  await expect(page.getByText('The server cannot be reached. What was weighed is kept here')).toBeVisible()
  await fleam.start()
  await page.reload()
  await expect(page.getByText('waiting on this tablet')).toHaveCount(0)
  await expect(tubOf(page, 'Head roast')).toContainText('612')
  await expect.poll(async () => (await storedRun(page)).weighings.map((line) => line.tenths)).toEqual([1840, 1790, 6120])
})

test('a lost answer is asked for again and the weighing stored once', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await receive(page)
  let lost = 0
  await page.route('**/weighings', async (route) => {
    if (lost++ > 1) return route.continue()
    await route.fetch()
    return route.abort('connectionreset')
  })
  await weighByKeyboard(page, '184', 1)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
  await expect.poll(() => lost).toBeGreaterThan(2)
  await expect(page.getByText('waiting on this tablet')).toHaveCount(0)
  expect((await storedRun(page)).weighings).toHaveLength(1)
})

test('a page of the network’s own in place of an answer never counts as stored', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await receive(page)
  const answers = [
    { status: 200, contentType: 'text/html', body: '<h1>Welcome to the guest network</h1>' },
    { status: 403, contentType: 'text/html', body: '<h1>Sign in to the guest network</h1>' },
    { status: 200, json: { ok: true } },
  ]
  await page.route('**/weighings', (route) => {
    const answer = answers.shift()
    return answer ? route.fulfill(answer) : route.continue()
  })
  await weighByKeyboard(page, '184', 1)
  // three tries later, each after a longer wait
  await expect.poll(async () => (await storedRun(page)).weighings.length, { timeout: 60_000 }).toBe(1)
  expect(answers).toEqual([])
  await expect(page.getByText('waiting on this tablet')).toHaveCount(0)
})

test('while the database is away the page keeps the weight, says so, and goes on by itself', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await receive(page)
  let away = true
  const problem = { type: 'urn:fleam:problem:database-away', title: 'The kitchen’s records cannot be reached just now.', status: 503 }
  await page.route('**/weighings', (route) => (away ? route.fulfill({ status: 503, json: problem }) : route.continue()))
  await weighByKeyboard(page, '184', 1)
  await page.getByRole('button', { name: '1 waiting on this tablet' }).click()
  await expect(page.getByText('The kitchen’s records cannot be reached just now.')).toBeVisible()
  away = false
  await expect(page.getByText('waiting on this tablet')).toHaveCount(0)
  expect((await storedRun(page)).weighings).toHaveLength(1)
})

test('what a closed run can no longer take is kept and shown until it has been seen', async ({ page, browser, baseURL }) => {
  await page.route('**/api/v1/live**', (route) => route.abort('connectionrefused'))
  await stepIn(page, 'Ines Calloway')
  await receive(page)
  await weighByKeyboard(page, '2.9kg', 1)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(1)
  const run = await storedRun(page)
  const lead = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
  await stepIn(lead, 'Tobias Quill')
  const finished = await lead.request.post(`/api/v1/runs/${run.id}/finish`, { data: { version: run.version, minutes: 20 } })
  expect(finished.status()).toBe(200)
  await weighByKeyboard(page, '30', 1)
  await page.getByRole('button', { name: '1 not accepted' }).click()
  await expect(page.getByText('Tobias Quill finished it. A lead can open it again.').first()).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: '1 not accepted' }).click()
  await page.getByRole('button', { name: 'Let it go, noted on the run' }).click()
  await expect(page.getByText('not accepted')).toHaveCount(0)
})

test('a tablet whose store is full says so, and sends at once', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await receive(page)
  await page.evaluate(() => {
    const add = IDBObjectStore.prototype.add
    IDBObjectStore.prototype.add = () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError')
    }
    addEventListener('room', () => {
      IDBObjectStore.prototype.add = add
    })
  })
  await weighByKeyboard(page, '184', 1)
  await page.getByRole('button', { name: 'Not kept on this tablet' }).click()
  await expect(page.getByText('its store is full or shut off')).toBeVisible()
  await expect.poll(async () => (await storedRun(page)).weighings.map((line) => line.tenths)).toEqual([1840])
  await page.evaluate(() => dispatchEvent(new Event('room')))
  await weighByKeyboard(page, '612', 2)
  await expect(page.getByRole('button', { name: 'Not kept on this tablet' })).toHaveCount(0)
  await expect.poll(async () => (await storedRun(page)).weighings.length).toBe(2)
})

test('a newer build served while a run is open: the page that is gone says so, and opens anew', async ({ page }) => {
  await stepIn(page, 'Tobias Quill')
  await receive(page)
  await weighByKeyboard(page, '184', 1)
  await page.route('**/assets/finish-page-*.js', (route) => route.fulfill({ status: 404, body: '' }))
  await page.getByRole('button', { name: 'Finish and cost' }).click()
  await expect(page.getByText('a newer Fleam than this page')).toBeVisible()
  await page.unroute('**/assets/finish-page-*.js')
  await page.getByRole('button', { name: 'Open it anew' }).click()
  await expect(page.getByRole('heading', { name: /Finish and cost/ })).toBeVisible()
  expect((await storedRun(page)).weighings.map((line) => line.tenths)).toEqual([1840])
})
