import { randomUUID } from 'node:crypto'
import type { FollowOn, MovedCost, Trace } from '@fleam/contract/follow-ons'
import type { Run } from '@fleam/contract/runs'
import type { Lot, LotWithMoves } from '@fleam/contract/walk-in'
import { seededRandom } from '@fleam/core/random/seeded-random'
import { daysAfter } from '@fleam/core/walk-in/use-by'
import { type Answer, finishedRun, runRequest, type Stocked, stockedKitchen, stockKitchen, weighingRequest } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()
const at = () => new Date().toISOString()
const today = () => at().slice(0, 10)
const lotsIn = (answer: Answer) => (answer.body as unknown as { entries: Lot[] }).entries
const lotsOf = async (runId: string) => lotsIn(await kitchen.cook.ask('GET', `/runs/${runId}/lots`))
const lotNow = async (id: string) => (await kitchen.cook.ask('GET', `/lots/${id}`)).body as unknown as LotWithMoves
const move = (lotId: string, what: object, id: string = randomUUID()) =>
  kitchen.cook.ask('POST', `/lots/${lotId}/moves`, { id, what, at: at() })
const take = (lotId: string, some: object, takenFor = 'dish', note = 'Steak, chips') =>
  move(lotId, { kind: 'take', ...some, takenFor, note })

const steaksRun = (lot = '14-B') => ({ steaks: ['182 g', '178 g', '181 g', '179 g'], received: '760 g', minutes: 10, lot })

/** Four steaks of a finished run, as they lie in the walk-in. */
async function steaks(): Promise<{ run: Run; lot: Lot }> {
  const run = (await finishedRun(kitchen, steaksRun())) as unknown as Run
  const [lot] = await lotsOf(run.id)
  return { run, lot: lot as Lot }
}

describe('what a run leaves in the walk-in', () => {
  test('finishing puts the tubs away: what, how much, until when, of which delivery, and what it costs', async () => {
    const { run, lot } = await steaks()
    expect(lot).toMatchObject({
      name: 'Centre steaks',
      kind: 'raw cuts',
      unit: 'g',
      packedTenths: 7200,
      leftTenths: 7200,
      leftPortions: 4,
      place: 'Walk-in shelf',
      state: 'chilled',
      useBy: daysAfter(today(), 5),
      supplierLot: '14-B',
      run: { id: run.id, number: run.number, item: 'Tenderloin' },
    })
    // every steak's cost, no more and no less
    expect(lot.cost).toBeCloseTo((run.figures?.costPerKg ?? 0) * 0.72, 9)
  })

  test('packs are put away while it is being cut; the end puts away the rest, and no more than came off', async () => {
    const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, { billed: '800 g', received: '800 g', weightsChecked: true })))
      .body as unknown as Run
    const tubId = run.tubs[0]?.id ?? ''
    for (const weight of ['180 g', '182 g', '178 g', '240 g'])
      await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(tubId, weight))
    const pack = (tenths: number) => ({ id: randomUUID(), tubId, tenths, portions: 2, kind: 'raw cuts', state: 'frozen', place: 'Freezer' })
    const two = [pack(3620)]
    const put = (lots: object[]) => kitchen.cook.ask('POST', `/runs/${run.id}/lots`, { lots })
    expect(lotsIn(await put(two))).toMatchObject([{ leftTenths: 3620, state: 'frozen', chilledDaysLeft: 5, cost: null }])
    expect(lotsIn(await put(two))).toHaveLength(1)
    const tooMuch = await put([pack(4181)])
    expect([tooMuch.status, tooMuch.body.errors?.[0]?.field]).toEqual([400, 'lots.0.tenths'])
    await kitchen.cook.ask('POST', `/runs/${run.id}/finish`, { version: run.version, minutes: 5, unaccountedReason: 'drip' })
    const lots = await lotsOf(run.id)
    expect(lots.map(({ packedTenths }) => packedTenths).sort()).toEqual([3620, 4180])
    expect(lots.every(({ cost }) => (cost ?? 0) > 0)).toBe(true)
  })

  test('a run that is put right later: its lots follow, in grams and in money', async () => {
    const { run, lot } = await steaks()
    const reopened = (await kitchen.lead.ask('POST', `/runs/${run.id}/reopen`, { version: run.version, reason: 'wrong weight' }))
      .body as unknown as Run
    const last = reopened.weighings.at(-1)
    await kitchen.cook.ask('POST', `/runs/${run.id}/reversals`, { id: randomUUID(), reversesId: last?.id, weighedAt: at() })
    await kitchen.cook.ask('POST', `/runs/${run.id}/finish`, {
      version: reopened.version,
      minutes: 10,
      unaccountedReason: 'one was not there',
    })
    const after = await lotNow(lot.id)
    expect([after.leftTenths, after.packedTenths, after.leftPortions]).toEqual([5410, 5410, 3])
    expect(after.cost).toBeGreaterThan(((lot.cost ?? 0) * 5410) / 7200)
  })
})

