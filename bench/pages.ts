import { connect } from 'node:net'
import { chromium as browsers } from '@playwright/test'
import { chromium } from '../scripts/chromium.mjs'
import { type Measured, ms, percentile } from './measure.ts'
import { type BenchServer, startRun } from './server.ts'

const taps = 60

/** From the tap that puts a weight in to the frame that shows the new figure, under 4 × CPU throttling. */
export async function measureTap(server: BenchServer): Promise<Measured[]> {
  const run = await startRun(server)
  const browser = await browsers.launch(chromium)
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`${server.url}/sign-in`)
  await page.getByRole('button', { name: 'Maren Holt' }).click()
  await page.waitForURL(`${server.url}/`)
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
  const browser = await browsers.launch(chromium)
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`${server.url}/sign-in`)
  await page.getByRole('button', { name: 'Maren Holt' }).click()
  await page.waitForURL(`${server.url}/`)
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
