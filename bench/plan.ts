import { bestMix } from '@fleam/core/plan/best-mix'
import { bondedPair } from '@fleam/core/plan/bonded-pair'
import { rackCuts } from '@fleam/core/plan/rack-cuts'
import { type Measured, ms, percentile, timeEach } from './measure.ts'

/** A best mix over 60 cm at 1 mm with three kinds, two limited to 12, against a bare loop of as many steps. */
export async function measurePlan(): Promise<Measured[]> {
  const piece = (id: string, targetGrams: number, value: number) => ({
    id,
    value,
    targetGrams,
    minGrams: targetGrams - 9,
    maxGrams: targetGrams + 9,
    minCm: 1.5,
    maxCm: 6,
    minDiameterCm: 4.5,
  })
  const input = {
    stations: [
      { cm: 0, girthCm: 20 },
      { cm: 8, girthCm: 27 },
      { cm: 36, girthCm: 23 },
      { cm: 60, girthCm: 9 },
    ],
    grams: 2300,
    types: [piece('steak', 180, 11.5), { ...piece('tournedos', 112, 6.2), maxCount: 12 }, { ...piece('medallion', 80, 4), maxCount: 12 }],
    tipsValuePerKg: 17,
    minTipsCm: 2,
    offTargetPerGram: 0.01,
    stepCm: 0.1,
  }
  const { transitions } = bestMix(input)
  const plan = percentile(await timeEach(80, () => bestMix(input)), 0.5)
  const loop = percentile(await timeEach(80, () => bareLoop(transitions)), 0.5)
  const count = transitions.toLocaleString('en')
  return [
    {
      what: `best mix, 60 cm at 1 mm, ${count} transitions`,
      value: ms(plan),
      against: `bare loop of ${count} ${ms(loop)}`,
      ratio: plan / loop,
      limit: 4,
    },
    { what: 'a rack of eight ribs', ...(await againstFrame(() => rackCuts(rack))) },
    { what: 'a bonded pair', ...(await againstFrame(() => bondedPair({ a: input, b: input, portionGrams: 180, offsetCm: 3 }))) },
  ]
}

const frameMs = 1000 / 60
const rack = {
  stations: [
    { cm: 0, girthCm: 23 },
    { cm: 9, girthCm: 21 },
    { cm: 20, girthCm: 18 },
  ],
  grams: 680,
  ribsCm: [1.4, 3.9, 6.3, 8.8, 11.3, 13.7, 16.2, 18.6],
  boneHalfWidthCm: 0.4,
  bonesPerPiece: Array.from({ length: 8 }, () => 1),
}

async function againstFrame(work: () => unknown): Promise<Omit<Measured, 'what'>> {
  const time = percentile(await timeEach(60, work), 0.95)
  return { value: ms(time), against: `one frame ${ms(frameMs)}`, ratio: time / frameMs, limit: 1 }
}

const from = new Float64Array(4096).map((_, index) => index % 97)
const to = new Float64Array(4096)

/** One addition and one comparison over typed arrays for every transition. */
function bareLoop(steps: number): number {
  for (let step = 0; step < steps; step += 1) {
    const at = step & 4095
    const score = (from[at] as number) + step
    if (score > (to[at] as number)) to[at] = score
  }
  return to[0] as number
}
