import fc from 'fast-check'
import { benchTime } from '../src/bench/bench-time.ts'
import { coldClock } from '../src/bench/cold-clock.ts'
import { fultonWeight } from '../src/bench/fulton-weight.ts'
import { withHouseFigures } from '../src/bench/house-figures.ts'
import { pieceYields } from '../src/bench/piece-yields.ts'

const minute = 60_000

test('minutes run from sign to sign, by step and by person', () => {
  const signs = [
    { personId: 'cutter', at: 0, step: 0 },
    { personId: 'cutter', at: 4 * minute, step: 1 },
    { personId: 'cutter', at: 6 * minute },
    { personId: 'sorter', at: 2 * minute, step: 1 },
    { personId: 'sorter', at: 7 * minute },
  ]
  const time = benchTime(signs, 10 * minute, 15)
  expect(time.minutes).toBe(18)
  expect([...time.minutesByStep]).toEqual([
    [0, 4],
    [1, 14],
  ])
  expect(time.minutesByPerson.get('sorter')).toBe(8)
})

test('a long silence does not count', () => {
  const signs = [
    { personId: 'a', at: 0, step: 0 },
    { personId: 'a', at: 5 * minute },
    { personId: 'a', at: 60 * minute },
  ]
  expect(benchTime(signs, 61 * minute, 15).minutes).toBe(6)
})

test('no order of the signs changes the minutes, and people’s minutes add up to all', () => {
  const sign = fc.record({
    personId: fc.constantFrom('a', 'b'),
    at: fc.integer({ min: 0, max: 10_000_000 }),
    step: fc.integer({ min: 0, max: 5 }),
  })
  fc.assert(
    fc.property(fc.uniqueArray(sign, { selector: ({ at }) => at, minLength: 1, maxLength: 30 }), (signs) => {
      const time = benchTime(signs, 10_000_000, 20)
      expect(benchTime([...signs].reverse(), 10_000_000, 20).minutes).toBeCloseTo(time.minutes, 9)
      expect([...time.minutesByPerson.values()].reduce((sum, minutes) => sum + minutes, 0)).toBeCloseTo(time.minutes, 9)
      expect(time.minutes).toBeLessThanOrEqual((2 * 10_000_000) / minute)
    }),
  )
})

test('time out of the cold adds up; time back in it takes none away', () => {
  const limits = { limitMinutes: 30, warningMinutes: 10 }
  expect(coldClock(0, [], 12 * minute, limits)).toMatchObject({ isOut: true, minutesOut: 12, state: 'within' })
  expect(coldClock(0, [], 21 * minute, limits).state).toBe('warning')
  const moves = [
    { at: 10 * minute, isOut: false },
    { at: 100 * minute, isOut: true },
  ]
  expect(coldClock(0, moves, 121 * minute, limits)).toMatchObject({ minutesOut: 31, state: 'over' })
  expect(coldClock(0, moves.slice(0, 1), 500 * minute, limits)).toMatchObject({ isOut: false, minutesOut: 10 })
})

test('a fish weighs K times its length cubed, less what was taken out of it', () => {
  const bass = { lowK: 1, typicalK: 1.15, highK: 1.3, boughtPct: 100 }
  expect(fultonWeight(40, bass)).toEqual({ lowGrams: 640, typicalGrams: 736, highGrams: 832 })
  expect(fultonWeight(40, { ...bass, boughtPct: 88 }).typicalGrams).toBeCloseTo(647.68, 9)
  expect(() => fultonWeight(0, bass)).toThrow('over 0 cm')
})

test('a caution takes the kitchen’s own figures and leaves what it does not know', () => {
  expect(withHouseFigures('{poultryCoreC} °C, {other}', { poultryCoreC: 75 })).toBe('75 °C, {other}')
})

test('pieces are told apart, with what was taken back left out', () => {
  const line = (id: string, tubId: string, tenths: number, piece: number | null, reversesId: string | null = null) => ({
    id,
    tubId,
    tenths,
    piece,
    reversesId,
  })
  const yields = pieceYields([
    line('1', 'breast', 5000, 1),
    line('2', 'breast', 4000, 2),
    line('3', 'thigh', 1000, 1),
    line('4', 'thigh', 900, 1),
    line('5', 'thigh', 900, 1, '4'),
    line('6', 'bones', 700, null),
  ])
  expect(yields.map(({ piece, grams }) => [piece, grams])).toEqual([
    [1, 600],
    [2, 400],
  ])
  expect(yields[0]?.gramsByTub.get('thigh')).toBe(100)
})
