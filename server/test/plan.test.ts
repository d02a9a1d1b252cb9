import { randomUUID } from 'node:crypto'
import type { MeasuredProfile, Rest } from '@fleam/contract/plan'
import type { Run, Weighing } from '@fleam/contract/runs'
import { runRequest, stockedKitchen, stockKitchen, weighingRequest } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()

const now = () => new Date().toISOString()
const stations = [
  { cm: 0, girthCm: 24 },
  { cm: 30, girthCm: 22 },
  { cm: 50, girthCm: 9 },
]
const plan = {
  name: 'Tenderloin',
  stations,
  grams: 1800,
  types: [{ id: 'steak', value: 11, targetGrams: 180, minGrams: 170, maxGrams: 190, minCm: 2, maxCm: 6, minDiameterCm: 5 }],
  tipsValuePerKg: 17,
  minTipsCm: 2,
  offTargetPerGram: 0.01,
  stepCm: 0.1,
  tubs: { steak: 'centre-steak' },
}

test('a measured piece is kept once, offered to everyone of the kitchen, and dropped', async () => {
  const create = { id: randomUUID(), name: 'Tidewater loin', kind: 'muscle', stations, grams: 1800 }
  await kitchen.cook.ask('POST', '/profiles', create)
  await kitchen.cook.ask('POST', '/profiles', create)
  const list = async () => (await kitchen.lead.ask('GET', '/profiles')).body.entries as unknown as MeasuredProfile[]
  expect(await list()).toMatchObject([{ id: create.id, name: 'Tidewater loin', stations, grams: 1800 }])
  expect((await kitchen.cook.ask('DELETE', `/profiles/${create.id}`)).status).toBe(204)
  expect((await kitchen.cook.ask('DELETE', `/profiles/${create.id}`)).status).toBe(404)
  expect(await list()).toEqual([])
})

test('finished runs that were cut to a plan teach the usual shape; slices that were taken back do not', async () => {
  const shapes = async () =>
    (await kitchen.cook.ask('GET', '/usual-shapes')).body.entries as unknown as {
      item: { id: string }
      shape: { pieces: number; roots: number[] }
    }[]
  const cut = async (grams: number, takeBack: boolean) => {
    const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen))).body as unknown as Run
    const note = (what: object) => kitchen.cook.ask('POST', `/runs/${run.id}/bench-events`, { id: randomUUID(), what, at: now() })
    expect((await note({ kind: 'plan', plan })).status).toBe(201)
    const weighed = (await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? '', `${grams} g`)))
      .body as unknown as Weighing
    await note({ kind: 'slice', weighingId: weighed.id, thicknessMm: 38, plannedGrams: 180 })
    if (takeBack)
      await kitchen.cook.ask('POST', `/runs/${run.id}/reversals`, { id: randomUUID(), reversesId: weighed.id, weighedAt: now() })
    expect(await shapes()).toEqual(learnt)
    await kitchen.lead.ask('POST', `/runs/${run.id}/finish`, { version: run.version, minutes: 9, unaccountedReason: 'a test' })
    learnt = await shapes()
  }
  let learnt: Awaited<ReturnType<typeof shapes>> = []
  await cut(180, true)
  expect(learnt).toMatchObject([{ item: { id: kitchen.itemId }, shape: { pieces: 1 } }])
  const plain = learnt[0]?.shape.roots[0] ?? 0
  await cut(230, false)
  expect(learnt[0]?.shape.pieces).toBe(2)
  expect(learnt[0]?.shape.roots[0]).toBeGreaterThan(plain)
})

test('what was bonded rests on the Board until its hours are over', async () => {
  const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen))).body as unknown as Run
  const at = now()
  const rest = { kind: 'rest', what: 'Two loins, bonded', hoursLow: 6, hoursHigh: 12 }
  await kitchen.cook.ask('POST', `/runs/${run.id}/bench-events`, { id: randomUUID(), what: rest, at })
  const [entry] = (await kitchen.lead.ask('GET', '/rests')).body.entries as unknown as Rest[]
  expect(entry).toMatchObject({ runId: run.id, runNumber: run.number, what: 'Two loins, bonded' })
  expect(new Date(entry?.readyAt ?? 0).getTime() - new Date(at).getTime()).toBe(6 * 3_600_000)
  expect(new Date(entry?.bestBy ?? 0).getTime() - new Date(at).getTime()).toBe(12 * 3_600_000)
})

test('a plan that is nonsense is refused with its field', async () => {
  const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen))).body as unknown as Run
  const refused = await kitchen.cook.ask('POST', `/runs/${run.id}/bench-events`, {
    id: randomUUID(),
    what: { kind: 'plan', plan: { ...plan, grams: -5 } },
    at: now(),
  })
  expect([refused.status, refused.body.errors?.[0]?.field]).toEqual([400, 'what.plan.grams'])
})

test('a run that goes to another kitchen as a file keeps each slice with its weighing', async () => {
  const other = await stockKitchen(test_, 'Next door')
  const file = JSON.stringify((await kitchen.cook.ask('GET', '/runs.json?status=finished')).body)
  const imported = await test_.app.inject({
    method: 'POST',
    url: '/api/v1/run-imports?preview=false',
    headers: { cookie: other.manager.cookie, 'content-type': 'application/json' },
    payload: file,
  })
  expect(imported.json().written).toBe(true)
  const { entries } = (await other.cook.ask('GET', '/runs?status=finished')).body as unknown as { entries: { id: string }[] }
  expect(entries).toHaveLength(2)
  for (const { id } of entries) {
    const run = (await other.cook.ask('GET', `/runs/${id}`)).body as unknown as Run
    const slices = run.events.flatMap(({ what }) => (what.kind === 'slice' ? [what.weighingId] : []))
    expect(slices).toHaveLength(1)
    expect(run.weighings.map((line) => line.id)).toEqual(expect.arrayContaining(slices))
  }
})
