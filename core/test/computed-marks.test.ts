import { computedMarks, type Expected, totalOfMarks } from '@fleam/core/practice/computed-marks'
import fc from 'fast-check'

const expected: Expected = { low: 60, mean: 65, high: 72 }
const markOf = (key: string, run: Partial<Parameters<typeof computedMarks>[0]>) =>
  computedMarks({ mains: { pct: 65, expected }, portions: [], ...run }).find((mark) => mark.key === key)?.mark

test('a yield at the good end of the book’s interval has 4, in the middle 3, at the poor end 2', () => {
  expect([72, 65, 60, 50, 90].map((pct) => markOf('yield', { mains: { pct, expected } }))).toEqual([4, 3, 2, 0, 4])
})

test('a frame and minutes are the better the less they are', () => {
  const frame = (pct: number) => markOf('frame', { frame: { name: 'Frame', pct, expected } })
  const minutes = (taken: number) => markOf('minutes', { minutes: { taken, expected } })
  expect([60, 65, 72, 86].map(frame)).toEqual([4, 3, 2, 0])
  expect([60, 65, 72, 86].map(minutes)).toEqual([4, 3, 2, 0])
})

test('portions are marked by those within tolerance, or by how far apart they lie', () => {
  expect(markOf('evenness', { portions: [180, 185, 160, 240], within: { low: 170, high: 190 } })).toBe(2)
  expect(markOf('evenness', { portions: [100, 100, 100] })).toBe(4)
  expect(markOf('evenness', { portions: [50, 150] })).toBe(0)
  expect(markOf('evenness', { portions: [180] })).toBeUndefined()
})

test('better work never has a lower mark, and every mark lies between 0 and 4', () => {
  const interval = fc.tuple(fc.double({ min: 0.1, max: 30, noNaN: true }), fc.double({ min: 0.1, max: 30, noNaN: true }))
  const values = fc.tuple(fc.double({ min: 0, max: 120, noNaN: true }), fc.double({ min: 0, max: 120, noNaN: true }))
  fc.assert(
    fc.property(interval, values, ([below, above], [one, other]) => {
      const range = { low: 60 - below, mean: 60, high: 60 + above }
      const [less, more] = [Math.min(one, other), Math.max(one, other)]
      const of = (pct: number) =>
        computedMarks({ mains: { pct, expected: range }, frame: { name: 'Frame', pct, expected: range }, portions: [] }).map(
          ({ mark }) => mark,
        )
      const [yieldOfLess = 0, frameOfLess = 0] = of(less)
      const [yieldOfMore = 0, frameOfMore = 0] = of(more)
      expect(yieldOfMore).toBeGreaterThanOrEqual(yieldOfLess)
      expect(frameOfMore).toBeLessThanOrEqual(frameOfLess)
      for (const mark of [...of(less), ...of(more)]) {
        expect(mark).toBeGreaterThanOrEqual(0)
        expect(mark).toBeLessThanOrEqual(4)
      }
    }),
  )
})

test('the total goes by the weights, of what is marked', () => {
  const rubric = [
    { key: 'a', weight: 1 },
    { key: 'b', weight: 3 },
    { key: 'c', weight: 0 },
  ]
  expect(totalOfMarks(rubric, new Map([['a', 4]]))).toBe(100)
  expect(totalOfMarks(rubric, new Map(Object.entries({ a: 4, b: 2, c: 0 })))).toBe(62.5)
  expect(totalOfMarks(rubric, new Map([['c', 4]]))).toBeNull()
})
