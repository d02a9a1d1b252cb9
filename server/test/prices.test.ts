import { randomUUID } from 'node:crypto'
import type { Item, PriceListReport, PriceMove } from '@fleam/contract/prices'
import { settings, stockedKitchen, stockKitchen } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()

type Quoted = { entries: { price: { amount: number }; quotedOn: string }[] }

test('a new quote keeps the old ones with their dates, and the latest day is in force', async () => {
  const add = (amount: number, quotedOn: string) =>
    kitchen.manager.ask('POST', `/items/${kitchen.itemId}/quotes`, {
      id: randomUUID(),
      supplierId: kitchen.supplierId,
      price: { amount, per: 'lb' },
      quotedOn,
    })
  await add(15.1, '2026-03-01')
  await add(13.9, '2025-11-20')
  const { entries } = (await kitchen.cook.ask('GET', `/items/${kitchen.itemId}/quotes`)).body as unknown as Quoted
  expect(entries.map((quote) => [quote.quotedOn, quote.price.amount])).toEqual([
    ['2026-03-01', 15.1],
    ['2026-01-05', 31.4],
    ['2025-11-20', 13.9],
  ])
  const items = (await kitchen.cook.ask('GET', '/items')).body.entries as unknown as { id: string; latestQuote: { price: object } }[]
  expect(items.find((item) => item.id === kitchen.itemId)?.latestQuote.price).toEqual({ amount: 15.1, per: 'lb' })
})

test('quotes are paged by where they stand, and a backdated one among very many is answered with itself', async () => {
  const own = await stockKitchen(test_, 'Many quotes')
  const records = test_.db.of(own.kitchenId)
  const common = { itemId: own.itemId, supplierId: null, per: 'kg' as const, caseCount: null, caseGrams: null, personId: null }
  const days = Array.from({ length: 1200 }, (_, index) => new Date(Date.UTC(2026, 5, 1) - index * 86_400_000))
  await records.quotes.bulkCreate(
    days.map((at, index) => ({ id: randomUUID(), ...common, amount: index + 1, quotedOn: at.toISOString().slice(0, 10), at })),
  )
  const create = { id: randomUUID(), supplierId: own.supplierId, price: { amount: 1.25, per: 'kg' }, quotedOn: '2020-01-01' }
  const path = `/items/${own.itemId}/quotes`
  expect((await own.manager.ask('POST', path, create)).body).toMatchObject({ id: create.id, price: { amount: 1.25 } })
  expect((await own.manager.ask('POST', path, create)).body).toMatchObject({ id: create.id })
  const seen: string[] = []
  let cursor = ''
  do {
    const { body } = await own.cook.ask('GET', `${path}?limit=200${cursor && `&cursor=${cursor}`}`)
    seen.push(...(body.entries as unknown as { id: string }[]).map(({ id }) => id))
    cursor = (body.nextCursor as unknown as string) ?? ''
  } while (cursor)
  expect([seen.length, new Set(seen).size, seen.at(-1)]).toEqual([1202, 1202, create.id])
  const bad = await own.cook.ask('GET', `${path}?cursor=${Buffer.from('["x","y"]').toString('base64url')}`)
  expect([bad.status, bad.body.errors?.[0]?.field]).toEqual([400, 'cursor'])
})

test.each([
  ['price.count', { price: { amount: 10, per: 'case' } }],
  ['price.amount', { price: { amount: -1, per: 'kg' } }],
  ['price.per', { price: { amount: 1, per: 'stone' } }],
  ['quotedOn', { quotedOn: '1890-01-01' }],
  ['supplierId', { supplierId: randomUUID() }],
])('a quote with a bad %s is refused by name', async (field, change) => {
  const request = { id: randomUUID(), supplierId: null, price: { amount: 1, per: 'kg' }, quotedOn: '2026-01-01', ...change }
  const answer = await kitchen.manager.ask('POST', `/items/${kitchen.itemId}/quotes`, request)
  expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, field])
})

test('two things of one name are refused, and so is a stale change', async () => {
  const supplier = await kitchen.manager.ask('POST', '/suppliers', { id: randomUUID(), name: 'harrow & fenn' })
  expect([supplier.status, supplier.body.errors?.[0]?.field]).toEqual([409, 'name'])
  expect((await kitchen.manager.ask('PUT', `/suppliers/${kitchen.supplierId}`, { version: 1, name: 'Harrow' })).status).toBe(200)
  const stale = await kitchen.manager.ask('PUT', `/suppliers/${kitchen.supplierId}`, { version: 1, name: 'Fenn' })
  expect([stale.status, (stale.body.current as unknown as { name: string }).name]).toEqual([409, 'Harrow'])
})

