import { connect } from 'node:net'
import { chromium as browsers, type Page } from '@playwright/test'
import { chromium } from '../scripts/chromium.mjs'
import { type Measured, ms, percentile } from './measure.ts'
import { type BenchServer, startRun } from './server.ts'

/** A browser page with the demo's manager signed in. */
export async function openSignedIn(server: BenchServer) {
  const browser = await browsers.launch(chromium)
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`${server.url}/sign-in`)
  await page.getByRole('button', { name: 'Maren Holt' }).click()
  await page.waitForURL(`${server.url}/`)
  return { browser, page }
}

declare global {
  interface Window {
    /** The longest gap between two frames while something is under way, ms. */
    longestGap(work: () => Promise<void>): Promise<number>
  }
}

/** Gives a page the means to watch its own frames. */
export async function watchFrames(page: Page): Promise<void> {
  await page.evaluate(() => {
    window.longestGap = async (work) => {
      await new Promise(requestAnimationFrame)
      let last = performance.now()
      let longest = 0
      let isOver = false
      const watch = (now: number) => {
        longest = Math.max(longest, now - last)
        last = now
        if (!isOver) requestAnimationFrame(watch)
      }
      requestAnimationFrame(watch)
      await work()
      isOver = true
      return longest
    }
  })
}

const taps = 60

/** From the tap that puts a weight in to the frame that shows the new figure, under 4 × CPU throttling. */
export async function measureTap(server: BenchServer): Promise<Measured[]> {
  const run = await startRun(server)
  const { browser, page } = await openSignedIn(server)
  await page.goto(`${server.url}/bench/${run.id}`)
  await page.locator('.tub').first().waitFor()
  const session = await page.context().newCDPSession(page)
  await session.send('Emulation.setCPUThrottlingRate', { rate: 4 })
  const times: number[] = await page.evaluate(async (count) => {
    const button = (selector: string, text?: string) =>
      [...document.querySelectorAll<HTMLElement>(selector)].find(
        (element) => text === undefined || element.textContent === text,
      ) as HTMLElement
    const painted = () => new Promise<void>((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
    const measured: number[] = []
    for (let tap = 0; tap < count; tap += 1) {
      for (const figure of ['1', '8', '4']) button('.key', figure).click()
      await painted()
      const before = button('.tub-weight').textContent
      const start = performance.now()
      button('.tub').click()
      while (button('.tub-weight').textContent === before) await painted()
      await painted()
      measured.push(performance.now() - start)
      await new Promise((resolve) => setTimeout(resolve, 50))
    }
    return measured
  }, taps)
  await browser.close()
  return [
    {
      what: 'tap to painted figure, 95th percentile, 4 × throttled',
      value: ms(percentile(times, 0.95)),
      against: `median ${ms(percentile(times, 0.5))}, ${taps} taps`,
    },
  ]
}

const loads = 25

/** From the scale's first steady line to the frame that shows that weight, under 4 × CPU throttling. */
export async function measureScale(server: BenchServer): Promise<Measured[]> {
  const run = await startRun(server)
  const { browser, page } = await openSignedIn(server)
  await page.goto(`${server.url}/bench/${run.id}`)
  await page.getByText('Scale steady').waitFor()
  const session = await page.context().newCDPSession(page)
  await session.send('Emulation.setCPUThrottlingRate', { rate: 4 })
  let steadyAt = 0
  const socket = connect(server.scale.port, '127.0.0.1')
  socket.setEncoding('utf8').on('data', (text: string) => {
    if (steadyAt === 0 && /"weight":1\d\d(\.\d)?,.*"state":"steady"/.test(text)) steadyAt = Date.now()
  })
  const times: number[] = []
  for (let load = 0; load < loads; load += 1) {
    steadyAt = 0
    const painted = page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const look = () => {
            const readout = document.querySelector('.readout')
            const isThere = readout && !readout.classList.contains('readout-empty') && /^1\d\d/.test(readout.textContent ?? '')
            if (isThere) setTimeout(() => resolve(Date.now()))
            else requestAnimationFrame(look)
          }
          look()
        }),
    )
    await server.scale.put(120 + load)
    times.push((await painted) - steadyAt)
    await server.scale.clear()
    await page.waitForFunction(() => document.querySelector('.readout')?.textContent?.startsWith('0'))
  }
  socket.destroy()
  await browser.close()
  return [
    {
      what: 'scale steady to painted readout, 95th percentile, 4 × throttled',
      value: ms(percentile(times, 0.95)),
      against: `median ${ms(percentile(times, 0.5))}, ${loads} loads`,
    },
  ]
}

const keystrokes = 25

/** From the last keystroke in the weight of a piece to the frame that shows its new plan. */
export async function measurePlanPage(server: BenchServer): Promise<Measured[]> {
  const { browser, page } = await openSignedIn(server)
  const session = await page.context().newCDPSession(page)
  const measured: Record<number, number[]> = {}
  for (const rate of [1, 4]) {
    await session.send('Emulation.setCPUThrottlingRate', { rate: 1 })
    await page.goto(`${server.url}/plan`)
    await page.locator('.cut-weight').first().waitFor()
    await session.send('Emulation.setCPUThrottlingRate', { rate })
    measured[rate] = await page.evaluate(async (count) => {
      const field = [...document.querySelectorAll('input')].find(
        (input) => (input as HTMLInputElement).labels?.[0]?.textContent === 'Trimmed weight, g',
      ) as HTMLInputElement
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set
      const weights = () => [...document.querySelectorAll('.cut-weight, .cut-thickness')].map((text) => text.textContent).join()
      const times: number[] = []
      for (let turn = 0; turn < count; turn += 1) {
        const before = weights()
        const start = performance.now()
        set?.call(field, String(1900 + ((turn * 37) % 200)))
        field.dispatchEvent(new Event('input', { bubbles: true }))
        while (weights() === before || document.querySelector('.plan-busy'))
          await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
        times.push(performance.now() - start)
        await new Promise((resolve) => setTimeout(resolve, 60))
      }
      return times
    }, keystrokes)
  }
  await browser.close()
  const [plain, throttled] = [percentile(measured[1] ?? [], 0.95), percentile(measured[4] ?? [], 0.95)]
  return [
    { what: 'last keystroke to painted plan, 95th percentile', value: ms(plain), against: '100 ms', ratio: plain / 100, limit: 1 },
    { what: 'the same, 4 × throttled', value: ms(throttled), against: `median ${ms(percentile(measured[4] ?? [], 0.5))}` },
  ]
}