test('nothing of a run that is discarded lies there any more', async () => {
  const { run, lot } = await steaks()
  const reopened = (await kitchen.lead.ask('POST', `/runs/${run.id}/reopen`, { version: run.version, reason: 'twice' }))
    .body as unknown as Run
  await kitchen.lead.ask('POST', `/runs/${run.id}/discard`, { version: reopened.version, reason: 'received twice' })
  const { leftTenths, moves } = await lotNow(lot.id)
  expect([leftTenths, moves.reduce((sum, { tenths }) => sum + tenths, 0)]).toEqual([0, 0])
})

describe('taking, freezing, counting', () => {
  test('by portions, by grams, all of it; a repeat takes once; more than is there says who took some', async () => {
    const { lot } = await steaks()
    const id = randomUUID()
    const what = { kind: 'take', portions: 1, takenFor: 'dish', note: 'Steak, chips' }
    await Promise.all([move(lot.id, what, id), move(lot.id, what, id)])
    expect(await lotNow(lot.id)).toMatchObject({ leftTenths: 5400, leftPortions: 3 })
    await take(lot.id, { tenths: 1800 }, 'staff')
    expect(await lotNow(lot.id)).toMatchObject({ leftTenths: 3600, leftPortions: 2 })
    const tooMuch = await take(lot.id, { tenths: 3601 })
    expect([tooMuch.status, tooMuch.body.type]).toEqual([409, 'urn:fleam:problem:lot-refused'])
    expect(tooMuch.body).toMatchObject({ detail: expect.stringContaining(`took some last`), current: { leftTenths: 3600 } })
    await take(lot.id, {})
    expect(await lotNow(lot.id)).toMatchObject({ leftTenths: 0, leftPortions: 0 })
    expect((await take(lot.id, {})).body).toMatchObject({ detail: expect.stringContaining('Nothing is left') })
  })

  test('two who take the last pack at once: one has it', async () => {
    const { lot } = await steaks()
    const answers = await Promise.all([take(lot.id, {}), take(lot.id, {}), take(lot.id, {})])
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409, 409])
  })

  test('frozen and thawed, once each; what is frozen goes to no dish; each is taken back', async () => {
    const { lot } = await steaks()
    const freeze = randomUUID()
    await move(lot.id, { kind: 'freeze', place: 'Freezer' }, freeze)
    expect(await lotNow(lot.id)).toMatchObject({ state: 'frozen', place: 'Freezer', chilledDaysLeft: 5, useBy: daysAfter(today(), 120) })
    expect((await take(lot.id, { portions: 1 })).body).toMatchObject({ detail: expect.stringContaining('thaw it first') })
    await kitchen.cook.ask('POST', `/lots/${lot.id}/undos`, { id: randomUUID(), moveId: freeze, at: at() })
    expect(await lotNow(lot.id)).toMatchObject({ state: 'chilled', place: 'Walk-in shelf', useBy: lot.useBy })
    await move(lot.id, { kind: 'freeze', place: 'Freezer' })
    await move(lot.id, { kind: 'thaw', place: 'Service fridge' })
    expect(await lotNow(lot.id)).toMatchObject({ state: 'thawed', useBy: daysAfter(today(), 1) })
    expect((await move(lot.id, { kind: 'thaw', place: 'Service fridge' })).status).toBe(409)
    expect((await move(lot.id, { kind: 'freeze', place: 'Freezer' })).body).toMatchObject({
      detail: expect.stringContaining('not frozen again'),
    })
  })

  test('what is past its date is thrown away or kept by a lead with a reason, and never picked', async () => {
    const { lot } = await steaks()
    await test_.db.of(kitchen.kitchenId).lots.update({ useBy: daysAfter(today(), -1) }, { id: lot.id })
    expect((await take(lot.id, { portions: 1 })).body).toMatchObject({ detail: expect.stringContaining('throw it away') })
    const keep = { kind: 'keep', useBy: daysAfter(today(), 1), note: 'looked at, smells right' }
    expect((await move(lot.id, keep)).status).toBe(403)
    expect(
      (await kitchen.lead.ask('POST', `/lots/${lot.id}/moves`, { id: randomUUID(), what: { ...keep, useBy: '2026-01-01' }, at: at() }))
        .status,
    ).toBe(409)
    expect((await kitchen.lead.ask('POST', `/lots/${lot.id}/moves`, { id: randomUUID(), what: keep, at: at() })).status).toBe(201)
    expect((await take(lot.id, { portions: 1 })).status).toBe(201)
    const thrown = await take(lot.id, {}, 'thrown away', '')
    expect([thrown.status, thrown.body.errors?.[0]?.field]).toEqual([400, 'what.note'])
    await take(lot.id, {}, 'thrown away', 'dried out')
    const { entries } = (await kitchen.cook.ask('GET', '/thrown-away')).body as unknown as {
      entries: { reason: string; cost: number; grams: number }[]
    }
    const [line] = entries.filter(({ reason }) => reason === 'dried out')
    expect(line).toMatchObject({ grams: 540 })
    expect(line?.cost).toBeCloseTo(((lot.cost ?? 0) * 540) / 720, 9)
  })

  test('whatever happens, the books balance: grams in are grams out and grams there, to a tenth', async () => {
    const random = seededRandom(12)
    const { lot } = await steaks()
    const ids = [lot.id]
    for (let turn = 0; turn < 60; turn += 1) {
      const lotId = random.pick(ids)
      const { moves } = await lotNow(lotId)
      const splitId = randomUUID()
      const tenths = 1 + Math.floor(random.next() * 900)
      const some = random.next() < 0.5 ? { tenths } : { portions: 1 }
      const choice = random.next()
      if (choice < 0.4) await take(lotId, some)
      else if (choice < 0.6)
        await kitchen.cook.ask('POST', `/lots/${lotId}/undos`, { id: randomUUID(), moveId: random.pick(moves).id, at: at() })
      else if (choice < 0.75) {
        const split = await move(lotId, { kind: 'split', lotId: splitId, ...some, place: 'Freezer' })
        if (split.status === 201) ids.push(splitId)
      } else if (choice < 0.9) await move(lotId, { kind: 'count', tenths, portions: 1 + Math.floor(random.next() * 3), note: 'counted' })
      else await move(lotId, { kind: random.next() < 0.5 ? 'freeze' : 'thaw', place: 'Freezer' })
    }
    expect(ids.length).toBeGreaterThan(2)
    for (const id of ids) {
      const { moves, leftTenths, leftPortions } = await lotNow(id)
      expect(moves.reduce((sum, line) => sum + line.tenths, 0)).toBe(leftTenths)
      expect(leftTenths).toBeGreaterThanOrEqual(0)
      expect(leftPortions).toBeGreaterThanOrEqual(0)
    }
  })

  test('a lot of another kitchen is nobody’s here', async () => {
    const other = await stockKitchen(test_, `Other ${randomUUID()}`)
    const { lot } = await steaks()
    const what = { kind: 'take', takenFor: 'staff' }
    expect((await other.cook.ask('POST', `/lots/${lot.id}/moves`, { id: randomUUID(), what, at: at() })).status).toBe(404)
    expect((await other.cook.ask('GET', `/lots/${lot.id}/trace`)).status).toBe(404)
    expect((await lotNow(lot.id)).leftTenths).toBe(7200)
  })
})