test('a whole item is set against a ready-cut one only', async () => {
  const request = { id: randomUUID(), name: 'Ribeye', kind: 'whole', animal: 'beef', readyCut: null, againstId: kitchen.itemId }
  const answer = await kitchen.manager.ask('POST', '/items', request)
  expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, 'againstId'])
})

test('the kitchen’s figures change with a version and leave a trail; its currency stays once there are prices', async () => {
  const changed = { ...settings, labour: { ratePerHour: 21, onCostPct: 12 } }
  const answer = await kitchen.manager.ask('PUT', '/kitchen', { version: 1, name: 'Test kitchen', settings: changed })
  expect([answer.status, answer.body.version]).toEqual([200, 2])
  expect((await kitchen.manager.ask('PUT', '/kitchen', { version: 1, name: 'Test kitchen', settings: changed })).status).toBe(409)
  const dollars = await kitchen.manager.ask('PUT', '/kitchen', {
    version: 2,
    name: 'Test kitchen',
    settings: { ...changed, currency: 'USD' },
  })
  expect([dollars.status, dollars.body.errors?.[0]?.field]).toEqual([400, 'settings.currency'])
  const trail = (await kitchen.manager.ask('GET', '/audit-trail?limit=1')).body.entries as unknown as {
    subject: string
    before: { settings: object }
    after: { settings: object }
  }[]
  expect(trail[0]).toMatchObject({
    subject: 'kitchen',
    before: { settings: { labour: { ratePerHour: 19.5 } } },
    after: { settings: { labour: { ratePerHour: 21 } } },
  })
})

