import { drawGroupMeans } from '@fleam/core/contenders/group-means'
import { whichContender } from '@fleam/core/contenders/which-contender'
import { type Random, seededRandom } from '@fleam/core/random/seeded-random'
import { type Measured, ms, percentile, timeEach } from './measure.ts'

const kitchens = 2000
const draws = 400

/**
 * Synthetic kitchens: three to five suppliers whose true yields lie apart as far as drawn, each with two to fourteen tests. How often does the true
 * difference of the first two lie in the 90 % interval of the draws?
 */
export async function measureContenders(): Promise<Measured[]> {
  const random = seededRandom(41)
  let held = 0
  for (let at = 0; at < kitchens; at += 1) held += isHeld(random, at) ? 1 : 0
  const share = (held / kitchens) * 100
  const tests = (mainPct: number) =>
    Array.from({ length: 40 }, () => ({ mainPct: random.normal(mainPct, 2), creditPerKg: 2, minutesPerKg: 4, billedOverReceived: 1 }))
  const contenders = [52, 55, 56, 58].map((mainPct, at) => ({ id: String(at), pricePerKg: 30 + at, tests: tests(mainPct) }))
  const times = await timeEach(10, async () => void whichContender({ contenders, hourCost: 20, draws: 2000, seed: 7 }))
  return [
    {
      what: `90 % intervals of differences of suppliers over ${kitchens.toLocaleString('en')} kitchens`,
      value: `${share.toFixed(1)} %`,
      against: '90 ± 2 %',
      ratio: Math.abs(share - 90) / 2,
      limit: 1,
    },
    {
      what: 'four suppliers of 40 tests set against each other, 2,000 draws, in a worker',
      value: ms(percentile(times, 0.5)),
      against: '500 ms',
      ratio: percentile(times, 0.5) / 500,
      limit: 1,
    },
  ]
}

function isHeld(random: Random, seed: number): boolean {
  const within = 1 + 2 * random.next()
  const apart = within * Math.abs(random.normal(0, 0.8))
  const truth = Array.from({ length: 3 + Math.floor(random.next() * 3) }, () => random.normal(58, apart))
  const groups = truth.map((mean) => Array.from({ length: 2 + Math.floor(random.next() * 13) }, () => random.normal(mean, within)))
  const [first, second] = drawGroupMeans(groups, { sd: 2, worth: 3 }, draws, seededRandom(seed))
  const differences = Float64Array.from({ length: draws }, (_none, at) => (first?.[at] as number) - (second?.[at] as number)).sort()
  const difference = (truth[0] as number) - (truth[1] as number)
  return difference >= (differences[Math.floor(draws * 0.05)] as number) && difference <= (differences[Math.floor(draws * 0.95)] as number)
}
