import { randomUUID } from 'node:crypto'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { Picture } from '@fleam/contract/pictures'
import type { FetchedList, PriceListOpened, PriceListReport, Supplier } from '@fleam/contract/prices'
import { type RunExport, runExport } from '@fleam/contract/run-export'
import type { Run } from '@fleam/contract/runs'
import type { YieldBookEntry } from '@fleam/contract/yield-book'
import sharp from 'sharp'
import { type Answer, type Asker, finishedRun, rowsOf, runRequest, stockedKitchen, stockKitchen } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()
const as = <Body>(answer: Answer) => answer.body as unknown as Body
const problemOf = (answer: Answer) => [answer.status, answer.body.type?.split(':').at(-1), answer.body.errors?.[0]?.field]
const startRun = async (changes: Record<string, unknown> = {}) =>
  as<Run>(await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, changes)))

/** A photo as a tablet would send it, or larger. */
const photo = (width = 800, height = 600) =>
  sharp({ create: { width, height, channels: 3, background: '#a06040' } })
    .jpeg()
    .toBuffer()
const withPlace = (bytes: Buffer) =>
  sharp(bytes)
    .withExif({ IFD3: { GPSLatitude: '51/1 0/1 0/1', GPSLatitudeRef: 'N' } })
    .toBuffer()

async function put(
  who: Asker,
  runId: string,
  bytes: Buffer,
  { id = randomUUID(), about = 'delivery', defectId = '', kind = 'image/jpeg' } = {},
) {
  const query = new URLSearchParams({ about, at: new Date().toISOString(), ...(defectId ? { defectId } : {}) })
  const response = await test_.app.inject({
    method: 'PUT',
    url: `/api/v1/runs/${runId}/pictures/${id}?${query}`,
    headers: { cookie: who.cookie, 'content-type': kind },
    payload: bytes,
  })
  return { status: response.statusCode, body: response.json() }
}
const jpegOf = async (who: Asker, runId: string, id: string, size = 'whole') =>
  test_.app.inject({ url: `/api/v1/runs/${runId}/pictures/${id}?size=${size}`, headers: { cookie: who.cookie } })
const picturesOf = async (runId: string) => as<{ entries: Picture[] }>(await kitchen.cook.ask('GET', `/runs/${runId}/pictures`)).entries

