import { type BuyingPlanInput, buyingPlan } from '@fleam/core/day/buying-plan'
import { openHighs } from '@fleam/core/day/highs-solver'
import { type Job, type ScheduleInput, schedule } from '@fleam/core/day/schedule'
import { seededRandom } from '@fleam/core/random/seeded-random'
import { type Measured, ms, percentile } from './measure.ts'
import { openSignedIn, watchFrames } from './pages.ts'
import type { BenchServer } from './server.ts'

const plannings = 10
const frameLimitMs = 50

/** A feast's day: 40 items of three suppliers each, cut four ways, 60 demands, 30 follow-ons, some of it ready-cut. */
function largeDay(): BuyingPlanInput {
  const random = seededRandom(7)
  const between = (low: number, high: number) => low + random.next() * (high - low)
  const items = Array.from({ length: 40 }, (_, item) => ({
    id: `item${item}`,
    meanGrams: between(800, 7000),
    sdGrams: between(40, 300),
    offers: [0, 1, 2].map((offer) => ({
      id: `item${item}-offer${offer}`,
      price: { amount: between(4, 14), per: 'kg' as const },
      pack: [1, 2, 5][offer] as number,
      least: offer === 2 ? 10 : 0,
    })),
    ways: [0, 1, 2, 3].map((way) => ({
      id: `item${item}-way${way}`,
      minutes: between(3, 20),
      setupMinutes: between(5, 20),
      outputs: [0, 1, 2, 3].map((output) => ({
        product: `item${item}-product${(output + way) % 5}`,
        pct: between(8, 22),
        sdPct: between(0.3, 1.5),
      })),
    })),
  }))
  const products = items.flatMap(({ id }) =>
    [0, 1, 2, 3, 4].map((product) => ({ id: `${id}-product${product}`, leftValuePerKg: between(0.2, 2.5) })),
  )
  const stocks = Array.from({ length: 30 }, (_, index) => ({ id: `made${index}`, leftValuePerKg: 0 }))
  return {
    items,
    products: [...products, ...stocks],
    demands: [
      ...Array.from({ length: 45 }, (_, index) => ({
        product: `item${index % 40}-product${index % 3}`,
        grams: between(4000, 40_000),
        servicePct: 90,
        sdPct: 4,
      })),
      ...Array.from({ length: 15 }, (_, index) => ({ product: `made${index}`, grams: between(3000, 20_000) })),
    ],
    followOns: stocks.map(({ id }, index) => ({
      id: `follow${index}`,
      uses: [{ product: `item${index}-product4`, grams: 5000 }],
      gives: { product: id, grams: 6000 },
      minutes: 20,
      cost: 3,
      most: 20,
    })),
    readyCut: Array.from({ length: 30 }, (_, index) => ({
      id: `ready${index}`,
      product: `item${index}-product${index % 3}`,
      pricePerPack: between(30, 90),
      packGrams: 5000,
    })),
    labour: { ratePerHour: 18, onCostPct: 15, minutesAvailable: 20_000, overtime: { minutes: 4000, ratePerHour: 27 } },
  }
}

/** Ten lines of cut, wait, cook and rest a service over a fortnight: 120 jobs, 12 people, benches, pots and ovens. */
function longSchedule(): ScheduleInput {
  const random = seededRandom(11)
  const minutes = (low: number, high: number) => Math.round(low + random.next() * (high - low))
  const jobs: Job[] = Array.from({ length: 40 }, (_, line) => {
    const due = (line % 10) * 1440 + 1440 + 1020
    return [
      {
        ...{ id: `cut${line}`, handsMinutes: minutes(30, 120), board: line % 3 === 0 ? ('raw poultry' as const) : ('other' as const) },
        place: { kind: 'bench', room: 1, during: 'hands' as const },
      },
      {
        ...{
          id: `cook${line}`,
          handsMinutes: minutes(10, 25),
          waitMinutes: minutes(40, 200),
          after: [`cut${line}`],
          due: due - 60,
          isLate: true,
        },
        place: { kind: line % 2 === 0 ? 'oven' : 'pot', room: line % 2 === 0 ? 2 : 30, during: 'wait' as const },
      },
      { id: `finish${line}`, handsMinutes: minutes(10, 40), after: [`cook${line}`], due, isLate: true },
    ]
  }).flat()
  const days = Array.from({ length: 14 }, (_, day) => day)
  const people = Array.from({ length: 12 }, (_, person) =>
    days.map((day) => ({ id: `p${person}`, from: day * 1440 + 480, to: day * 1440 + 1080 })),
  ).flat()
  return {
    people,
    places: [
      ...[1, 2, 3, 4].map((bench) => ({ id: `bench${bench}`, kind: 'bench', room: 1 })),
      ...[1, 2].map((oven) => ({ id: `oven${oven}`, kind: 'oven', room: 6 })),
      ...[1, 2].map((pot) => ({ id: `pot${pot}`, kind: 'pot', room: 80 })),
    ],
    jobs,
  }
}

