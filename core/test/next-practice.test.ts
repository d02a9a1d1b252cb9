import { type Learning, nextPractice } from '@fleam/core/practice/next-practice'

const run = (changes: Partial<Learning['runs'][number]> = {}) => ({
  ...{ sheet: 'Sauté', mainPct: 65, expected: { low: 60, mean: 65, high: 70 }, spreadPct: 3, minutes: 6, expectedMinutes: 6 },
  ...changes,
})
const settled: Learning = { runs: [run(), run(), run(), run()], eye: null, due: 0, asked: 20, marks: [], attempts: 3 }
const keys = (changes: Partial<Learning>) => nextPractice({ ...settled, ...changes }).map(({ key }) => key)

test('who works well and has practised has nothing pressing', () => {
  expect(nextPractice(settled)).toEqual([])
})

test('accuracy comes first, then evenness; minutes only when both hold', () => {
  const slow = run({ minutes: 12 })
  expect(keys({ runs: [slow, slow, slow] })).toEqual(['minutes'])
  const uneven = run({ minutes: 12, spreadPct: 11 })
  expect(keys({ runs: [uneven, uneven, uneven] })).toEqual(['evenness'])
  const short = run({ minutes: 12, spreadPct: 11, mainPct: 55 })
  expect(keys({ runs: [short, short, run()] })).toEqual(['yield', 'evenness'])
})

test('two runs are too few to judge yield and pace by', () => {
  expect(keys({ runs: [run({ mainPct: 50 }), run({ mainPct: 50, minutes: 30 })] })).toEqual([])
})

test('the sheet that falls short most often is named, with how often', () => {
  const short = (sheet: string) => run({ sheet, mainPct: 50 })
  const [first] = nextPractice({ ...settled, runs: [short('Legs'), short('Sauté'), short('Sauté'), run()] })
  expect(first?.what).toBe('Landmarks and cut lines of Sauté')
  expect(first?.why).toContain('3 of the last 4 runs')
})

test('an eye that errs to one side beyond chance, marks that are low, and questions that are due are said', () => {
  const bias = { pct: 12, low: 5, high: 19 }
  expect(keys({ eye: { guesses: 20, bias, spread: { pct: 4, low: 3, high: 6 } } })).toEqual(['eye'])
  expect(keys({ eye: { guesses: 20, bias: { pct: 1, low: -1, high: 3 }, spread: { pct: 4, low: 3, high: 6 } } })).toEqual([])
  expect(
    keys({
      marks: [
        { name: 'Knife', mark: 2, times: 2 },
        { name: 'Time', mark: 3, times: 2 },
      ],
      due: 2,
    }),
  ).toEqual(['marks', 'questions'])
  expect(keys({ asked: 0, attempts: 0, runs: [] })).toEqual(['questions', 'screen'])
})
