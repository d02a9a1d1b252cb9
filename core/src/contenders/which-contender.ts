import { seededRandom } from '../random/seeded-random.ts'
import { drawGroupMeans, type UsualSpread } from './group-means.ts'

/** A finished run, as it tells one supplier, cook or sheet from another. */
export interface ContenderTest {
  /** Mains, percent of what was received. */
  mainPct: number
  /** What everything else is worth, a kg received. */
  creditPerKg: number
  minutesPerKg: number | null
  /** Billed over received weight: over 1 where it came short. */
  billedOverReceived: number
}

export interface Contender {
  id: string
  /** Price of a kg billed; the same for all where cooks or sheets are compared. */
  pricePerKg: number
  tests: readonly ContenderTest[]
  /** What claims brought back so far, for each kg received. */
  creditedPerKg?: number | undefined
}

export interface ContenderInput {
  contenders: readonly Contender[]
  /** An hour of work with its on-cost. */
  hourCost: number
  draws: number
  seed: number
}

export interface Interval {
  mean: number
  /** Ends of the 90 % interval. */
  low: number
  high: number
}

export interface ContenderAnswer {
  id: string
  tests: number
  mainPct: Interval
  minutesPerKg: Interval
  /** Billed and not received, percent of what was billed. */
  shortPct: Interval
  /** Of a kg of mains, everything in. */
  costPerKg: Interval
  /** Probability that its mains are the cheapest, 0–1. */
  cheapest: number
}

export interface WhichContender {
  contenders: ContenderAnswer[]
  /** What the others' mains cost more than the cheapest's, with the 90 % interval, in the order of the contenders. */
  dearerPerKg: Interval[]
  /** Place of the contender whose mains most likely are the cheapest; -1 where there is none. */
  best: number
}

/** How unlike two deliveries of one supplier are where the log does not show it yet, worth three tests. */
const usual: Record<'mainPct' | 'creditPerKg' | 'minutesPerKg' | 'billedOverReceived', (typical: number) => UsualSpread> = {
  mainPct: (typical) => ({ sd: typical * 0.03, worth: 3 }),
  creditPerKg: (typical) => ({ sd: typical * 0.08 + 1e-9, worth: 3 }),
  minutesPerKg: (typical) => ({ sd: typical * 0.2 + 1e-9, worth: 3 }),
  billedOverReceived: () => ({ sd: 0.004, worth: 3 }),
}

/**
 * What a kg of mains costs from each contender (section 10 of the calculations): its own price over its own yield, short weight, work and what
 * comes off beside, each with what is not known of it; those with few tests are drawn toward the mean of all.
 * Money in the kitchen's currency; deterministic by its seed.
 */
export function whichContender({ contenders, hourCost, draws, seed }: ContenderInput): WhichContender {
  const tested = contenders.filter(({ tests }) => tests.length > 0)
  if (tested.length === 0) return { contenders: [], dearerPerKg: [], best: -1 }
  const random = seededRandom(seed)
  const drawn = (figure: keyof typeof usual) => {
    const values = tested.map(({ tests }) => tests.flatMap((test) => test[figure] ?? []))
    const all = values.flat()
    const typical = all.length === 0 ? 0 : all.reduce((sum, value) => sum + value, 0) / all.length
    // a contender that was never timed is taken for as quick as the others
    const known = values.map((own) => (own.length > 0 ? own : [typical]))
    return drawGroupMeans(known, usual[figure](typical), draws, random)
  }
  const [main, credit, minutes, billed] = [drawn('mainPct'), drawn('creditPerKg'), drawn('minutesPerKg'), drawn('billedOverReceived')]
  const costs = tested.map(({ pricePerKg, creditedPerKg = 0 }, at) =>
    Float64Array.from({ length: draws }, (_none, draw) => {
      const read = (figure: readonly Float64Array[]) => figure[at]?.[draw] as number
      const ofKg = pricePerKg * read(billed) + (read(minutes) / 60) * hourCost - read(credit) - creditedPerKg
      return (ofKg / read(main)) * 100
    }),
  )
  const wins = new Float64Array(tested.length)
  for (let draw = 0; draw < draws; draw += 1) {
    let best = 0
    for (let at = 1; at < costs.length; at += 1) if ((costs[at]?.[draw] as number) < (costs[best]?.[draw] as number)) best = at
    wins[best] = (wins[best] as number) + 1
  }
  const best = wins.indexOf(Math.max(...wins))
  return {
    contenders: tested.map(({ id, tests }, at) => ({
      id,
      tests: tests.length,
      mainPct: intervalOfDraws(main[at] as Float64Array),
      minutesPerKg: intervalOfDraws(minutes[at] as Float64Array),
      shortPct: intervalOfDraws((billed[at] as Float64Array).map((ratio) => (1 - 1 / ratio) * 100)),
      costPerKg: intervalOfDraws(costs[at] as Float64Array),
      cheapest: (wins[at] as number) / draws,
    })),
    dearerPerKg: costs.map((cost) => intervalOfDraws(cost.map((one, draw) => one - (costs[best]?.[draw] as number)))),
    best,
  }
}

/** Mean and middle 90 % of draws. */
function intervalOfDraws(draws: Float64Array): Interval {
  const sorted = Float64Array.from(draws).sort()
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] as number
  return { mean: draws.reduce((sum, one) => sum + one, 0) / draws.length, low: at(0.05), high: at(0.95) }
}

/** A ranking that is less sure than this is none. */
export const surenessOfRanking = 0.9

/**
 * How many more tests of each of two contenders would tell them apart at 90 %, if they are as far apart as they seem.
 * @returns `undefined` where they seem alike, or where more than a hundred would not do
 * @example testsToTell({ difference: 2, sd: 3, tests: [4, 4] }) // 9
 */
export function testsToTell({
  difference,
  sd,
  tests,
}: {
  difference: number
  sd: number
  tests: readonly [number, number]
}): number | undefined {
  if (difference === 0) return undefined
  for (let more = 0; more <= 100; more += 1) {
    const error = sd * Math.sqrt(1 / (tests[0] + more) + 1 / (tests[1] + more))
    if (1.645 * error <= Math.abs(difference)) return more
  }
  return undefined
}