/** One morning of 120 jobs that are there to be done: how near the end comes to what it cannot come before. */
function fullDay(): ScheduleInput {
  const random = seededRandom(5)
  const jobs: Job[] = Array.from({ length: 120 }, (_, index) => ({
    id: `j${index}`,
    handsMinutes: 10 + Math.floor(random.next() * 50),
    ...(index % 4 === 3 ? { after: [`j${index - 1}`] } : {}),
    ...(index % 5 === 0 ? { place: { kind: 'bench', room: 1, during: 'hands' as const }, board: 'other' as const } : {}),
  }))
  return {
    people: Array.from({ length: 12 }, (_, person) => ({ id: `p${person}`, from: 0, to: 1440 })),
    places: [1, 2, 3, 4].map((bench) => ({ id: `bench${bench}`, kind: 'bench', room: 1 })),
    jobs,
  }
}

/** A day's buying and a fortnight's schedule. */
export async function measureDay(): Promise<Measured[]> {
  const solve = await openHighs()
  const input = largeDay()
  let first = Number.NaN
  const start = performance.now()
  const plan = buyingPlan(input, {
    solve: (model, options) =>
      solve(model, {
        ...options,
        onBetter: () => {
          if (Number.isNaN(first)) first = performance.now() - start
        },
      }),
  })
  const took = performance.now() - start
  const timed = <Answer>(work: () => Answer) => {
    const from = performance.now()
    const answer = work()
    return { answer, took: performance.now() - from }
  }
  const long = timed(() => schedule(longSchedule()))
  const full = timed(() => schedule(fullDay()))
  const late = long.answer.late.reduce((sum, one) => sum + one.minutes, 0)
  const row = (what: string, value: string, against: string, ratio: number, limit: number): Measured => ({
    what,
    value,
    against,
    ratio,
    limit,
  })
  return [
    row('buying plan of a feast, first usable', ms(first), '2 s', first / 2000, 1),
    row(`buying plan of a feast, ${plan.status}`, ms(took), '10 s', took / 10_000, 1.1),
    row('buying plan of a feast, how far from the bound', `${(plan.gap * 100).toFixed(2)} %`, '1 %', plan.gap / 0.01, 1),
    row('schedule of 120 jobs over a fortnight', ms(long.took), '3 s', long.took / 3000, 1),
    row('schedule of 120 jobs, minutes late', String(late), '0', late, 0),
    row(
      'schedule of a full day, its end',
      `${full.answer.endsAt} min`,
      `bound ${full.answer.lowerBound} min`,
      full.answer.endsAt / full.answer.lowerBound,
      1.1,
    ),
  ]
}

/** The latest frame of a day's page while the demo's Saturday is planned again and its plan is drawn. */
export async function measurePlanFrames(server: BenchServer): Promise<Measured[]> {
  const { browser, page } = await openSignedIn(server)
  await page.goto(`${server.url}/days`)
  await page.getByRole('link', { name: /^Saturday: carvery/ }).click()
  await page.getByRole('button', { name: 'Plan it again' }).waitFor({ timeout: 60_000 })
  await page.locator('.trace-flow .recharts-surface').waitFor()
  await watchFrames(page)
  const gaps: number[] = await page.evaluate(async (count) => {
    const button = () => [...document.querySelectorAll('button')].find((one) => one.textContent === 'Plan it again') as HTMLButtonElement
    const latest: number[] = []
    for (let turn = 0; turn < count; turn += 1) {
      const gap = await window.longestGap(async () => {
        button().click()
        while (!document.querySelector('.planning')) await new Promise(requestAnimationFrame)
        while (document.querySelector('.planning')) await new Promise(requestAnimationFrame)
        for (let frame = 0; frame < 5; frame += 1) await new Promise(requestAnimationFrame)
      })
      latest.push(gap)
    }
    return latest
  }, plannings)
  await browser.close()
  const worst = Math.max(...gaps)
  return [
    {
      what: `latest frame while a day is planned, ${plannings} times`,
      value: `${ms(worst)}, median ${ms(percentile(gaps, 0.5))}`,
      against: `${frameLimitMs} ms`,
      ratio: worst / frameLimitMs,
      limit: 1,
    },
  ]
}
