import { randomUUID } from 'node:crypto'
import type { Attempt, Practised, TrainedEye } from '@fleam/contract/practice'
import { drawPiece, scoreCuts } from '@fleam/core/practice/screen-piece'
import { type Answer, stockedKitchen } from './kitchen.ts'

const { kitchen } = stockedKitchen()
const as = (answer: Answer) => answer.body as unknown as TrainedEye
const guess = (said: number, weighed: number) => ({ id: randomUUID(), said, weighed, what: 'a steak', at: new Date().toISOString() })

test('a guess is kept once, and tells how far one is off', async () => {
  const first = guess(2000, 1840)
  const answers = await Promise.all([1, 2].map(() => kitchen.cook.ask('POST', '/practice/eye', first)))
  expect(answers.map(({ status }) => status)).toEqual([201, 201])
  const { eye, guesses } = as(await kitchen.cook.ask('POST', '/practice/eye', guess(1900, 1840)))
  expect(guesses.map(({ said }) => said)).toEqual([2000, 1900])
  expect(eye?.bias.pct).toBeCloseTo((Math.sqrt((2000 / 1840) * (1900 / 1840)) - 1) * 100, 6)
})

test('nonsense is refused in a sentence', async () => {
  const { body } = await kitchen.cook.ask('POST', '/practice/eye', guess(0, 1840))
  expect(body.errors?.[0]).toEqual({ field: 'said', message: 'A weight is more than nothing.' })
  const heavy = await kitchen.cook.ask('POST', '/practice/eye', guess(1840, 2_000_000))
  expect(heavy.body.errors?.[0]?.message).toContain('over 100 kg')
})

test('only oneself and leads see how somebody judges', async () => {
  await kitchen.lead.ask('POST', '/practice/eye', guess(1900, 1840))
  const other = `/practice/eye?person=${kitchen.lead.personId}`
  expect((await kitchen.cook.ask('GET', other)).status).toBe(403)
  const cook = `/practice/eye?person=${kitchen.cook.personId}`
  expect(as(await kitchen.cook.ask('GET', cook)).guesses.length).toBeGreaterThan(0)
  expect(as(await kitchen.lead.ask('GET', cook)).personId).toBe(kitchen.cook.personId)
  expect((await kitchen.manager.ask('GET', `/practice/eye?person=${randomUUID()}`)).status).toBe(404)
})

test('an answer is kept once, whoever sends it again', async () => {
  const answer = { id: randomUUID(), card: 'drawing:bird:oyster', isRight: true, at: new Date().toISOString() }
  const sent = await Promise.all([1, 2, 3].map(() => kitchen.cook.ask('POST', '/practice/answers', answer)))
  expect(sent.map(({ status }) => status)).toEqual([201, 201, 201])
  const { answers } = (await kitchen.cook.ask('GET', '/practice/answers')).body as unknown as Practised
  expect(answers.filter(({ id }) => id === answer.id)).toHaveLength(1)
  expect((await kitchen.lead.ask('POST', '/practice/answers', answer)).status).toBe(409)
})

test('what was cut on screen has the score that its cuts have, not one that was sent', async () => {
  const piece = drawPiece('rack', 41)
  const cutsCm = scoreCuts(piece, []).bestCutsCm.map((cm) => cm + 0.3)
  const attempt = { id: randomUUID(), rung: 'rack', seed: 41, cutsCm, score: 100, at: new Date().toISOString() }
  const kept = (await kitchen.cook.ask('POST', '/practice/attempts', attempt)).body as unknown as Attempt
  expect(kept.score).toBeCloseTo(scoreCuts(piece, cutsCm).score, 9)
  expect(kept.score).toBeLessThan(100)
  const unknown = await kitchen.cook.ask('POST', '/practice/attempts', { ...attempt, id: randomUUID(), rung: 'whale' })
  expect(unknown.body.errors?.[0]).toEqual({ field: 'rung', message: 'There is no such rung.' })
})