test('dishes have what lies there, oldest first, the one that is due first before the others; what is short is said in money', async () => {
  const dish = (name: string, need: string, dueOn: string) => ({
    id: randomUUID(),
    dish: name,
    animal: 'beef',
    product: 'head-roast',
    need,
    dueOn,
  })
  const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, { billed: '1 kg', received: '1 kg', weightsChecked: true })))
    .body as unknown as Run
  const roast = run.tubs.find(({ key }) => key === 'head-roast') ?? run.tubs[1]
  await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(roast?.id ?? '', '900 g'))
  await kitchen.cook.ask('POST', `/runs/${run.id}/finish`, { version: run.version, minutes: 3, unaccountedReason: 'drip' })
  const product = roast?.key
  const [later, sooner] = [
    { ...dish('Later', '700 g', daysAfter(today(), 6)), product },
    { ...dish('Sooner', '600 g', daysAfter(today(), 2)), product },
  ]
  for (const one of [later, sooner]) await kitchen.lead.ask('POST', '/dish-needs', one)
  const needs = async () => {
    const { entries } = (await kitchen.cook.ask('GET', '/dish-needs')).body as unknown as {
      entries: { dish: string; collectedTenths: number; shortCost: number }[]
    }
    return Object.fromEntries(entries.map((need) => [need.dish, need]))
  }
  const [lot] = await lotsOf(run.id)
  const before = await needs()
  expect([before.Sooner?.collectedTenths, before.Later?.collectedTenths]).toEqual([6000, 3000])
  expect(before.Later?.shortCost).toBeCloseTo(((lot?.cost ?? 0) * 400) / 900, 9)
  await take(lot?.id ?? '', { tenths: 6000 }, 'dish', 'Sooner')
  const after = await needs()
  expect([after.Sooner?.collectedTenths, after.Later?.collectedTenths]).toEqual([6000, 3000])
  await kitchen.lead.ask('POST', `/lots/${lot?.id}/moves`, { id: randomUUID(), what: { kind: 'block', note: 'called back' }, at: at() })
  expect((await needs()).Later?.collectedTenths).toBe(0)
})