describe('pictures', () => {
  test('one is kept as it was sent, once, small beside it, and nobody of another kitchen sees it', async () => {
    const run = await startRun()
    const id = randomUUID()
    const bytes = await photo()
    const answers = await Promise.all([1, 2, 3].map(() => put(kitchen.cook, run.id, bytes, { id })))
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201])
    expect(await picturesOf(run.id)).toMatchObject([{ id, about: 'delivery', width: 800, height: 600 }])
    expect((await jpegOf(kitchen.cook, run.id, id)).rawPayload.equals(bytes)).toBe(true)
    const small = await sharp((await jpegOf(kitchen.cook, run.id, id, 'small')).rawPayload).metadata()
    expect([small.width, small.height]).toEqual([320, 240])
    const other = await stockKitchen(test_, 'Next door')
    expect((await jpegOf(other.cook, run.id, id)).statusCode).toBe(404)
    expect((await put(other.cook, run.id, bytes)).status).toBe(404)
  })

  test('what a camera writes beside it goes, and a giant is made small, whatever sent it', async () => {
    const run = await startRun()
    const located = await withPlace(await photo(640, 480))
    expect((await sharp(located).metadata()).exif).toBeDefined()
    const { body } = await put(kitchen.cook, run.id, located)
    const kept = (await jpegOf(kitchen.cook, run.id, body.id)).rawPayload
    expect((await sharp(kept).metadata()).exif).toBeUndefined()
    const { body: wide } = await put(kitchen.cook, run.id, await photo(4000, 1000))
    expect([wide.width, wide.height]).toEqual([1600, 400])
  })

  test('wrong kinds, broken bytes and what is too large are refused with a sentence', async () => {
    const run = await startRun()
    const broken = (await photo()).subarray(0, 400)
    expect(await put(kitchen.cook, run.id, broken)).toMatchObject({
      status: 422,
      body: { title: 'That is not a picture that can be read.' },
    })
    expect((await put(kitchen.cook, run.id, Buffer.from('<svg/>'), { kind: 'image/svg+xml' })).status).toBe(400)
    expect((await put(kitchen.cook, run.id, Buffer.from('{}'), { kind: 'application/json' })).status).toBe(422)
    expect((await put(kitchen.cook, run.id, Buffer.alloc(2 * 1024 * 1024 + 1))).status).toBe(413)
    expect((await put(kitchen.cook, run.id, await photo(), { about: 'defect' })).status).toBe(400)
    expect(await picturesOf(run.id)).toEqual([])
  })

  test('of a defect it goes with its note; who took it or a lead takes it off, and that is written down', async () => {
    const run = await startRun()
    const defect = as<{ id: string }>(
      await kitchen.cook.ask('POST', `/runs/${run.id}/defects`, { id: randomUUID(), kind: 'skin torn', note: '', step: null }),
    )
    const { body } = await put(kitchen.lead, run.id, await photo(), { about: 'defect', defectId: defect.id })
    expect(body).toMatchObject({ about: 'defect', defectId: defect.id })
    expect((await kitchen.cook.ask('DELETE', `/runs/${run.id}/pictures/${body.id}`)).status).toBe(403)
    expect((await kitchen.lead.ask('DELETE', `/runs/${run.id}/pictures/${body.id}`)).status).toBe(204)
    expect(await picturesOf(run.id)).toEqual([])
    const trail = await rowsOf<{ action: string }>(test_.db, 'SELECT action FROM audit_trail WHERE subject_id = :id', { id: run.id })
    expect(trail.map(({ action }) => action)).toContain('took a picture off')
  })

  test('they go out with runs when they are asked for, come in again in another kitchen, and into both PDFs', async () => {
    const run = (await finishedRun(kitchen, { steaks: ['182 g', '178 g'], received: '400 g', minutes: 10 })) as unknown as Run
    const bytes = await photo(300, 200)
    await put(kitchen.cook, run.id, bytes, { about: 'tray' })
    const without = runExport.parse((await kitchen.cook.ask('GET', '/runs.json')).body) as RunExport
    expect(without.runs.every(({ pictures }) => pictures.length === 0)).toBe(true)
    const file = runExport.parse((await kitchen.cook.ask('GET', '/runs.json?pictures=true')).body) as RunExport
    const only = { ...file, runs: file.runs.filter(({ id }) => id === run.id) }
    expect(only.runs[0]?.pictures[0]?.jpeg).toBe(bytes.toString('base64'))
    const other = await stockKitchen(test_, `Import ${randomUUID()}`)
    const read = async (content: unknown) =>
      (
        await test_.app.inject({
          method: 'POST',
          url: '/api/v1/run-imports?preview=false',
          headers: { cookie: other.manager.cookie, 'content-type': 'application/json' },
          payload: JSON.stringify(content),
        })
      ).json()
    const spoilt = structuredClone(only)
    const [first] = spoilt.runs[0]?.pictures ?? []
    if (first) first.jpeg = Buffer.from('no picture').toString('base64')
    expect((await read(spoilt)).problems[0].message).toBe('This is not a picture that can be read.')
    expect((await read(only)).written).toBe(true)
    const [row] = await rowsOf<{ jpeg: Buffer }>(test_.db, 'SELECT jpeg FROM pictures WHERE kitchen_id = :id', { id: other.kitchenId })
    expect(row?.jpeg.equals(bytes)).toBe(true)
    const pdf = await test_.app.inject({ url: `/api/v1/runs/${run.id}/yield-test.pdf`, headers: { cookie: kitchen.cook.cookie } })
    expect(pdf.rawPayload.includes(Buffer.from('/Subtype /Image'))).toBe(true)
  })
})

describe('what is looked at when something comes', () => {
  const looked = { trim: 'less trimmed', smell: 'clean' }
  const check = (changes: object) =>
    kitchen.cook.ask('POST', '/runs', runRequest(kitchen, { weightsChecked: true, deliveryCheck: { looked, ...changes } }))

  test('what is wrong asks what is done with it, and what goes back is weighed', async () => {
    expect(problemOf(await check({ outcome: 'taken' }))).toEqual([422, 'decision-needed', 'deliveryCheck.outcome'])
    expect(problemOf(await check({ outcome: 'with-note' }))).toEqual([422, 'decision-needed', 'deliveryCheck.note'])
    expect(problemOf(await check({ outcome: 'in-part', note: 'One sent back.' }))).toEqual([400, 'invalid-input', 'deliveryCheck.refused'])
    expect(problemOf(await check({ outcome: 'taken', looked: { skin: 'torn' } }))[2]).toBe('deliveryCheck.looked.skin')
    const taken = as<Run>(await check({ outcome: 'in-part', note: 'One sent back.', refused: '2.1 kg', refusedPieces: 1 }))
    expect(taken.deliveryCheck).toEqual({
      ...{ looked, outcome: 'in-part', note: 'One sent back.', refusedPieces: 1 },
      refused: { tenths: 21_000, entered: '2.1 kg' },
    })
  })
})

