import { spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { ensureBuilt } from './build.mjs'
import { chromium } from './chromium.mjs'
import { runMain } from './fail.mjs'
import { freePort, startMariadb } from './mariadb.mjs'
import { ensurePackages, ensureProgram, root } from './programs.mjs'

const pictures = join(root, 'docs/screenshots')

/** Takes one picture of each main view from fresh demo data into docs/screenshots. */
await runMain(async () => {
  ensurePackages()
  ensureProgram('/usr/bin/chromium')
  await ensureBuilt()
  const scratch = mkdtempSync(join(tmpdir(), 'fleam-pictures-'))
  const database = await startMariadb({ dataDirectory: scratch })
  const port = await freePort()
  const url = `http://127.0.0.1:${port}`
  const env = { ...process.env, DATABASE_URL: database.url, PORT: String(port), HOST: '127.0.0.1', FLEAM_DEMO: '1' }
  const server = spawn(process.execPath, [join(root, 'server/dist/main.js')], { cwd: root, env, stdio: 'inherit' })
  try {
    while (
      !(await fetch(`${url}/api/v1/health`).then(
        (answer) => answer.ok,
        () => false,
      ))
    )
      await pause(50)
    mkdirSync(pictures, { recursive: true })
    const { chromium: browsers } = await import('@playwright/test')
    const browser = await browsers.launch(chromium)
    try {
      await takePictures(await browser.newPage({ baseURL: url, viewport: { width: 1280, height: 800 } }))
    } finally {
      // an open browser would keep a failed run from ending
      await browser.close()
    }
  } finally {
    server.kill('SIGTERM')
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
})

async function takePictures(page) {
  const settled = async () => {
    await page.evaluate(() => document.fonts.ready)
    await page.evaluate(() => scrollTo(0, 0))
    await page.getByText('Fetching').waitFor({ state: 'detached' })
    await page.waitForTimeout(800)
  }
  const take = async (name, from) => {
    await settled()
    // below the bar
    await from?.evaluate((part) => scrollTo(0, part.getBoundingClientRect().top + scrollY - 70))
    await page.screenshot({ path: join(pictures, `${name}.png`) })
  }
  const weigh = async (tub, ...weights) => {
    for (const weight of weights) {
      await page.keyboard.type(String(weight))
      await page.keyboard.press(`Alt+Digit${tub}`)
    }
  }
  await page.goto('/sign-in')
  await page.getByText('step in as').waitFor()
  await page.getByRole('button', { name: 'Maren Holt' }).click()
  await page.getByText('main yield').first().waitFor()
  await page.goto('/receive')
  await page.getByLabel('What came').selectOption({ label: 'Beef tenderloin, peeled, side muscle on' })
  await page.getByLabel('Cut sheet').selectOption({ label: 'Beef tenderloin, traditional' })
  await page.getByLabel('Billed weight').fill('2.95 kg')
  await page.getByLabel('Received weight').fill('2936')
  await page.getByLabel('Core temperature').fill('2.8')
  await page.getByLabel('Lot').fill('14-B')
  await take('receive')
  await page.getByRole('button', { name: 'To the bench' }).click()
  await page.locator('.tub').first().waitFor()
  await weigh(8, 41)
  await weigh(7, 268)
  await weigh(6, 172)
  await weigh(4, 204)
  await weigh(2, 588)
  await weigh(1, 184, 179, 172, 181, 193.5)
  await page.keyboard.type('184')
  await page.waitForTimeout(400)
  await take('bench')
  await page.setViewportSize({ width: 820, height: 1180 })
  await page.emulateMedia({ colorScheme: 'dark' })
  await take('bench-upright')
  await page.emulateMedia({ colorScheme: 'light' })
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.keyboard.press('Escape')
  await page.goto('/')
  await page.getByText('main yield').first().waitFor()
  await take('board')
  await page.goto('/kitchen/side-by-side?cut=beef-tenderloin-traditional')
  await page.locator('.recharts-surface').first().waitFor()
  await take('kitchens')
  await page.goto('/log')
  await page.getByRole('rowheader').first().waitFor()
  await take('yield-log')
  const loins = page.getByRole('row').filter({ hasText: 'Beef tenderloin, traditional' }).filter({ hasNotText: 'still open' })
  await loins.first().getByRole('rowheader').getByRole('link').click()
  await page.getByText('Where the weight went').waitFor()
  await page.locator('.waterfall .recharts-surface').waitFor()
  await take('result')
  await page.goto('/log/yield-book')
  await page.locator('.narrowing .recharts-surface').first().waitFor()
  await take('yield-book')
  await page.goto('/compare')
  await page.locator('.strip-quote').first().waitFor()
  await take('compare')
  await page.getByRole('link', { name: /Beef tenderloin/ }).click()
  await page.getByText(/^middle 90 %/).waitFor()
  await page.locator('.cost-spread .recharts-surface').waitFor()
  await take('compare-portion')
  await page.goto('/compare/parts')
  await page.getByRole('link', { name: 'Chicken, whole, case of five' }).click()
  await page.getByText(/^Best use today/).waitFor()
  await take('value-in-parts')
  await page.goto('/plan')
  await page.locator('.cut-weight').first().waitFor()
  await take('plan')
  await page.goto('/days')
  await page.getByRole('link', { name: /^Saturday: carvery/ }).click()
  await page.getByText('The day costs').waitFor()
  await page.locator('.trace-flow .recharts-surface').waitFor()
  await take('day', page.getByRole('heading', { name: 'The plan' }))
  await page.getByRole('link', { name: 'When it starts' }).click()
  await page.getByRole('button', { name: 'Plan when it starts' }).click()
  await page.getByText('Everything is ready in time.').waitFor()
  await take('schedule')
  await receiveTurkeys(page)
  await weigh(1, '1.09kg', '1.11kg')
  await weigh(2, 480, 472)
  await weigh(3, 431, 428)
  await page.getByRole('button', { name: 'Next step' }).click()
  await page.goto('/school/classes')
  await page.getByRole('link', { name: /Handed back/ }).click()
  await page.getByText('14 done').waitFor()
  await page.locator('.wall-figures').first().waitFor()
  await take('class-wall')
  await page.goto('/school/cut?rung=loin-shown&seed=77')
  await cutOnScreen(page)
  await take('cut-on-screen')
  await page.goto('/cut-sheets')
  await page.getByText('Squab').first().waitFor()
  await page.getByRole('link', { name: /Chicken, supremes/ }).click()
  await page.getByRole('heading', { name: 'Take the legs off' }).scrollIntoViewIfNeeded()
  await page.getByText('round the oyster, through the joint').waitFor()
  await take('cut-sheet')
  await page.goto('/walk-in')
  await page.locator('.lots a').first().waitFor()
  await take('walk-in')
  await page.goto('/walk-in/follow-ons')
  await page.getByRole('link', { name: /White poultry stock/ }).click()
  await page.getByRole('link', { name: 'From the invoice to here' }).click()
  await page.locator('.trace-flow .recharts-surface').waitFor()
  await take('trace')
}

async function cutOnScreen(page) {
  const box = await page.locator('.screen-piece').boundingBox()
  for (const share of [0.13, 0.21, 0.28, 0.35, 0.42, 0.49, 0.57, 0.66, 0.8])
    await page.mouse.click(box.x + box.width * share, box.y + box.height * 0.45)
  await page.locator('.screen-weight').first().waitFor()
}

async function receiveTurkeys(page) {
  await page.goto('/receive')
  await page.getByLabel('What came').selectOption({ label: 'Turkey, whole, oven-ready' })
  await page.getByLabel('Pieces, how many').fill('6')
  await page.getByLabel('Billed weight').fill('43.3 kg')
  await page.getByLabel('Received weight').fill('43.2 kg')
  await page.getByRole('button', { name: 'To the bench' }).click()
  await page.locator('.tub').first().waitFor()
}
