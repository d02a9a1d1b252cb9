import { randomUUID } from 'node:crypto'
import type { BenchEvent } from '@fleam/contract/bench'
import type { DishNeed } from '@fleam/contract/dishes'
import type { Move, Run, Weighing } from '@fleam/contract/runs'
import { runRequest, stockedKitchen, weighingRequest } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()

const now = () => new Date().toISOString()

async function startRun(changes: Record<string, unknown> = {}): Promise<Run> {
  return (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, changes))).body as unknown as Run
}
async function readRun(id: string): Promise<Run> {
  return (await kitchen.cook.ask('GET', `/runs/${id}`)).body as unknown as Run
}

test('a piece is moved by a reversal and a weighing that are linked, once however often it is asked', async () => {
  const run = await startRun()
  const [steaks, tips] = run.tubs
  const weighed = (await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(steaks?.id ?? '')))
    .body as unknown as Weighing
  const request = { id: randomUUID(), reversalId: randomUUID(), weighingId: weighed.id, tubId: tips?.id, weighedAt: now() }
  const answers = await Promise.all([1, 2, 3].map(() => kitchen.cook.ask('POST', `/runs/${run.id}/moves`, request)))
  expect(answers.map((answer) => answer.status)).toEqual([201, 201, 201])
  const moved = answers[0]?.body as unknown as Move
  expect(moved.reversal).toMatchObject({ reversesId: weighed.id, tubId: steaks?.id, tenths: 1840 })
  expect(moved.weighing).toMatchObject({ movedFromId: weighed.id, tubId: tips?.id, tenths: 1840, entered: '184 g' })
  expect((await readRun(run.id)).weighings).toHaveLength(3)
  const again = await kitchen.cook.ask('POST', `/runs/${run.id}/moves`, { ...request, id: randomUUID(), reversalId: randomUUID() })
  expect([again.status, again.body.type]).toEqual([409, 'urn:fleam:problem:already-reversed'])
})

test('a move to no tub, of no weighing or in a closed run is refused and leaves nothing behind', async () => {
  const run = await startRun()
  const weighed = (await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? '')))
    .body as unknown as Weighing
  const move = (change: object) => ({
    id: randomUUID(),
    reversalId: randomUUID(),
    weighingId: weighed.id,
    tubId: run.tubs[1]?.id,
    weighedAt: now(),
    ...change,
  })
  const ask = async (change: object) => (await kitchen.cook.ask('POST', `/runs/${run.id}/moves`, move(change))).status
  expect(await ask({ tubId: randomUUID() })).toBe(404)
  expect(await ask({ weighingId: randomUUID() })).toBe(404)
  await kitchen.lead.ask('POST', `/runs/${run.id}/finish`, { version: run.version, minutes: 4, unaccountedReason: 'a test' })
  expect(await ask({})).toBe(409)
  expect((await readRun(run.id)).weighings).toHaveLength(1)
})

test('what another weighed on this tablet is put down to them', async () => {
  const run = await startRun()
  const tubId = run.tubs[0]?.id ?? ''
  const stored = await kitchen.cook.ask(
    'POST',
    `/runs/${run.id}/weighings`,
    weighingRequest(tubId, '184 g', { personId: kitchen.lead.personId }),
  )
  expect((stored.body as unknown as Weighing).by.id).toBe(kitchen.lead.personId)
  const line = await test_.db.of(kitchen.kitchenId).weighings.findOne({ where: { runId: run.id } })
  expect([line?.personId, line?.sentById]).toEqual([kitchen.lead.personId, kitchen.cook.personId])
  const stranger = await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(tubId, '1 g', { personId: randomUUID() }))
  expect([stranger.status, stranger.body.errors?.[0]?.field]).toEqual([404, 'personId'])
})