describe('follow-ons', () => {
  const start = (inputs: object[], changes: object = {}) =>
    kitchen.cook.ask('POST', '/follow-ons', { id: randomUUID(), sheet: 'grind', name: 'House grind', inputs, startedAt: at(), ...changes })
  const input = (lotId: string, tenths: number | null = null) => ({ moveId: randomUUID(), lotId, tenths })
  const output = (changes: object = {}) => ({
    id: randomUUID(),
    name: 'House grind',
    role: 'main',
    unit: 'g',
    tenths: 7000,
    portions: 5,
    kind: 'grind and sausage',
    place: 'Service fridge',
    ...changes,
  })
  const finish = (made: FollowOn, changes: object = {}) =>
    kitchen.cook.ask('POST', `/follow-ons/${made.id}/finish`, {
      version: made.version,
      added: [],
      energy: 0.2,
      minutes: 6,
      method: 'byproduct-credit',
      outputs: [output()],
      ...changes,
    })

  test('cost goes from the invoice through every stage, and moves when the first run is put right', async () => {
    const { run, lot } = await steaks()
    const grind = (await start([input(lot.id)])).body as unknown as FollowOn
    expect((await lotNow(lot.id)).leftTenths).toBe(0)
    const made = (await finish(grind)).body as unknown as FollowOn
    const labour = (6 / 60) * 19.5 * 1.12
    expect(made.figures).toMatchObject({
      carried: expect.closeTo((lot.cost ?? 0) + 0.2, 9),
      yieldPct: expect.closeTo((700 / 720) * 100, 9),
    })
    const [mince] = made.outputs
    expect(mince).toMatchObject({ useBy: daysAfter(today(), 2), leftPortions: 5, supplierLot: '14-B', followOn: { id: grind.id } })
    expect(mince?.cost).toBeCloseTo((lot.cost ?? 0) + 0.2 + labour, 9)
    // a second stage, of half of it
    const patties = (await start([input(mince?.id ?? '', 3500)], { name: 'Patties' })).body as unknown as FollowOn
    const fried = (await finish(patties, { energy: 0, minutes: 0, outputs: [output({ name: 'Patties', tenths: 3500 })] }))
      .body as unknown as FollowOn
    expect(fried.outputs[0]?.cost).toBeCloseTo((mince?.cost ?? 0) / 2, 9)

    const reopened = (await kitchen.lead.ask('POST', `/runs/${run.id}/reopen`, { version: run.version, reason: 'billed twice' }))
      .body as unknown as Run
    const { itemId, cutSheetId, supplierId } = kitchen
    const delivery = {
      version: reopened.version,
      itemId,
      cutSheetId,
      supplierId,
      lot: '14-B',
      billed: '1520 g',
      received: '760 g',
      weightsChecked: true,
    }
    const right = (await kitchen.lead.ask('PUT', `/runs/${run.id}/received`, delivery)).body as unknown as Run
    await kitchen.cook.ask('POST', `/runs/${run.id}/finish`, {
      version: right.version,
      minutes: 10,
      consumables: 0.6,
      unaccountedReason: 'drip',
    })
    const dearer = (await lotNow(lot.id)).cost ?? 0
    expect(dearer).toBeGreaterThan((lot.cost ?? 0) * 1.5)
    const after = await lotNow(fried.outputs[0]?.id ?? '')
    expect(after.cost).toBeCloseTo((dearer + 0.2 + labour) / 2, 9)
    const { entries: moved } = (await kitchen.cook.ask('GET', `/runs/${run.id}/moved-costs`)).body as unknown as { entries: MovedCost[] }
    const [, , last] = moved
    expect(moved.map(({ name }) => name)).toEqual(['Centre steaks', 'House grind', 'Patties'])
    expect(last).toMatchObject({ before: expect.closeTo((mince?.cost ?? 0) / 2, 9), after: after.cost })
  })

  test('of two outputs each carries its own when it is split later; struck, what went in lies where it lay', async () => {
    const { lot } = await steaks()
    const made = (await start([input(lot.id, 6000)])).body as unknown as FollowOn
    const struck = await kitchen.cook.ask('POST', `/follow-ons/${made.id}/discard`, { version: made.version, reason: 'wrong lot' })
    expect(struck.status).toBe(200)
    expect((await lotNow(lot.id)).leftTenths).toBe(7200)
    const again = (await start([input(lot.id, 6000)])).body as unknown as FollowOn
    const outputs = [
      output({ tenths: 4000, portions: 4 }),
      output({ name: 'Fat', role: 'byproduct', tenths: 1000, portions: null, valuePerUnit: 3, kind: 'rendered fat' }),
    ]
    const done = (await finish(again, { outputs })).body as unknown as FollowOn
    const fat = done.outputs.find(({ name }) => name === 'Fat')
    expect(fat?.cost).toBeCloseTo(0.3, 9)
    const splitId = randomUUID()
    await move(fat?.id ?? '', { kind: 'split', lotId: splitId, tenths: 400, place: 'Freezer' })
    expect((await lotNow(splitId)).cost).toBeCloseTo(0.12, 9)
    expect((await finish(done)).status).toBe(409)
  })

  test('at its bench: weighed, taken back, once each however often sent, by whoever weighed; closed, nothing more', async () => {
    const { lot } = await steaks()
    const made = (await start([input(lot.id)])).body as unknown as FollowOn
    const weigh = (line: object) => kitchen.cook.ask('POST', `/follow-ons/${made.id}/weighings`, { id: randomUUID(), at: at(), ...line })
    const first = { id: randomUUID(), output: 'House grind', tenths: 4000, personId: kitchen.lead.personId }
    await Promise.all([weigh(first), weigh(first)])
    await weigh({ output: 'House grind', tenths: 2950 })
    const back = await weigh({ output: null, tenths: 1, reversesId: first.id })
    const lines = (back.body as unknown as FollowOn).body.weighings
    expect(lines.map(({ output: into, tenths, by }) => [into, tenths, by])).toEqual([
      ['House grind', 4000, expect.stringContaining('lead')],
      ['House grind', 2950, expect.stringContaining('cook')],
      ['House grind', 4000, expect.stringContaining('cook')],
    ])
    expect((await weigh({ tenths: 4000, reversesId: first.id })).body.type).toBe('urn:fleam:problem:already-reversed')
    expect((await weigh({ tenths: 4000, reversesId: randomUUID() })).status).toBe(404)
    const now = (await kitchen.cook.ask('GET', `/follow-ons/${made.id}`)).body as unknown as FollowOn
    await finish(now)
    expect((await weigh({ output: 'House grind', tenths: 10 })).body.type).toBe('urn:fleam:problem:follow-on-closed')
    // what was on record already is not refused
    expect((await weigh(first)).status).toBe(201)
  })

  test('a way of its own: written by a lead, begun by a cook, its checks held against the house, and what it gave is learned', async () => {
    const body = {
      name: 'Meat loaf',
      madeOf: ['raw cuts'],
      added: [{ name: 'Bread', pctOfInput: 10 }],
      outputs: [
        { name: 'Loaf', role: 'main', unit: 'g', kind: 'cooked and sliced', yieldPct: { low: 70, typical: 80, high: 90 }, per: 'input' },
      ],
      method: 'byproduct-credit',
      minutes: 20,
      waitHours: { low: 1, high: 2 },
      steps: ['Mix, press, bake.'],
      checks: ['Rested'],
      cautions: ['Ground meat is cooked through: {groundCoreC} °C.'],
      core: 'groundCoreC',
    }
    const id = randomUUID()
    expect((await kitchen.cook.ask('POST', '/follow-on-sheets', { id, body })).status).toBe(403)
    const wrong = { ...body, outputs: [{ ...body.outputs[0], yieldPct: { low: 90, typical: 80, high: 85 } }] }
    expect((await kitchen.lead.ask('POST', '/follow-on-sheets', { id, body: wrong })).body.errors?.[0]?.field).toBe(
      'body.outputs.0.yieldPct',
    )
    await kitchen.lead.ask('POST', '/follow-on-sheets', { id, body })
    const { lot } = await steaks()
    const made = (await start([input(lot.id)], { sheet: id, name: 'Meat loaf' })).body as unknown as FollowOn
    const check = (celsius: number, action = '') =>
      kitchen.cook.ask('POST', `/follow-ons/${made.id}/checks`, {
        id: randomUUID(),
        kind: 'core',
        words: 'Core',
        celsius,
        action,
        at: at(),
      })
    await check(65, 'ten minutes longer')
    const checked = (await check(72)).body as unknown as FollowOn
    expect(checked.body.checks.map(({ isOut, limitC }) => [isOut, limitC])).toEqual([
      [true, 71],
      [false, 71],
    ])
    await finish(checked, { outputs: [output({ name: 'Loaf', tenths: 6120, portions: 6 })] })
    type Sheets = {
      entries: { id: string | null; version: number; isRetired: boolean; book: { tests: number; outputs: { share: { mean: number } }[] } }[]
    }
    const own = async () =>
      ((await kitchen.cook.ask('GET', '/follow-on-sheets')).body as unknown as Sheets).entries.find((one) => one.id === id)
    expect((await own())?.book).toMatchObject({ tests: 1, outputs: [{ share: { mean: expect.closeTo((3 * 80 + 85) / 4, 9) } }] })
    const put = (version: number) => kitchen.lead.ask('PUT', `/follow-on-sheets/${id}`, { version, body, isRetired: true })
    expect((await put(1)).status).toBe(200)
    expect((await put(1)).status).toBe(409)
    expect((await own())?.isRetired).toBe(true)
  })

  test('what bones saved as stock is their worth for the next run; a cooking test says what the pan keeps', async () => {
    const { lot } = await steaks()
    const grind = (await start([input(lot.id, 3600)])).body as unknown as FollowOn
    const done = (await finish(grind, { boughtPerUnit: 40, energy: 1, minutes: 0, outputs: [output({ tenths: 3500 })] }))
      .body as unknown as FollowOn
    const saved = (await kitchen.cook.ask('GET', '/saved-values')).body as unknown as { entries: { followOnId: string; perKg: number }[] }
    // 0.35 kg at 40, less the energy of 1, over 0.36 kg
    expect(saved.entries.find(({ followOnId }) => followOnId === done.id)?.perKg).toBeCloseTo((14 - 1) / 0.36, 9)
    const pan = (await start([input(lot.id, 3600)], { sheet: 'cooking-test', name: 'Steak, seared' })).body as unknown as FollowOn
    await finish(pan, { outputs: [output({ name: 'Served', tenths: 2970, portions: 2, kind: 'cooked and sliced' })] })
    const tests = (await kitchen.cook.ask('GET', '/cooking-tests')).body as unknown as { entries: object[] }
    expect(tests.entries).toContainEqual({ outputKey: 'centre-steak', animal: 'beef', keptPct: expect.closeTo(82.5, 9), tests: 1 })
  })

  test('what is not known, is short, or is not there is refused with a sentence, and nothing is taken', async () => {
    const { lot } = await steaks()
    const short = await start([input(lot.id, 100), { ...input(lot.id, 9000) }])
    expect(short.status).toBe(409)
    expect((await start([input(randomUUID())])).status).toBe(404)
    expect((await start([])).body.errors?.[0]?.field).toBe('inputs')
    expect((await lotNow(lot.id)).leftTenths).toBe(7200)
    const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, { weightsChecked: true }))).body as unknown as Run
    const tubId = run.tubs[0]?.id ?? ''
    await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(tubId, '500 g'))
    const pack = { id: randomUUID(), tubId, tenths: 5000, kind: 'raw cuts', state: 'chilled', place: 'Walk-in shelf' }
    await kitchen.cook.ask('POST', `/runs/${run.id}/lots`, { lots: [pack] })
    const early = (await start([input(pack.id)])).body as unknown as FollowOn
    expect((await finish(early)).body).toMatchObject({ detail: expect.stringContaining(`finish run ${run.number} first`) })
  })

  test('labels come as a PDF in every size; of lots of nobody here, none', async () => {
    const { lot } = await steaks()
    for (const size of ['62x29', '100x50', 'a4-24']) {
      const { status, body } = await kitchen.cook.ask('GET', `/labels.pdf?size=${size}&ids=${lot.id}`)
      expect([status, String(body).slice(0, 5)]).toEqual([200, '%PDF-'])
    }
    expect((await kitchen.cook.ask('GET', `/labels.pdf?ids=${randomUUID()}`)).status).toBe(404)
    expect((await kitchen.cook.ask('GET', '/labels.pdf?ids=x')).status).toBe(400)
  })

  test('a supplier calls a lot back: all that it went into is found, and what is left is blocked', async () => {
    const called = `H${Math.floor(Math.random() * 1e6)}`
    const started = (
      await kitchen.cook.ask(
        'POST',
        '/runs',
        runRequest(kitchen, { lot: called, billed: '500 g', received: '500 g', weightsChecked: true }),
      )
    ).body as unknown as Run
    await kitchen.cook.ask('POST', `/runs/${started.id}/weighings`, weighingRequest(started.tubs[0]?.id ?? '', '490 g'))
    await kitchen.cook.ask('POST', `/runs/${started.id}/finish`, { version: started.version, minutes: 3, unaccountedReason: 'drip' })
    const [bad] = await lotsOf(started.id)
    const { lot: good } = await steaks()
    const mixed = (await start([input(bad?.id ?? '', 2000), input(good.id, 3000)])).body as unknown as FollowOn
    const made = (await finish(mixed)).body as unknown as FollowOn
    await take(made.outputs[0]?.id ?? '', { portions: 2 }, 'dish', 'Burger night')
    const found = (await kitchen.cook.ask('GET', `/traces?supplierLot=${called}`)).body as unknown as Trace
    const names = found.nodes.map(({ name }) => name)
    expect(names).toEqual(
      expect.arrayContaining([`Harrow & Fenn, lot ${called}`, 'Burger night', expect.stringContaining('House grind (follow-on')]),
    )
    const back = (await kitchen.cook.ask('GET', `/lots/${made.outputs[0]?.id}/trace`)).body as unknown as Trace
    expect(back.nodes.map(({ name }) => name)).toContain(`Harrow & Fenn, lot ${called}`)
    expect((await kitchen.cook.ask('POST', '/recalls', { supplierLot: called, reason: 'listeria', at: at() })).status).toBe(403)
    const { blocked } = (await kitchen.lead.ask('POST', '/recalls', { supplierLot: called, reason: 'listeria', at: at() }))
      .body as unknown as { blocked: Lot[] }
    expect(blocked.map(({ id }) => id).sort()).toEqual([bad?.id, made.outputs[0]?.id].sort())
    expect((await take(bad?.id ?? '', {})).body).toMatchObject({ detail: expect.stringContaining('called back') })
    expect((await lotNow(good.id)).isBlocked).toBe(false)
  })
})