describe('a supplier’s price list', () => {
  const reading = {
    columns: { article: 'Artikel', amount: 'Preis', unit: 'Einheit', caseCount: 'Stück', caseWeight: null },
    unit: 'kg',
    decimalSign: ',',
    separator: '',
  }
  const list = [
    'Stück;Artikel;Preis;Einheit',
    ';"Rinderfilet, Kette dran";34,20 €;kg',
    '5;Steak, ready-cut;52,50;case',
    ';Gans;14,80;kg',
  ].join('\r\n')
  const request = (changes: object = {}) => ({
    id: randomUUID(),
    supplierId: kitchen.supplierId,
    text: list,
    reading,
    articles: { 'Rinderfilet, Kette dran': kitchen.itemId, Gans: null },
    quotedOn: '2026-04-02',
    preview: false,
    ...changes,
  })
  const send = async (changes: object = {}) => {
    const answer = await kitchen.manager.ask('POST', '/price-lists', request(changes))
    return { status: answer.status, ...(answer.body as unknown as PriceListReport), errors: answer.body.errors }
  }
  const quotesOf = async (itemId: string) =>
    ((await kitchen.cook.ask('GET', `/items/${itemId}/quotes`)).body as unknown as Quoted).entries.map((quote) => quote.price)

  test('is opened with its delimiter, columns and a guess', async () => {
    const { body } = await kitchen.manager.ask('POST', '/price-lists/open', { supplierId: kitchen.supplierId, text: list })
    expect(body).toMatchObject({ delimiter: ';', lines: 3, isKept: false, reading })
  })

  test.each([
    ['commas and points', 'Preis,Artikel,Einheit\n"1,234.50",Tenderloin,lb', { decimalSign: '.' }, { amount: 1234.5, per: 'lb' }],
    ['tabs', 'Artikel\tPreis\tEinheit\nTenderloin\t12,5\tStück', {}, { amount: 12.5, per: 'each' }],
    ['a unit that no column says', 'Artikel;Preis;Einheit\nTenderloin;12,5;', { unit: 'each' }, { amount: 12.5, per: 'each' }],
    ['an article over two lines', 'Artikel;Preis;Einheit\n"Ten\nder";1;kg\nTenderloin;€ 31,40;kg', {}, { amount: 31.4, per: 'kg' }],
    ['a byte order mark and blank lines', '\uFEFFArtikel;Preis;Einheit\n\n;;\nTenderloin;7;KG\n', {}, { amount: 7, per: 'kg' }],
  ])('reads a list with %s', async (_what, text, how, price) => {
    const columns = { article: 'Artikel', amount: 'Preis', unit: 'Einheit', caseCount: null, caseWeight: null }
    const report = await send({ text, articles: {}, preview: true, reading: { ...reading, columns, ...how } })
    expect(report.problems).toEqual([])
    expect(report.lines.find((line) => line.item?.id === kitchen.itemId)?.price).toEqual(price)
    expect(report.lines.at(-1)?.line).toBe(text.trimEnd().split('\n').length)
  })

  test('a case by its weight, and two prices for one item', async () => {
    const columns = { article: 'Artikel', amount: 'Preis', unit: null, caseCount: null, caseWeight: 'Gewicht' }
    const text = 'Artikel;Preis;Gewicht\nTenderloin;90;12,5 kg\nTenderloin;95;viel\nSteak, ready-cut;50;26 lb\nTenderloin;80;3'
    const report = await send({ text, articles: {}, preview: true, reading: { columns, unit: 'case', decimalSign: ',' } })
    expect(report.lines[0]?.price).toEqual({ amount: 90, per: 'case', grams: 12_500 })
    expect(report.problems.map(({ line, column }) => [line, column])).toEqual([
      [3, 'Gewicht'],
      [5, 'Artikel'],
    ])
  })

  test('shows what it would change and writes nothing yet', async () => {
    const before = await quotesOf(kitchen.itemId)
    const report = await send({ preview: true })
    expect(report).toMatchObject({ written: false, changes: 2, problems: [] })
    expect(report.lines.map((line) => [line.line, line.item?.name, line.isLeftOut])).toEqual([
      [2, 'Tenderloin', false],
      [3, 'Steak, ready-cut', false],
      [4, undefined, true],
    ])
    expect(report.lines[1]).toMatchObject({ price: { amount: 52.5, per: 'case', count: 5 }, before: { amount: 10.9, per: 'each' } })
    expect(report.lines[1]?.movePct).toBeCloseTo(((52.5 / 5 - 10.9) / 10.9) * 100, 9)
    expect(await quotesOf(kitchen.itemId)).toEqual(before)
  })

  test('one bad line and nothing is written; every bad line is named', async () => {
    const text = `${list}\r\n;Tenderloin;on request;kg\r\n;;3,10;kg\r\n0;Ente;9,50;case\r\n;Huhn;9,50;stone`
    const report = await send({ text })
    expect(report.written).toBe(false)
    expect(report.problems.map((problem) => [problem.line, problem.column])).toEqual([
      [5, 'Preis'],
      [6, 'Artikel'],
      [7, 'Stück'],
      [8, 'Einheit'],
    ])
    expect(await quotesOf(kitchen.readyCutId)).toHaveLength(1)
  })

  test('a line can be left out, and a price five times the last is looked at before anything is written', async () => {
    const text = `${list.replace('34,20', '342,00')}\r\n;Tenderloin;on request;kg`
    const odd = await send({ text, leftOut: [5] })
    expect(odd).toMatchObject({ written: false, problems: [], unchecked: 1 })
    expect(odd.lines.map(({ line, isOdd, isLeftOut }) => [line, isOdd, isLeftOut])).toEqual([
      [2, true, false],
      [3, false, false],
      [4, false, true],
      [5, false, true],
    ])
    expect(await send({ text, leftOut: [5], checked: [2], preview: true })).toMatchObject({ unchecked: 0, changes: 2 })
    expect(await quotesOf(kitchen.readyCutId)).toHaveLength(1)
  })

  test('columns are parted as a person says, and the next list of the supplier is read so', async () => {
    const other = await stockKitchen(test_, 'Kitchen of bars')
    const text = 'Artikel|Preis, netto|Einheit\nTenderloin|31,40|kg'
    const open = async (separator?: string) =>
      (await other.manager.ask('POST', '/price-lists/open', { supplierId: other.supplierId, text, separator })).body
    const opened = await open('|')
    expect(opened).toMatchObject({ delimiter: '|', header: ['Artikel', 'Preis, netto', 'Einheit'], reading: { separator: '|' } })
    const asked = request({ supplierId: other.supplierId, text, articles: {}, reading: opened.reading, preview: false })
    expect((await other.manager.ask('POST', '/price-lists', asked)).body).toMatchObject({ problems: [], changes: 0, written: true })
    expect(await open()).toMatchObject({ delimiter: '|', isKept: true, reading: { separator: '|' } })
  })

  test('two quotes of one day by one supplier both stay, and the later one stands', async () => {
    const other = await stockKitchen(test_, 'Kitchen of two quotes')
    for (const amount of [33, 32.5]) {
      const quote = { id: randomUUID(), supplierId: other.supplierId, price: { amount, per: 'kg' }, quotedOn: '2026-05-04' }
      expect((await other.manager.ask('POST', `/items/${other.itemId}/quotes`, quote)).status).toBe(201)
    }
    const { entries } = (await other.cook.ask('GET', `/items/${other.itemId}/quotes`)).body as unknown as Quoted
    expect(entries.map(({ price }) => price.amount)).toEqual([32.5, 33, 31.4])
    const items = (await other.cook.ask('GET', '/items')).body.entries as unknown as Item[]
    expect(items.find(({ id }) => id === other.itemId)?.latestQuote?.price.amount).toBe(32.5)
  })

  test('is written once, however often it is sent, and the next one knows its columns and articles', async () => {
    const same = request()
    const first = await kitchen.manager.ask('POST', '/price-lists', same)
    expect(first.body).toMatchObject({ written: true, changes: 2 })
    await kitchen.manager.ask('POST', '/price-lists', same)
    expect((await quotesOf(kitchen.itemId))[0]).toEqual({ amount: 34.2, per: 'kg' })
    expect(await quotesOf(kitchen.readyCutId)).toHaveLength(2)
    const next = list.replace('34,20', '36,00')
    const { body } = await kitchen.manager.ask('POST', '/price-lists/open', { supplierId: kitchen.supplierId, text: next })
    expect(body).toMatchObject({ isKept: true, reading })
    expect(await send({ text: next, articles: {}, preview: true })).toMatchObject({
      changes: 1,
      lines: [{ item: { id: kitchen.itemId } }, {}, {}],
    })
  })

  test.each([
    ['', 'text'],
    ['only a header', 'text'],
    ['a;a\n1;2', 'text'],
    ['article;"price\n1;2', 'text'],
    [`article;price\n${'a;1\n'.repeat(5001)}`, 'text'],
    ['x'.repeat(1_000_001), 'text'],
  ])('a file that is no price list is refused with what to do (%#)', async (text, field) => {
    const answer = await kitchen.manager.ask('POST', '/price-lists/open', { supplierId: kitchen.supplierId, text })
    expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, field])
  })

  test('an article cannot be another kitchen’s item', async () => {
    expect((await send({ articles: { Gans: randomUUID() } })).errors?.[0]?.field).toBe('articles.Gans')
  })
})

