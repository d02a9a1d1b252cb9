import { randomUUID } from 'node:crypto'
import type { Run, Weighing } from '@fleam/contract/runs'
import { type Answer, rowsOf, runRequest, stockedKitchen, weighingRequest } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()

const as = <Body>(answer: Answer) => answer.body as unknown as Body
const problemOf = (answer: Answer) => [answer.status, answer.body.type?.split(':').at(-1), answer.body.errors?.[0]?.field]

async function startRun(changes: Record<string, unknown> = {}): Promise<Run> {
  const answer = await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, changes))
  expect(answer.status).toBe(201)
  return as<Run>(answer)
}

async function weigh(run: Run, key: string, weight: string): Promise<Weighing> {
  const tub = run.tubs.find((other) => other.key === key)
  const answer = await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(tub?.id ?? '', weight))
  expect(answer.status).toBe(201)
  return as<Weighing>(answer)
}

/** A whole tenderloin weighed out, 47.5 g of 2 936 g unaccounted for. */
async function weighWhole(): Promise<Run> {
  const run = await startRun()
  for (const grams of [184, 179, 172, 181, 193.5, 180, 176, 188]) await weigh(run, 'centre-steak', `${grams} g`)
  const rest: [string, number][] = [
    ['head', 346.5],
    ['tail', 330],
    ['side-muscle', 132],
    ['lean-trim', 190],
    ['silverskin', 200],
    ['fat', 198],
    ['liquid', 38.5],
  ]
  for (const [key, grams] of rest) await weigh(run, key, `${grams} g`)
  return as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`))
}

const finish = (run: Run, changes: Record<string, unknown> = {}, who = kitchen.cook) =>
  who.ask('POST', `/runs/${run.id}/finish`, { version: run.version, minutes: 22, consumables: 0.6, ...changes })

const countRows = async (table: string) => (await rowsOf<{ count: number }>(test_.db, `SELECT COUNT(*) AS count FROM ${table}`))[0]?.count

describe('receiving', () => {
  test('a run takes over the price of its supplier, the rates in force, and the asked target', async () => {
    const run = await startRun({ target: '6.5 oz' })
    expect(run).toMatchObject({
      status: 'open',
      quote: { price: { amount: 31.4, per: 'kg' } },
      readyCut: { quote: { price: { amount: 10.9, per: 'each' } } },
      rates: { ratePerHour: 19.5, unaccountedLimitPct: 2 },
      billed: { tenths: 29_500, entered: '2950 g' },
    })
    expect(run.tubs[0]).toMatchObject({ key: 'centre-steak', targetTenths: 1843 })
  })

  test('a repeated start is one run', async () => {
    const request = runRequest(kitchen)
    const answers = await Promise.all([1, 2, 3].map(() => kitchen.cook.ask('POST', '/runs', request)))
    expect(new Set(answers.map((answer) => as<Run>(answer).number)).size).toBe(1)
  })

  test.each([
    ['billed', { billed: '' }],
    ['billed', { billed: '0 g' }],
    ['billed', { billed: '-5 g' }],
    ['billed', { billed: 'much' }],
    ['billed', { billed: '0.05 g' }],
    ['billed', { billed: '9 t' }],
    ['billed', { billed: '1.2.3 kg' }],
    ['billed', { billed: '5 ml' }],
    ['billed', { billed: 2950 }],
    ['received', { received: '2936' }],
    ['received', { received: `${'9'.repeat(10_000)} g` }],
    ['lot', { lot: '🥩'.repeat(5000) }],
    ['coreTempC', { coreTempC: 900 }],
    ['coreTempC', { coreTempC: 'cold' }],
    ['pieces', { pieces: 0 }],
    ['startedAt', { startedAt: '1890-05-01T10:00:00Z' }],
    ['itemId', { itemId: 'loin' }],
    ['itemId', { itemId: '01a20a1c-f130-7508-9b1f-ac17bbd31e93' }],
    ['cutSheetId', { cutSheetId: '01a20a1c-f130-7508-9b1f-ac17bbd31e93' }],
    ['supplierId', { supplierId: '01a20a1c-f130-7508-9b1f-ac17bbd31e93' }],
  ])('bad %s is refused by name and stores nothing (%#)', async (field, change) => {
    const before = await countRows('runs')
    const answer = await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, change))
    expect(problemOf(answer)).toEqual([400, 'invalid-input', field])
    expect(answer.body.errors?.[0]?.message).toMatch(/[a-z]{3}/)
    expect(String(answer.headers['content-type'])).toContain('application/problem+json')
    expect(await countRows('runs')).toBe(before)
  })

  test('words of four-byte characters are kept as they are', async () => {
    expect((await startRun({ lot: 'lot 🐟 魚' })).lot).toBe('lot 🐟 魚')
  })

  test('product over the limit needs a decision, which is recorded with who made it', async () => {
    const warm = { coreTempC: 7.5 }
    expect(problemOf(await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, warm)))).toEqual([422, 'decision-needed', 'temperature'])
    const silent = { ...warm, temperature: { decision: 'use-at-once' } }
    expect(problemOf(await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, silent)))).toEqual([
      422,
      'decision-needed',
      'temperature.note',
    ])
    const taken = await startRun({ ...warm, temperature: { decision: 'use-at-once', note: 'Chilled at once' } })
    expect(taken).toMatchObject({ status: 'open', temperature: { limitC: 5, decision: 'use-at-once', by: { id: kitchen.cook.personId } } })
    const away = await startRun({ ...warm, temperature: { decision: 'turn-away' } })
    expect(away.status).toBe('turned-away')
    const answer = await kitchen.cook.ask('POST', `/runs/${away.id}/weighings`, weighingRequest(away.tubs[0]?.id ?? ''))
    expect(problemOf(answer)).toEqual([409, 'run-closed', undefined])
  })

  test('an item without a price cannot be received, and says what to do', async () => {
    const itemId = randomUUID()
    await kitchen.manager.ask('POST', '/items', {
      id: itemId,
      name: 'Unpriced',
      kind: 'whole',
      animal: 'beef',
      readyCut: null,
      againstId: null,
    })
    expect(problemOf(await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, { itemId })))).toEqual([422, 'no-quote', 'itemId'])
  })
})

describe('weighing', () => {
  test('the same weighing posted five times is stored once, and every answer is the first', async () => {
    const run = await startRun()
    const request = weighingRequest(run.tubs[0]?.id ?? '')
    const answers = await Promise.all([1, 2, 3, 4, 5].map(() => kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, request)))
    expect(answers.map((answer) => answer.status)).toEqual([201, 201, 201, 201, 201])
    expect(new Set(answers.map((answer) => JSON.stringify(answer.body))).size).toBe(1)
    expect(as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`)).weighings).toHaveLength(1)
  })

  test('an id cannot stand for another weight, in this run or another', async () => {
    const run = await startRun()
    const request = weighingRequest(run.tubs[0]?.id ?? '')
    await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, request)
    expect(problemOf(await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, { ...request, weight: '190 g' }))[1]).toBe('id-in-use')
    const next = await startRun()
    const elsewhere = { ...request, tubId: next.tubs[0]?.id }
    expect(problemOf(await kitchen.cook.ask('POST', `/runs/${next.id}/weighings`, elsewhere))[1]).toBe('id-in-use')
  })

  test.each([
    ['weight', { weight: '' }],
    ['weight', { weight: '0 g' }],
    ['weight', { weight: '0.05 g' }],
    ['weight', { weight: '9 t' }],
    ['weight', { weight: '1..5 g' }],
    ['weight', { weight: '🥩' }],
    ['weight', { weight: null }],
    ['weighedAt', { weighedAt: '1890-01-01T00:00:00Z' }],
    ['id', { id: 'first' }],
  ])('bad %s is refused by name (%#)', async (field, change) => {
    const run = await startRun()
    const answer = await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? '', '184 g', change))
    expect(problemOf(answer)).toEqual([400, 'invalid-input', field])
    expect(as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`)).weighings).toHaveLength(0)
  })

  test('a tub of another run is not on this tray', async () => {
    const [run, other] = [await startRun(), await startRun()]
    const answer = await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(other.tubs[0]?.id ?? ''))
    expect(problemOf(answer)).toEqual([404, 'not-found', 'tubId'])
  })

  test('a weighing is taken back once, by a line that names it', async () => {
    const run = await startRun()
    const wrong = (await weigh(run, 'head', '6120 g').catch(() => undefined)) ?? (await weigh(run, 'head', '612 g'))
    const now = new Date().toISOString()
    const reversal = { id: randomUUID(), reversesId: wrong.id, weighedAt: now }
    const first = await kitchen.lead.ask('POST', `/runs/${run.id}/reversals`, reversal)
    const again = await kitchen.lead.ask('POST', `/runs/${run.id}/reversals`, reversal)
    expect([first.status, again.body]).toEqual([201, first.body])
    const second = await kitchen.lead.ask('POST', `/runs/${run.id}/reversals`, { ...reversal, id: randomUUID() })
    expect(problemOf(second)[1]).toBe('already-reversed')
    const ofReversal = await kitchen.lead.ask('POST', `/runs/${run.id}/reversals`, {
      id: randomUUID(),
      reversesId: reversal.id,
      weighedAt: now,
    })
    expect(problemOf(ofReversal)).toEqual([404, 'not-found', 'reversesId'])
    const lines = as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`)).weighings
    expect(lines.map((line) => line.reversesId)).toEqual([null, wrong.id])
  })

  test('a tub is added with a name and a role, once', async () => {
    const run = await startRun()
    const tub = { id: randomUUID(), name: 'Chain', role: 'coproduct' }
    const answers = [
      await kitchen.cook.ask('POST', `/runs/${run.id}/tubs`, tub),
      await kitchen.cook.ask('POST', `/runs/${run.id}/tubs`, tub),
    ]
    expect(answers.map((answer) => [answer.status, answer.body.name])).toEqual([
      [201, 'Chain'],
      [201, 'Chain'],
    ])
    expect(as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`)).tubs).toHaveLength(run.tubs.length + 1)
    expect(problemOf(await kitchen.cook.ask('POST', `/runs/${run.id}/tubs`, { ...tub, id: randomUUID(), name: ' ' }))).toEqual([
      400,
      'invalid-input',
      'name',
    ])
  })
})

describe('finishing', () => {
  test('a finished run has the figures of the core, and takes no more', async () => {
    const run = await weighWhole()
    const finished = as<Run>(await finish(run))
    expect(finished).toMatchObject({ status: 'finished', version: run.version + 1, finishedBy: { id: kitchen.cook.personId } })
    expect(finished.figures?.mainPct).toBeCloseTo(((1453.5 + 346.5) / 2936) * 100, 10)
    expect(finished.figures?.unaccountedPct).toBeCloseTo((47.5 / 2936) * 100, 10)
    expect(finished.figures?.portions).toBe(8)
    const late = await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? ''))
    expect(problemOf(late)[1]).toBe('run-closed')
    expect(as<{ current: Run }>(late).current.status).toBe('finished')
  })

  test('of two who finish one run, one wins and the other is told who', async () => {
    const run = await weighWhole()
    const answers = await Promise.all([finish(run), finish(run, {}, kitchen.lead)])
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409])
    const loser = answers.find((answer) => answer.status === 409)
    expect(as<{ detail: string }>(loser as Answer).detail).toMatch(/finished it/)
  })

  test('a stale version is refused and shows how the run stands', async () => {
    const run = await weighWhole()
    const answer = await finish(run, { version: run.version + 4 })
    expect([problemOf(answer)[1], as<{ current: Run }>(answer).current.id]).toEqual(['stale-version', run.id])
  })

  test('unaccounted loss over the limit asks for a reason', async () => {
    const run = await startRun()
    await weigh(run, 'centre-steak', '2.8 kg')
    expect(problemOf(await finish(run))).toEqual([422, 'reason-needed', 'unaccountedReason'])
    const finished = as<Run>(await finish(run, { unaccountedReason: 'The bag leaked' }))
    expect(finished.unaccountedReason).toBe('The bag leaked')
  })

  test('more off the board than on it must be settled first', async () => {
    const run = await startRun()
    await weigh(run, 'centre-steak', '2936.2 g')
    expect(problemOf(await finish(run))).toEqual([422, 'unsettled-balance', 'weighings'])
  })

  test('nothing weighed cannot be finished', async () => {
    expect(problemOf(await finish(await startRun()))).toEqual([400, 'invalid-input', 'weighings'])
  })

  test('a cook finishes only their own run, a lead anyone’s', async () => {
    const run = as<Run>(await kitchen.lead.ask('POST', '/runs', runRequest(kitchen)))
    await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? '', '2.93 kg'))
    expect(problemOf(await finish(run))[1]).toBe('role-too-low')
    expect((await finish(run, {}, kitchen.manager)).status).toBe(200)
  })

  test('a lead opens a closed run again, and why is in the audit trail', async () => {
    const finished = as<Run>(await finish(await weighWhole()))
    const opened = await kitchen.lead.ask('POST', `/runs/${finished.id}/reopen`, {
      version: finished.version,
      reason: 'The head was weighed with its tub',
    })
    expect([opened.status, as<Run>(opened).status, as<Run>(opened).figures]).toEqual([200, 'open', null])
    const trail = as<{ entries: { action: string; after: { reason?: string } }[] }>(await kitchen.manager.ask('GET', '/audit-trail'))
    expect(trail.entries[0]).toMatchObject({ action: 'opened again', after: { reason: 'The head was weighed with its tub' } })
  })

  test('what a tub is worth is remembered for the next run of the sheet', async () => {
    const run = await startRun()
    const tail = run.tubs.find((tub) => tub.key === 'tail')
    expect((await kitchen.cook.ask('PUT', `/runs/${run.id}/tubs/${tail?.id}`, { valuePerKg: 17.25, separableCost: 0 })).status).toBe(200)
    const next = await startRun()
    expect(next.tubs.find((tub) => tub.key === 'tail')?.valuePerKg).toBe(17.25)
  })

  test('a defect is noted once; one of its own kind needs words', async () => {
    const run = await startRun()
    const defect = { id: randomUUID(), kind: 'blunt knife', note: '' }
    await kitchen.cook.ask('POST', `/runs/${run.id}/defects`, defect)
    await kitchen.cook.ask('POST', `/runs/${run.id}/defects`, defect)
    expect(as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`)).defects).toHaveLength(1)
    expect(problemOf(await kitchen.cook.ask('POST', `/runs/${run.id}/defects`, { id: randomUUID(), kind: 'other' }))).toEqual([
      400,
      'invalid-input',
      'note',
    ])
  })
})