test('portions that were thrown away are carried by those that were eaten', async () => {
  const own = await stockKitchen(test_)
  const run = (await finishedRun(own, steaksRun())) as unknown as Run
  const [lot] = lotsIn(await own.cook.ask('GET', `/runs/${run.id}/lots`))
  const what = { kind: 'take', portions: 1, takenFor: 'thrown away', note: 'dropped' }
  await own.cook.ask('POST', `/lots/${lot?.id}/moves`, { id: randomUUID(), what, at: at() })
  await own.cook.ask('POST', `/lots/${lot?.id}/moves`, {
    id: randomUUID(),
    what: { kind: 'split', lotId: randomUUID(), portions: 1, place: 'Freezer' },
    at: at(),
  })
  expect((await own.cook.ask('GET', '/portions-eaten')).body.entries).toEqual([
    { name: 'Centre steaks', packed: 4, thrown: 1, cost: expect.closeTo(lot?.cost ?? 0, 6) },
  ])
})

test('a day’s food-safety record: received, measured, kept, thrown away, cleaned, with who and what was out of limits', async () => {
  const own = await stockKitchen(test_)
  const run = (
    await own.cook.ask(
      'POST',
      '/runs',
      runRequest(own, { coreTempC: 8.5, temperature: { decision: 'use-at-once', note: 'van door open' } }),
    )
  ).body as unknown as Run
  await own.cook.ask('POST', `/runs/${run.id}/bench-events`, {
    id: randomUUID(),
    what: { kind: 'temperature', of: 'fridge', celsius: 6.2, action: 'door shut', limitC: 5 },
    at: at(),
  })
  const note = { id: randomUUID(), kind: 'cold store', about: 'Walk-in', celsius: 9, action: 'engineer called', at: at() }
  await Promise.all([own.cook.ask('POST', '/safety-notes', note), own.cook.ask('POST', '/safety-notes', note)])
  expect((await own.cook.ask('POST', '/safety-notes', { ...note, id: randomUUID(), celsius: null })).body.errors?.[0]?.field).toBe(
    'celsius',
  )
  const record = (await own.cook.ask('GET', `/safety-record?day=${today()}`)).body as unknown as {
    lines: { what: string; isOut: boolean; action: string; by: string }[]
  }
  expect(record.lines.map(({ what, isOut, action, by }) => [what, isOut, action, by])).toEqual([
    ['receiving', true, 'use-at-once: van door open', expect.stringContaining('cook')],
    ['temperature', true, 'door shut', expect.stringContaining('cook')],
    ['cold store', true, 'engineer called', expect.stringContaining('cook')],
  ])
  expect((await own.cook.ask('GET', '/safety-record?day=yesterday')).status).toBe(400)
  expect((await own.cook.ask('GET', `/safety-record?day=${daysAfter(today(), -1)}`)).body.lines).toEqual([])
})