test('prices go out as CSV that no spreadsheet takes for a formula', async () => {
  await kitchen.manager.ask('POST', '/suppliers', { id: randomUUID(), name: 'Fenn' })
  const { body, headers } = await kitchen.cook.ask('GET', '/quotes.csv')
  expect(String(headers['content-type'])).toContain('text/csv')
  const [header, ...lines] = String(body).trim().split('\r\n')
  expect(header).toBe('item,kind,animal,supplier,quoted_on,price,per,case_count,case_g,currency')
  expect(lines).toContain('Tenderloin,whole,beef,Harrow,2026-04-02,34.2,kg,,,EUR')
})

test('a price that moved by more than the limit is told, a small move is not', async () => {
  const { manager, itemId, readyCutId, supplierId } = await stockKitchen(test_, 'Moving kitchen')
  const day = (daysAgo: number) => new Date(Date.now() - daysAgo * 86_400_000).toISOString().slice(0, 10)
  const add = (id: string, amount: number, per: string, daysAgo: number) =>
    manager.ask('POST', `/items/${id}/quotes`, { id: randomUUID(), supplierId, price: { amount, per }, quotedOn: day(daysAgo) })
  await add(itemId, 33, 'kg', 20)
  await add(itemId, 37.68, 'kg', 3)
  await add(readyCutId, 11.2, 'each', 3)
  const { entries } = (await manager.ask('GET', '/price-moves')).body as unknown as { entries: PriceMove[] }
  expect(entries).toHaveLength(1)
  expect(entries[0]).toMatchObject({ itemName: 'Tenderloin', before: { price: { amount: 31.4 } }, after: { price: { amount: 37.68 } } })
  expect(entries[0]?.movePct).toBeCloseTo(20, 9)
})