describe('a run wrongly received', () => {
  const put = (run: Run, changes: Record<string, unknown>, who = kitchen.lead) => {
    const { itemId, cutSheetId, supplierId } = runRequest(kitchen)
    const received = { itemId, cutSheetId, supplierId, lot: run.lot, billed: '2950 g', received: '2936 g', pieces: 1 }
    return who.ask('PUT', `/runs/${run.id}/received`, { ...received, version: run.version, ...changes })
  }

  test('weights that look wrong are asked about, and stand once that is said', async () => {
    const odd = { billed: '31.2 g', received: '31.2 g' }
    const asked = await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, odd))
    expect(problemOf(asked)).toEqual([422, 'odd-weights', 'weightsChecked'])
    expect(asked.body.errors?.[0]?.message).toContain('are weight and count right?')
    const mistyped = await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, { billed: '6.5 g' }))
    expect(mistyped.body.errors?.[0]?.message).toContain('was one of them mistyped?')
    await startRun({ ...odd, weightsChecked: true })
  })

  test('a lead puts it right while it is open, with what it was before; a cook does not', async () => {
    const run = await startRun()
    await weigh(run, 'centre-steak', '184 g')
    expect(problemOf(await put(run, {}, kitchen.cook))[0]).toBe(403)
    const corrected = as<Run>(await put(run, { lot: '15-C', received: '2 900 g', billed: '2 900 g', target: '200 g', supplierId: null }))
    expect(corrected).toMatchObject({ lot: '15-C', received: { tenths: 29_000 }, supplier: null, version: run.version + 1 })
    expect(corrected.tubs.find((tub) => tub.key === 'centre-steak')?.targetTenths).toBe(2000)
    expect(corrected.weighings).toHaveLength(1)
    expect(problemOf(await put(run, {}))[1]).toBe('stale-version')
    const trail = await test_.db.of(kitchen.kitchenId).auditTrail.findAll({ where: { subjectId: run.id } })
    expect(trail.at(-1)).toMatchObject({ action: 'put right what was received of', before: { lot: run.lot } })
  })

  test('what was paid stands as it was when it came, unless it came from somebody else', async () => {
    const run = await startRun()
    const quoted = (supplierId: string | null, amount: number) =>
      kitchen.manager.ask('POST', `/items/${kitchen.itemId}/quotes`, {
        id: randomUUID(),
        supplierId,
        price: { amount, per: 'kg' },
        quotedOn: new Date().toISOString().slice(0, 10),
      })
    await quoted(kitchen.supplierId, 36.2)
    const relabelled = as<Run>(await put(run, { lot: '16-D' }))
    expect(relabelled.quote).toEqual(run.quote)
    expect(relabelled.readyCut).toEqual(run.readyCut)
    const fromElsewhere = as<Run>(await put(relabelled, { supplierId: null }))
    expect(fromElsewhere.quote.price.amount).toBe(36.2)
    await quoted(kitchen.supplierId, 31.4)
  })

  test('weights that stand are not asked about again when something else is put right', async () => {
    const run = await startRun({ billed: '31.2 g', received: '31.2 g', weightsChecked: true })
    const same = { billed: '31.2 g', received: '31.2 g' }
    expect((await put(run, { ...same, lot: '17-E' })).status).toBe(200)
    const now = as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`))
    expect(problemOf(await put(now, { ...same, pieces: 2 }))).toEqual([422, 'odd-weights', 'weightsChecked'])
  })

  test('another sheet brings its own tubs, unless something has been weighed by this one', async () => {
    const sheets = as<{ entries: { id: string; slug: string }[] }>(await kitchen.cook.ask('GET', '/cut-sheets?limit=200'))
    const cutSheetId = sheets.entries.find(({ slug }) => slug === 'beef-tenderloin-side-muscle-off')?.id
    const run = await startRun()
    const changed = as<Run>(await put(run, { cutSheetId }))
    expect(changed.tubs.map((tub) => tub.key)).toEqual(['steak', 'tips', 'trim', 'liquid'])
    const trail = as<{ entries: { subjectId: string; about: string }[] }>(await kitchen.manager.ask('GET', '/audit-trail?limit=5'))
    expect(trail.entries.find(({ subjectId }) => subjectId === run.id)?.about).toBe(`run ${run.number}, ${run.item.name}`)
    await weigh(changed, 'steak', '180 g')
    const back = await put(as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`)), {})
    expect(problemOf(back)).toEqual([400, 'invalid-input', 'cutSheetId'])
  })

  test('discarded, it stays with who and why, takes nothing more, and can be opened again', async () => {
    const run = await startRun()
    const struck = as<Run>(await kitchen.lead.ask('POST', `/runs/${run.id}/discard`, { version: run.version, reason: 'Received twice' }))
    expect(struck).toMatchObject({ status: 'discarded', discarded: { reason: 'Received twice', by: { id: kitchen.lead.personId } } })
    const late = await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? '', '180 g'))
    expect([late.status, late.body.detail]).toEqual([409, expect.stringContaining('Received twice')])
    const opened = await kitchen.lead.ask('POST', `/runs/${run.id}/reopen`, { version: struck.version, reason: 'It was right' })
    expect(as<Run>(opened)).toMatchObject({ status: 'open', discarded: null })
  })
})