describe('boxes that wait whole', () => {
  const box = (own: Stocked, changes: object = {}) => ({
    id: randomUUID(),
    itemId: own.itemId,
    supplierId: own.supplierId,
    billedTenths: 29_500,
    tenths: 29_360,
    pieces: 1,
    supplierLot: 'H132',
    place: 'Walk-in shelf',
    at: at(),
    ...changes,
  })
  const cutOf = (own: Stocked, lotId: string) =>
    runRequest(own, { billed: '2950 g', received: '2936 g', weightsChecked: true, fromLotId: lotId, lot: 'H132' })

  test('a box lies there with its dates until a run cuts it; the run is traced to it; discarded, it lies there again', async () => {
    const own = await stockKitchen(test_)
    const create = box(own, { useBy: daysAfter(today(), 2) })
    const [first] = await Promise.all([own.cook.ask('POST', '/lots', create), own.cook.ask('POST', '/lots', create)])
    expect(first.body).toMatchObject({
      name: 'Tenderloin',
      leftTenths: 29_360,
      useBy: daysAfter(today(), 2),
      whole: { pieces: 1, billedTenths: 29_500 },
    })
    expect(lotsIn(await own.cook.ask('GET', '/lots'))).toHaveLength(1)
    const run = (await own.cook.ask('POST', '/runs', cutOf(own, create.id))).body as unknown as Run
    expect((await own.cook.ask('GET', `/lots/${create.id}`)).body.leftTenths).toBe(0)
    const again = await own.cook.ask('POST', '/runs', cutOf(own, create.id))
    expect([again.status, again.body.type]).toEqual([409, 'urn:fleam:problem:lot-refused'])
    const trace = (await own.cook.ask('GET', '/traces?supplierLot=H132')).body as unknown as Trace
    expect(
      trace.flows.map(({ from, to }) => [trace.nodes.find(({ id }) => id === from)?.what, trace.nodes.find(({ id }) => id === to)?.what]),
    ).toEqual(
      expect.arrayContaining([
        ['delivery', 'lot'],
        ['lot', 'run'],
      ]),
    )
    await own.lead.ask('POST', `/runs/${run.id}/discard`, { version: run.version, reason: 'the wrong loin' })
    expect((await own.cook.ask('GET', `/lots/${create.id}`)).body.leftTenths).toBe(29_360)
    const discarded = (await own.cook.ask('GET', `/runs/${run.id}`)).body as unknown as Run
    await own.lead.ask('POST', `/runs/${run.id}/reopen`, { version: discarded.version, reason: 'it was the right one' })
    expect((await own.cook.ask('GET', `/lots/${create.id}`)).body.leftTenths).toBe(0)
  })

  test('a warm box says what was done, and it is on the day’s record; past its date it is not put away', async () => {
    const own = await stockKitchen(test_)
    const refused = async (changes: object) => (await own.cook.ask('POST', '/lots', box(own, changes))).body.errors?.[0]?.field
    expect([
      await refused({ coreTempC: 9 }),
      await refused({ useBy: daysAfter(today(), -1) }),
      await refused({ itemId: randomUUID() }),
    ]).toEqual([...['action', 'useBy', 'itemId']])
    await own.cook.ask('POST', '/lots', box(own, { coreTempC: 9, action: 'iced at once, cut today' }))
    const { lines } = (await own.cook.ask('GET', `/safety-record?day=${today()}`)).body as unknown as {
      lines: { what: string; isOut: boolean }[]
    }
    expect(lines).toMatchObject([{ what: 'receiving', isOut: true }])
  })

  test('a number on a box is matched to an item once, by supplier; said again, the last word holds', async () => {
    const own = await stockKitchen(test_)
    const say = (changes: object = {}) =>
      own.cook.ask('PUT', '/box-items', { gtin: '09501101530003', supplierId: own.supplierId, itemId: own.itemId, ...changes })
    await say()
    await say()
    await say({ supplierId: null })
    const { entries } = (await own.cook.ask('GET', '/box-items')).body as unknown as { entries: object[] }
    expect(entries).toHaveLength(2)
    expect((await say({ gtin: '123' })).body.errors?.[0]?.field).toBe('gtin')
    expect((await say({ itemId: randomUUID() })).body.errors?.[0]?.field).toBe('itemId')
  })
})