describe('putting a finished run right', () => {
  const finished = async () =>
    (await finishedRun(kitchen, { steaks: ['182 g', '178 g'], received: '400 g', minutes: 10 })) as unknown as Run
  const asItStands = (run: Run) => ({
    ...{ version: run.version, reason: 'A steak lay in the wrong tub.', supplierId: run.supplier?.id ?? null, lot: run.lot },
    ...{ billed: run.billed.entered, received: run.received.entered, pieces: run.pieces, target: null },
    ...{ minutes: run.minutes, consumables: run.consumables, weightsChecked: true, unaccountedReason: 'drip' },
  })
  const bookOf = async () => as<{ entries: YieldBookEntry[] }>(await kitchen.cook.ask('GET', '/yield-book')).entries[0]

  test('a weighing in the wrong tub, one forgotten and a wrong weight: figures, yield book and lots follow, the ledger only grows', async () => {
    const run = await finished()
    const [steak] = run.weighings
    const tail = run.tubs.find(({ key }) => key === 'tail')?.id
    const before = await bookOf()
    const change = {
      ...asItStands(run),
      ...{ billed: '420 g', received: '410 g', moved: [{ weighingId: steak?.id, tubId: tail }], added: [{ tubId: tail, weight: '12 g' }] },
    }
    expect((await kitchen.cook.ask('POST', `/runs/${run.id}/put-right`, change)).status).toBe(403)
    const answer = await kitchen.lead.ask('POST', `/runs/${run.id}/put-right`, change)
    expect(answer.status).toBe(200)
    const right = as<Run>(answer)
    expect(right).toMatchObject({ status: 'finished', billed: { tenths: 4200 }, received: { tenths: 4100 } })
    expect(right.weighings).toHaveLength(run.weighings.length + 3)
    expect(right.figures?.portions).toBe(1)
    expect(right.figures?.mainPct).toBeCloseTo((178 / 410) * 100, 9)
    const after = await bookOf()
    expect(after?.tests).toBe(before?.tests)
    expect(after).not.toEqual(before)
    const { entries: lots } = as<{ entries: { name: string; leftTenths: number }[] }>(await kitchen.cook.ask('GET', `/runs/${run.id}/lots`))
    expect(lots.map(({ leftTenths }) => leftTenths).sort()).toEqual([1780, 1940])
    const stale = await kitchen.lead.ask('POST', `/runs/${run.id}/put-right`, change)
    expect(stale.status).toBe(409)
    const where = { subjectId: run.id, action: 'put right' }
    const [line] = await test_.db.of(kitchen.kitchenId).auditTrail.findAll({ where })
    expect(JSON.stringify(line?.after)).toContain('A steak lay in the wrong tub.')
  })

  test('what would not balance, or names no tub of the tray, changes nothing', async () => {
    const run = await finished()
    const heavy = { ...asItStands(run), added: [{ tubId: run.tubs[0]?.id, weight: '900 g' }] }
    expect(problemOf(await kitchen.lead.ask('POST', `/runs/${run.id}/put-right`, heavy))).toEqual([422, 'unsettled-balance', 'weighings'])
    const strange = { ...asItStands(run), moved: [{ weighingId: run.weighings[0]?.id, tubId: randomUUID() }] }
    expect(problemOf(await kitchen.lead.ask('POST', `/runs/${run.id}/put-right`, strange))[2]).toBe('moved.0.tubId')
    expect(as<Run>(await kitchen.cook.ask('GET', `/runs/${run.id}`)).version).toBe(run.version)
  })
})

