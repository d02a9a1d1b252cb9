import { eyeOf, type Guess } from '../src/practice/trained-eye.ts'
import { seededRandom } from '../src/random/seeded-random.ts'

/** Guesses of somebody whose bias and spread are known, of logs. */
function guesses(count: number, bias: number, spread: (at: number) => number, random: ReturnType<typeof seededRandom>): Guess[] {
  return Array.from({ length: count }, (_, at) => {
    const weighed = 50 + random.next() * 1000
    return { weighed, said: weighed * Math.exp(random.normal(bias, spread(at))) }
  })
}

describe('a trained eye', () => {
  test('nothing is known of no guess, little of one', () => {
    expect(eyeOf([])).toBeUndefined()
    const one = eyeOf([{ said: 120, weighed: 100 }])
    expect(one?.bias.pct).toBeCloseTo(20, 6)
    expect([one?.spread, one?.isImproving]).toEqual([null, null])
  })

  test('always a fifth too much is a bias and no spread', () => {
    const eye = eyeOf([100, 200, 800].map((weighed) => ({ weighed, said: weighed * 1.2 })))
    expect(eye?.bias.pct).toBeCloseTo(20, 6)
    expect(eye?.bias.low).toBeCloseTo(20, 4)
    expect(eye?.spread?.pct).toBeCloseTo(0, 4)
  })

  test('as much too little as too much, in shares, is no bias', () => {
    const eye = eyeOf([
      { said: 125, weighed: 100 },
      { said: 80, weighed: 100 },
    ])
    expect(eye?.bias.pct).toBeCloseTo(0, 6)
  })

  test('nine in ten of the intervals hold what is true', () => {
    const random = seededRandom(11)
    const [bias, spread, people] = [0.12, 0.2, 1500]
    const percent = (log: number) => (Math.exp(log) - 1) * 100
    let [held, spreadHeld] = [0, 0]
    for (let person = 0; person < people; person += 1) {
      const eye = eyeOf(guesses(20, bias, () => spread, random))
      if (eye && eye.bias.low <= percent(bias) && eye.bias.high >= percent(bias)) held += 1
      if (eye?.spread && eye.spread.low <= percent(spread) && eye.spread.high >= percent(spread)) spreadHeld += 1
    }
    for (const share of [held / people, spreadHeld / people]) {
      expect(share).toBeGreaterThan(0.875)
      expect(share).toBeLessThan(0.925)
    }
  })

  test('who comes nearer is seen to, who does not seldom is', () => {
    const random = seededRandom(5)
    const share = (spread: (at: number) => number) => {
      let seen = 0
      for (let person = 0; person < 400; person += 1) if (eyeOf(guesses(60, 0, spread, random))?.isImproving) seen += 1
      return seen / 400
    }
    expect(share((at) => 0.3 - at * 0.0045)).toBeGreaterThan(0.9)
    expect(share(() => 0.15)).toBeLessThan(0.09)
  })
})

test('two guesses that lie far apart have ends that can be written', () => {
  const eye = eyeOf([
    { said: 1, weighed: 1_000_000 },
    { said: 1_000_000, weighed: 1 },
  ])
  expect(eye?.bias.high).toBe(1000)
  expect(eye?.spread?.high).toBe(1000)
  expect(eye?.bias.low).toBeGreaterThanOrEqual(-100)
})
