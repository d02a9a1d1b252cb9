import { type PacedRun, paceByStep, paceOfRun } from '@fleam/core/practice/pace'

const start = Date.parse('2026-11-20T10:00:00Z')
const at = (minute: number) => new Date(start + minute * 60_000).toISOString()
const cook = { id: 'me' }
const weighed = (tubId: string, minute: number) => ({ tubId, weighedAt: at(minute), reversesId: null, by: cook })
const run = (changes: Partial<PacedRun> = {}): PacedRun => ({
  cook,
  startedAt: at(0),
  pieces: 1,
  minutes: null,
  sheet: {
    station: [],
    steps: [
      { title: 'Legs', outputs: ['leg'] },
      { title: 'Breast', outputs: ['breast'] },
    ],
  },
  tubs: [
    { id: 'l', key: 'leg' },
    { id: 'b', key: 'breast' },
  ],
  weighings: [weighed('l', 3), weighed('l', 4), weighed('b', 9)],
  events: [],
  ...changes,
})
const minutesOf = (paced: PacedRun) => Object.fromEntries(paceOfRun(paced, 15))

test('without steps gone through, the time before a weighing is its step’s', () => {
  expect(minutesOf(run())).toEqual({ Legs: 4, Breast: 5 })
})

test('steps gone through count as they were, the station among them', () => {
  const events = [0, 2, 3].map((minute, step) => ({ what: { kind: 'step', step }, at: at(minute), by: cook }))
  const sheet = { ...run().sheet, station: ['board'] }
  expect(minutesOf(run({ events, sheet }))).toEqual({ 'Set the station': 2, Legs: 1, Breast: 6 })
})

test('the minutes that were noted share out by it, an item each; a break counts for nobody', () => {
  expect(minutesOf(run({ minutes: 18, pieces: 2 }))).toEqual({ Legs: 4, Breast: 5 })
  expect(minutesOf(run({ weighings: [weighed('l', 3), weighed('b', 60)] }))).toEqual({ Legs: 3 })
})

test('one’s last and best stand beside the middle of the house, in the order of the sheet', () => {
  const of = (legs: number, breast?: number) =>
    new Map(
      breast === undefined
        ? [['Legs', legs]]
        : [
            ['Legs', legs],
            ['Breast', breast],
          ],
    )
  expect(paceByStep(['Look', 'Legs', 'Breast'], [of(3, 6), of(4, 5)], [of(2), of(4), of(9)])).toEqual([
    { step: 'Legs', last: 4, best: 3, house: 4 },
    { step: 'Breast', last: 5, best: 5, house: null },
  ])
})