test('pieces of a run keep their number through taking back and moving', async () => {
  const run = await startRun({ pieces: 3, byPiece: true, billed: '8850 g', received: '8808 g' })
  expect(run).toMatchObject({ pieces: 3, byPiece: true })
  const weighed = (
    await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? '', '184 g', { piece: 2 }))
  ).body as unknown as Weighing
  expect(weighed.piece).toBe(2)
  const moved = (
    await kitchen.cook.ask('POST', `/runs/${run.id}/moves`, {
      id: randomUUID(),
      reversalId: randomUUID(),
      weighingId: weighed.id,
      tubId: run.tubs[1]?.id,
      weighedAt: now(),
    })
  ).body as unknown as Move
  expect([moved.reversal.piece, moved.weighing.piece]).toEqual([2, 2])
  expect((await startRun({ pieces: 1, byPiece: true })).byPiece).toBe(false)
})

test('what happens at the bench is kept in order, once, with who and when', async () => {
  const run = await startRun()
  const note = (what: object, id = randomUUID()) => kitchen.cook.ask('POST', `/runs/${run.id}/bench-events`, { id, what, at: now() })
  const id = randomUUID()
  await note({ kind: 'step', step: 2 }, id)
  await note({ kind: 'step', step: 2 }, id)
  await note({ kind: 'cold', out: false })
  await note({ kind: 'optional-step', step: 1, done: false })
  const { events } = await readRun(run.id)
  expect(events.map((event) => event.what.kind)).toEqual(['step', 'cold', 'optional-step'])
  expect(events[0]).toMatchObject({ id, by: { id: kitchen.cook.personId } })
  expect((await note({ kind: 'dance' })).status).toBe(400)
})

test('a temperature over the limit asks what was done, and keeps the limit it was set against', async () => {
  const run = await startRun()
  const note = (what: object) =>
    kitchen.cook.ask('POST', `/runs/${run.id}/bench-events`, { id: randomUUID(), what: { kind: 'temperature', ...what }, at: now() })
  expect((await note({ of: 'product', celsius: 8 })).body.type).toBe('urn:fleam:problem:decision-needed')
  const kept = (await note({ of: 'product', celsius: 8, action: 'Back into the cold' })).body as unknown as BenchEvent
  expect(kept.what).toEqual({ kind: 'temperature', of: 'product', celsius: 8, action: 'Back into the cold', limitC: 5 })
  expect((await note({ of: 'room', celsius: 19 })).status).toBe(201)
})

test('a defect note may name its step', async () => {
  const run = await startRun()
  await kitchen.cook.ask('POST', `/runs/${run.id}/defects`, { id: randomUUID(), kind: 'blunt knife', step: 'Silverskin off' })
  await kitchen.cook.ask('POST', `/runs/${run.id}/defects`, { id: randomUUID(), kind: 'skin torn' })
  expect((await readRun(run.id)).defects.map((defect) => defect.step)).toEqual(['Silverskin off', null])
})

test('a dish knows what finished runs have brought since it was written down', async () => {
  const tub = (await startRun()).tubs[3]
  const need = { id: randomUUID(), dish: 'Skewers', animal: 'beef', product: tub?.key, need: '1 kg', dueOn: '2026-12-05' }
  expect((await kitchen.cook.ask('POST', '/dish-needs', need)).status).toBe(403)
  await kitchen.lead.ask('POST', '/dish-needs', need)
  const run = await startRun({ startedAt: new Date(Date.now() + 1000).toISOString() })
  const into = run.tubs[3]?.id ?? ''
  const wrong = (await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(into, '900 g'))).body as unknown as Weighing
  await kitchen.cook.ask('POST', `/runs/${run.id}/reversals`, { id: randomUUID(), reversesId: wrong.id, weighedAt: now() })
  await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(into, '204.5 g'))
  const listed = async () =>
    ((await kitchen.cook.ask('GET', '/dish-needs')).body.entries as unknown as DishNeed[]).find((one) => one.id === need.id)
  expect((await listed())?.collectedTenths).toBe(0)
  await kitchen.lead.ask('POST', `/runs/${run.id}/finish`, { version: run.version, minutes: 4, unaccountedReason: 'a test' })
  expect((await listed())?.collectedTenths).toBe(2045)
  await kitchen.lead.ask('POST', `/dish-needs/${need.id}/close`, { version: 1 })
  expect(await listed()).toBeUndefined()
})
