import { seededRandom } from '@fleam/core/random/seeded-random'
import { summarise } from '@fleam/core/statistics/sample'
import { expectation, priorOfRange, priorOfShare } from '@fleam/core/yield-book/expectation'
import { expectShare, type NextTest } from '@fleam/core/yield-book/expected-share'
import { findChange } from '@fleam/core/yield-book/find-change'
import { type ShareTest, sumRuns, sumShares } from '@fleam/core/yield-book/share-sums'
import type { Measured } from './measure.ts'

const kitchens = 4000

/**
 * Synthetic kitchens: each has its own true yield and spread, drawn as the prior has them, and makes some tests; how often
 * does the next test fall into the 90 % interval that was said. The same for kitchens that the sheet gets wrong, and for
 * kitchens whose life is not normal.
 */
export function measureCoverage(): Measured[] {
  const prior = priorOfRange({ low: 34, typical: 40, high: 46 })
  const random = seededRandom(90)
  const chiSquare = (degrees: number) => Array.from({ length: degrees }, () => random.normal(0, 1) ** 2).reduce((sum, one) => sum + one, 0)
  const covers = (tests: number, off: number) =>
    heldBy(() => {
      const sd = prior.sd * Math.sqrt(prior.worth / chiSquare(prior.worth))
      const mean = random.normal(prior.mean + off, sd / Math.sqrt(prior.worth))
      const found = expectation(prior, summarise(Array.from({ length: tests }, () => random.normal(mean, sd))))
      return { ...found, next: random.normal(mean, sd) }
    })
  const shares = [0, 1, 3, 10, 100].map((tests) => ({ name: `${tests}`, pct: covers(tests, 0) }))
  const wrong = [3, 10, 100].map((tests) => `${tests} tests ${covers(tests, 2 * prior.sd).toFixed(1)} %`)
  return [
    held(`90 % intervals over ${kitchens.toLocaleString('en')} kitchens: hold the next test`, shares, '90 ± 2 %, by tests made', 2),
    { what: 'the same where the sheet is off by two spreads', value: wrong.join(', '), against: 'the kitchen learns' },
    ...oddTruths.map(({ what, kitchen, tests }) =>
      held(
        `90 % intervals where ${what}`,
        tests.map((count) => ({ name: `${count}`, pct: heldBy(() => heldIn(kitchen(count))) })),
        '90 ± 3 %, by tests made',
        3,
      ),
    ),
  ]
}

function held(what: string, shares: readonly { name: string; pct: number }[], against: string, within: number): Measured {
  const worst = Math.max(...shares.map(({ pct }) => Math.abs(pct - 90)))
  return { what, value: shares.map(({ name, pct }) => `${name}: ${pct.toFixed(1)} %`).join(', '), against, ratio: worst / within, limit: 1 }
}

/** Percent of synthetic kitchens whose next test lies within what was said of it. */
function heldBy(kitchen: () => { low: number; high: number; next: number }): number {
  let count = 0
  for (let at = 0; at < kitchens; at += 1) {
    const { low, high, next } = kitchen()
    if (next >= low && next <= high) count += 1
  }
  return (count / kitchens) * 100
}

interface Kitchen {
  range: { low: number; typical: number; high: number }
  log: ShareTest[]
  next: ShareTest
}

/** As the server and the pages do it: what came before a change is let go, then the sums give the expectation. */
function heldIn({ range, log, next }: Kitchen) {
  const before = findChange([log.map(({ pct }) => pct)])
  const used = log.slice(before)
  const asked: NextTest = { items: next.items, grams: next.grams }
  const { low, high } = expectShare(priorOfShare(range), sumShares(used), sumRuns(used), asked, before > 0)
  return { low, high, next: next.pct }
}

const random = seededRandom(17)
const between = (low: number, high: number) => low + (high - low) * random.next()
const oneOf = <Value>(values: readonly Value[]): Value => values[Math.floor(random.next() * values.length)] as Value
const series = (count: number, one: () => ShareTest): { log: ShareTest[]; next: ShareTest } => {
  const tests = Array.from({ length: count + 1 }, one)
  return { log: tests.slice(0, -1), next: tests.at(-1) as ShareTest }
}
const single = (pct: number): ShareTest => ({ pct, items: 1, grams: random.normal(3000, 150) })
/** A sheet's range as someone who has seen many writes it: the middle nine tenths, a little off. */
const rangeAbout = (mean: number, sd: number) => {
  const typical = Math.max(0.01, random.normal(mean, sd / 2))
  const half = 1.645 * Math.hypot(sd, sd / 2) * between(0.8, 1.25)
  return { low: Math.max(0, typical - half), typical, high: typical + half }
}

interface OddTruth {
  what: string
  tests: readonly number[]
  kitchen: (tests: number) => Kitchen
}

function runsOfSizes(said: string, nextItems: number): OddTruth {
  return {
    what: `runs are of 1, 6 or 12 items and the next is of ${said}`,
    tests: [3, 10, 40],
    kitchen(count) {
      const [mean, runSd, itemSd] = [between(55, 65), between(0.3, 1.5), between(1.5, 3)]
      const run = (items: number): ShareTest => {
        const level = random.normal(mean, runSd)
        return { pct: random.normal(level, itemSd / Math.sqrt(items)), items, grams: random.normal(3000, 150) }
      }
      const log = Array.from({ length: count }, () => run(oneOf([1, 6, 12])))
      return { range: rangeAbout(mean, Math.hypot(runSd, itemSd)), log, next: run(nextItems) }
    },
  }
}

const oddTruths: readonly OddTruth[] = [
  {
    what: 'a share is near nothing (skewed, lognormal)',
    tests: [3, 10, 40],
    kitchen(count) {
      const [mean, cv] = [between(0.3, 2), between(0.4, 0.9)]
      const sd = Math.sqrt(Math.log(1 + cv * cv))
      const one = () => single(mean * Math.exp(random.normal(-(sd * sd) / 2, sd)))
      return { range: rangeAbout(mean, mean * cv), ...series(count, one) }
    },
  },
  {
    what: 'an output is often not there at all',
    tests: [3, 10, 40],
    kitchen(count) {
      const [mean, none] = [between(0.5, 2), between(0.15, 0.4)]
      const one = () => single(random.next() < none ? 0 : Math.max(0, random.normal(mean, mean * 0.3)))
      return { range: rangeAbout(mean * (1 - none), mean * 0.5), ...series(count, one) }
    },
  },
  runsOfSizes('one', 1),
  runsOfSizes('twelve', 12),
  {
    what: 'the share rises with the item’s weight',
    tests: [3, 10, 40],
    kitchen(count) {
      const [mean, sd, slope] = [between(55, 65), between(0.8, 1.6), between(0.5, 3)]
      const one = (): ShareTest => {
        const size = random.normal(0, 1)
        return { pct: mean + slope * size + random.normal(0, sd), items: 1, grams: 3000 + 300 * size }
      }
      return { range: rangeAbout(mean, Math.hypot(sd, slope)), ...series(count, one) }
    },
  },
  {
    what: 'the supplier’s animals changed and eight or more came since',
    tests: [20, 40],
    kitchen(count) {
      const [mean, sd] = [between(55, 65), between(0.8, 1.6)]
      const [shift, since] = [oneOf([-1, 1]) * between(2, 5) * sd, Math.floor(between(8, count / 2))]
      const log = Array.from({ length: count }, (_, at) => single(random.normal(at < count - since ? mean : mean + shift, sd)))
      return { range: rangeAbout(mean, sd), log, next: single(random.normal(mean + shift, sd)) }
    },
  },
]
