import { randomUUID } from 'node:crypto'
import type { Claim } from '@fleam/contract/claims'
import type { MovedCost } from '@fleam/contract/follow-ons'
import type { Run } from '@fleam/contract/runs'
import type { Lot } from '@fleam/contract/walk-in'
import { finishedRun, stockedKitchen } from './kitchen.ts'

const { kitchen } = stockedKitchen()
const at = () => new Date().toISOString()
const claimOf = (run: Run, changes: object = {}) => ({
  ...{ id: randomUUID(), runId: run.id, kinds: ['short weight', 'torn skin'], words: 'Torn at the neck.', asked: 6, at: at() },
  ...changes,
})
const settle = (claim: Claim, changes: object) =>
  kitchen.lead.ask('POST', `/claims/${claim.id}/settle`, { version: claim.version, state: 'credited', ...changes })
const delivery = { steaks: ['182 g', '178 g'], received: '400 g', minutes: 10 }
const finished = async () => (await finishedRun(kitchen, delivery)) as unknown as Run
const runNow = async (id: string) => (await kitchen.cook.ask('GET', `/runs/${id}`)).body as unknown as Run

test('a claim is written once, with what the run says; a cook does not settle it', async () => {
  const run = await finished()
  const create = claimOf(run)
  const [first] = await Promise.all([kitchen.cook.ask('POST', '/claims', create), kitchen.cook.ask('POST', '/claims', create)])
  expect(first.body).toMatchObject({ state: 'open', asked: 6, run: { number: run.number, lot: run.lot, item: 'Tenderloin' } })
  const { entries } = (await kitchen.cook.ask('GET', '/claims')).body as unknown as { entries: Claim[] }
  expect(entries.filter(({ id }) => id === create.id)).toHaveLength(1)
  expect((await kitchen.cook.ask('POST', `/claims/${create.id}/settle`, { version: 1, state: 'refused' })).status).toBe(403)
  expect((await kitchen.cook.ask('POST', '/claims', claimOf(run, { kinds: [] }))).body.errors?.[0]?.field).toBe('kinds')
  expect((await kitchen.cook.ask('POST', '/claims', claimOf(run, { runId: randomUUID() }))).status).toBe(404)
})

test('what is credited lowers what the run cost, to the cent, its lots and what is said of it; refused, it stands again', async () => {
  const run = await finished()
  const claim = (await kitchen.cook.ask('POST', '/claims', claimOf(run))).body as unknown as Claim
  const lots = async () => ((await kitchen.cook.ask('GET', `/runs/${run.id}/lots`)).body as unknown as { entries: Lot[] }).entries
  const before = (await lots()).reduce((sum, { cost }) => sum + (cost ?? 0), 0)
  const nothing = await settle(claim, { credited: 0 })
  expect(nothing.body.errors?.[0]?.field).toBe('credited')
  expect((await settle(claim, { credited: 100_000 })).body.errors?.[0]?.message).toContain('more than was paid')
  const credited = (await settle(claim, { credited: 4.5, words: 'credit note 17' })).body as unknown as Claim
  const after = await runNow(run.id)
  expect(after.claimCredit).toBe(4.5)
  expect(after.figures?.netCost).toBeCloseTo((run.figures?.netCost ?? 0) - 4.5, 9)
  expect((await lots()).reduce((sum, { cost }) => sum + (cost ?? 0), 0)).toBeCloseTo(before - 4.5, 6)
  const { entries: moved } = (await kitchen.cook.ask('GET', `/runs/${run.id}/moved-costs`)).body as unknown as { entries: MovedCost[] }
  expect(moved.length).toBeGreaterThan(0)
  expect((await settle(claim, { credited: 3 })).status).toBe(409)
  const refused = await settle(credited, { state: 'refused', credited: 0 })
  expect(refused.body).toMatchObject({ state: 'refused', credited: 0 })
  expect((await runNow(run.id)).figures?.netCost).toBeCloseTo(run.figures?.netCost ?? 0, 9)
})

test('one page as PDF', async () => {
  const claim = (await kitchen.cook.ask('POST', '/claims', claimOf(await finished()))).body as unknown as Claim
  const answer = await kitchen.cook.ask('GET', `/claims/${claim.id}/claim.pdf`)
  expect([answer.status, answer.headers['content-type']]).toEqual([200, 'application/pdf'])
})