describe('the yield log', () => {
  test('pages follow one another without a gap or a repeat, whatever the order', async () => {
    for (const sort of ['newest', 'oldest', 'main-yield', 'cost-per-kg', 'unaccounted']) {
      const seen: string[] = []
      let cursor = ''
      do {
        const page = as<{ entries: { id: string }[]; nextCursor: string | null }>(
          await kitchen.cook.ask('GET', `/runs?sort=${sort}&limit=3${cursor && `&cursor=${cursor}`}`),
        )
        seen.push(...page.entries.map((run) => run.id))
        cursor = page.nextCursor ?? ''
      } while (cursor)
      expect(new Set(seen).size).toBe(seen.length)
      const all = as<{ entries: { id: string }[] }>(await kitchen.cook.ask('GET', `/runs?sort=${sort}&limit=200`))
      expect(seen).toEqual(all.entries.map((run) => run.id))
      expect(seen.length).toBeGreaterThan(3)
    }
  })

  test('filters leave out what does not fit', async () => {
    const entries = async (query: string) => as<{ entries: Run[] }>(await kitchen.cook.ask('GET', `/runs?limit=200&${query}`)).entries
    for (const run of await entries(`cookId=${kitchen.lead.personId}`)) expect(run.cook.id).toBe(kitchen.lead.personId)
    expect((await entries(`itemId=${kitchen.itemId}`)).length).toBeGreaterThan(5)
    expect(await entries(`supplierId=${randomUUID()}`)).toHaveLength(0)
    expect(await entries('to=2020-01-01')).toHaveLength(0)
    expect((await kitchen.cook.ask('GET', '/runs?from=1890-01-01')).status).toBe(400)
    expect((await kitchen.cook.ask('GET', '/runs?cursor=nonsense')).body.errors?.[0]?.field).toBe('cursor')
  })
})