describe('a run from paper', () => {
  const paper = (changes: object = {}) => {
    const { fromLotId: _none, ...create } = runRequest(kitchen, { billed: '400 g', received: '400 g', weightsChecked: true }) as Record<
      string,
      unknown
    >
    const weighings = ['182 g', '178 g'].map((weight) => ({ id: randomUUID(), outputKey: 'centre-steak', weight }))
    return { ...create, weighings, minutes: 12, consumables: 0, unaccountedReason: 'drip', startedAt: '2026-03-14T08:00:00Z', ...changes }
  }

  test('is received, weighed and finished in one, once, and its hour is the paper’s', async () => {
    const request = paper()
    const answers = await Promise.all([1, 2].map(() => kitchen.cook.ask('POST', '/runs/from-paper', request)))
    expect(answers.map(({ status }) => status)).toEqual([201, 201])
    expect(as<Run>(answers[0] as Answer)).toMatchObject({
      ...{ status: 'finished', minutes: 12, startedAt: '2026-03-14T08:00:00.000Z', finishedAt: '2026-03-14T08:12:00.000Z' },
      figures: { portions: 2 },
    })
    const ids = (request as unknown as { id: string }).id
    expect(await rowsOf(test_.db, 'SELECT id FROM weighings WHERE run_id = :id', { id: ids })).toHaveLength(2)
  })

  test('what does not balance or names no output leaves nothing; a cook enters nobody else’s', async () => {
    const heavy = paper({ weighings: [{ id: randomUUID(), outputKey: 'centre-steak', weight: '500 g' }] })
    expect(problemOf(await kitchen.cook.ask('POST', '/runs/from-paper', heavy))[1]).toBe('unsettled-balance')
    const strange = paper({ weighings: [{ id: randomUUID(), outputKey: 'wings', weight: '300 g' }] })
    expect(problemOf(await kitchen.cook.ask('POST', '/runs/from-paper', strange))[2]).toBe('weighings.0.outputKey')
    for (const request of [heavy, strange]) {
      expect((await kitchen.cook.ask('GET', `/runs/${(request as unknown as { id: string }).id}`)).status).toBe(404)
    }
    expect((await kitchen.cook.ask('POST', '/runs/from-paper', paper({ cookId: kitchen.lead.personId }))).status).toBe(403)
    const forCook = await kitchen.lead.ask('POST', '/runs/from-paper', paper({ cookId: kitchen.cook.personId }))
    expect(as<Run>(forCook).cook.id).toBe(kitchen.cook.personId)
  })
})

describe('price lists at an address', () => {
  let body = ''
  let status = 200
  const server = createServer((_request, response) => response.writeHead(status, { 'content-type': 'text/csv' }).end(body))
  let address = ''
  beforeAll(async () => {
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
    address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/prices.csv`
  })
  afterAll(() => server.close())

  const feed = async (changes: object = {}) => {
    const supplier = { id: randomUUID(), name: `Supplier ${randomUUID()}`, feed: { address, everyHours: 0, ...changes } }
    return as<Supplier>(await kitchen.manager.ask('POST', '/suppliers', supplier))
  }
  const fetchNow = async (supplier: Supplier) => as<FetchedList>(await kitchen.manager.ask('POST', `/suppliers/${supplier.id}/fetch`))

  test('what moved waits until it is taken; the same list again says so', async () => {
    const supplier = await feed()
    body = 'article,price\nTenderloin,33.10\n'
    const list = await fetchNow(supplier)
    expect(list).toMatchObject({ state: 'waiting', changes: 1 })
    const { text } = as<{ text: string }>(await kitchen.manager.ask('GET', `/fetched-lists/${list.id}`))
    const { reading } = as<PriceListOpened>(
      await kitchen.manager.ask('POST', '/price-lists/open', { supplierId: supplier.id, text, separator: '' }),
    )
    const asked = { id: list.id, supplierId: supplier.id, text, reading, articles: {}, quotedOn: '2026-11-20', preview: false }
    expect(as<PriceListReport>(await kitchen.manager.ask('POST', '/price-lists', asked)).written).toBe(true)
    const lists = as<{ entries: FetchedList[] }>(await kitchen.manager.ask('GET', '/fetched-lists')).entries
    expect(lists.find(({ id }) => id === list.id)?.state).toBe('taken')
    expect(await fetchNow(supplier)).toMatchObject({ state: 'unchanged', changes: 0 })
  })

  test('what cannot be had or read is said in a sentence, and nobody but a manager asks', async () => {
    const supplier = await feed()
    status = 503
    expect(await fetchNow(supplier)).toMatchObject({ state: 'failed', why: 'The address answers 503.' })
    status = 200
    body = 'x'.repeat(1_000_001)
    expect(await fetchNow(supplier)).toMatchObject({ state: 'failed', why: 'The list is over 1 MB.' })
    body = 'only a header\n'
    expect((await fetchNow(supplier)).why).toContain('no line under the header')
    expect((await kitchen.lead.ask('POST', `/suppliers/${supplier.id}/fetch`)).status).toBe(403)
    const away = await feed({ address: 'http://127.0.0.1:1/prices.csv' })
    expect((await fetchNow(away)).why).toBe('The address cannot be reached.')
    for (const bad of ['file:///etc/passwd', 'prices', 'ftp://somewhere/list']) {
      const answer = await kitchen.manager.ask('POST', '/suppliers', {
        id: randomUUID(),
        name: randomUUID(),
        feed: { address: bad, everyHours: 1 },
      })
      expect(answer.body.errors?.[0]?.field).toMatch(/^feed/)
    }
  })
})
