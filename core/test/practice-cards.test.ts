import { cardsOf, shuffled } from '@fleam/core/practice/cards'
import { criteria } from '@fleam/core/practice/rubric'
import { type Answer, isKnown, sittingOf, standingsOf } from '@fleam/core/practice/spacing'
import { whatNow } from '@fleam/core/practice/what-now'
import fc from 'fast-check'
import { catalog } from '../../catalog/sheets.ts'

const drawn = { parts: new Map([['oyster', 'oyster']]), cuts: new Map([['cut-hip', 'through the hip joint']]), marks: ['hip joint'] }
const sheet = {
  id: 'own',
  name: 'Our legs',
  part: 'bird',
  steps: [
    { title: 'Open', shows: ['oyster', 'unknown'] },
    { title: 'Cut', shows: ['cut-hip', 'oyster'], caution: 'Mind the bone.' },
    { title: 'Weigh' },
  ],
  questions: ['knife-meets-bone', 'not-there'],
}

test('a kitchen’s own sheet gives landmarks, cut lines, cautions, its order and what now, each once', () => {
  const cards = cardsOf(sheet, drawn)
  expect(cards.map(({ kind }) => kind)).toEqual(['landmark', 'cut line', 'landmark', 'caution', 'order', 'what now'])
  expect(cards[0]).toMatchObject({ id: 'drawing:bird:oyster', step: 'Open' })
  expect(cards[3]).toMatchObject({ right: ['Cut'], choices: ['Open', 'Cut', 'Weigh'] })
})

test('a sheet of one step without words asks nothing', () => {
  expect(cardsOf({ id: 'x', name: 'X', steps: [{ title: 'Cut', caution: 'Mind it.' }] }, drawn)).toEqual([])
})

test('a caution that stands at two steps is right at both', () => {
  const twice = { ...sheet, steps: [...sheet.steps, { title: 'Split', caution: 'Mind the bone.' }] }
  expect(cardsOf(twice, drawn).find(({ kind }) => kind === 'caution')).toMatchObject({ right: ['Cut', 'Split'] })
})

test('every question has one right answer and says why for all; every sheet of the catalog names questions and criteria that are there', () => {
  for (const { choices } of whatNow) {
    expect(choices.filter(({ isRight }) => isRight)).toHaveLength(1)
    expect(choices.every(({ why }) => why.length > 10)).toBe(true)
  }
  const keys = new Set(whatNow.map(({ key }) => key))
  const looks = new Set(criteria.map(({ key }) => key))
  for (const { body } of catalog as { body: { name: string; questions: string[]; rubric: { key: string }[] } }[]) {
    expect([body.name, body.questions.filter((key) => !keys.has(key)), body.questions.length > 4]).toEqual([body.name, [], true])
    expect([body.name, body.rubric.filter(({ key }) => !looks.has(key)), body.rubric.length > 4]).toEqual([body.name, [], true])
  }
})

test('shuffling keeps every entry, is the same for a seed, and never leaves the order as it was', () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.integer(), { minLength: 2, maxLength: 12 }), fc.integer({ min: 0 }), (entries, seed) => {
      const mixed = shuffled(entries, seed)
      expect([...mixed].sort((a, b) => a - b)).toEqual([...entries].sort((a, b) => a - b))
      expect(mixed).not.toEqual(entries)
      expect(shuffled(entries, seed)).toEqual(mixed)
    }),
  )
})

const day = 86_400_000
const answered = (card: string, at: number, isRight = true): Answer => ({ card, isRight, at })

test('what is known holds longer each time it is answered well, and comes back soon after it was not', () => {
  let answers = [answered('a', 0)]
  const holds: number[] = []
  for (let round = 0; round < 5; round += 1) {
    const { dueAt, holdsDays } = standingsOf(answers).get('a') ?? { dueAt: 0, holdsDays: 0 }
    holds.push(holdsDays)
    answers = [...answers, answered('a', dueAt)]
  }
  expect(holds).toEqual([...holds].sort((a, b) => a - b))
  const before = standingsOf(answers).get('a')
  const forgotten = standingsOf([...answers, answered('a', (before?.dueAt ?? 0) + day, false)]).get('a')
  expect(forgotten?.holdsDays).toBeLessThan((before?.holdsDays ?? 0) / 2)
  expect(forgotten).toMatchObject({ answers: 7, wrong: 1 })
  expect(before && isKnown(before)).toBe(true)
  expect(forgotten && isKnown(forgotten)).toBe(false)
})

test('going over a card again at the same sitting moves nothing, in whatever order answers arrive', () => {
  const once = standingsOf([answered('a', 0, false)])
  expect(standingsOf([answered('a', day / 24), answered('a', 0, false)])).toEqual(once)
})

test('a sitting asks what is due, the longest overdue first, then new cards up to the day’s number', () => {
  const cards = ['a', 'b', 'c', 'd', 'e'].map((id) => ({ id }))
  const answers = [answered('b', 0), answered('a', day / 2, false)]
  const later = sittingOf(cards, answers, 400 * day, { most: 20, fresh: 2 })
  expect(later.due.map(({ id }) => id)).toEqual(['a', 'b'])
  expect(later.fresh.map(({ id }) => id)).toEqual(['c', 'd'])
  const same = sittingOf(cards, answers, day / 2 + 60_000, { most: 20, fresh: 3 })
  expect(same.due).toEqual([])
  expect(same.fresh.map(({ id }) => id)).toEqual(['c'])
  expect(same.nextAt).toBeGreaterThan(day / 2)
  expect(sittingOf(cards, answers, 400 * day, { most: 1, fresh: 5 })).toMatchObject({ due: [{ id: 'a' }], fresh: [] })
})
