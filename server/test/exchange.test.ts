import { randomUUID } from 'node:crypto'
import { type ImportReport, runExport } from '@fleam/contract/run-export'
import type { Run, RunSummary } from '@fleam/contract/runs'
import Papa from 'papaparse'
import { loadDemoKitchen } from '../src/demo/kitchen.ts'
import { type Asker, addPerson, openTestApp, rowsOf, stockKitchen, type TestApp } from './kitchen.ts'

let test_: TestApp
let demo: Asker
let target: Asker
let exported: string

beforeAll(async () => {
  test_ = await openTestApp()
  await loadDemoKitchen(test_.db, new Date('2026-06-15T08:00:00Z'))
  const someone = await test_.db.acrossKitchens.people.findOne({ where: { hasDemoSecret: true } })
  demo = await addPerson(test_, someone?.kitchenId ?? '', 'manager')
  target = (await stockKitchen(test_, 'Another kitchen')).manager
  exported = JSON.stringify((await demo.ask('GET', '/runs.json?sort=oldest')).body)
})
afterAll(() => test_.close())

const importFile = async (text: string, preview: boolean) => {
  const response = await test_.app.inject({
    method: 'POST',
    url: `/api/v1/run-imports?preview=${preview}`,
    headers: { cookie: target.cookie, 'content-type': 'application/json' },
    payload: text,
  })
  return response.json() as ImportReport
}
const runsOf = async (who: Asker) => (await who.ask('GET', '/runs?sort=oldest&limit=200')).body.entries as unknown as RunSummary[]

describe('the demo kitchen', () => {
  test('goes out without names where they are not wanted, the same person always under the same number', async () => {
    const { runs } = JSON.parse(exported) as { runs: Run[] }
    const names = [...new Set(runs.map(({ cook }) => cook.name))]
    const csv = String((await demo.ask('GET', '/runs.csv?names=no')).body)
    const json = (await demo.ask('GET', '/runs.json?sort=oldest&names=no')).body as unknown as { runs: Run[] }
    const text = JSON.stringify(json)
    expect(names.filter((name) => csv.includes(name) || text.includes(name))).toEqual([])
    expect(new Set(json.runs.map(({ cook }) => `${cook.id} ${cook.name}`)).size).toBe(names.length)
    expect(String((await demo.ask('GET', '/runs.csv')).body)).toContain(names[0])
  })

  test('holds what it promises, and every run balances', async () => {
    const count = async (table: string) =>
      (await rowsOf<{ n: number }>(test_.db, `SELECT COUNT(*) AS n FROM ${table} WHERE kitchen_id = :id`, { id: demo.kitchenId }))[0]?.n
    expect([await count('suppliers'), await count('items'), await count('runs')]).toEqual([4, 31, 372])
    const people = (await test_.app.inject('/api/v1/demo')).json().people
    expect(people).toHaveLength(8)
    for (const { name, secret } of people) {
      const answer = await test_.app.inject({ method: 'POST', url: '/api/v1/session', payload: { name, secret } })
      expect([name, answer.statusCode]).toEqual([name, 201])
    }
    const { runs } = JSON.parse(exported) as { runs: Run[] }
    expect(runs.filter((run) => run.status === 'open').map((run) => [run.item.animal, run.weighings.length])).toEqual([
      ['beef', 7],
      ['bird', 0],
    ])
    for (const run of runs.filter((one) => one.status === 'finished')) {
      const reversed = new Set(run.weighings.map((line) => line.reversesId))
      const weighed = run.weighings
        .filter((line) => line.reversesId === null && !reversed.has(line.id))
        .reduce((sum, line) => sum + line.tenths, 0)
      const unaccounted = run.received.tenths - weighed
      expect(unaccounted).toBeGreaterThanOrEqual(0)
      expect(unaccounted / run.received.tenths).toBeLessThan(run.unaccountedReason ? 0.05 : 0.02)
      expect(run.figures?.mainPct).toBeGreaterThan(20)
    }
    expect(new Set(runs.map((run) => run.cook.name)).size).toBeGreaterThan(2)
    expect(runs.filter((run) => run.temperature !== null)).toHaveLength(1)
    const days = runs.map((run) => run.startedAt.slice(0, 10))
    expect([days[0], days.at(-1)]).toEqual(['2025-06-19', '2026-06-15'])
  })
})

describe('JSON', () => {
  test('a preview writes nothing; the import gives every run the same figures; a second one adds nothing', async () => {
    const preview = await importFile(exported, true)
    expect([preview.written, preview.newRuns.length, preview.problems]).toEqual([false, 370, []])
    expect(preview.added.suppliers).toEqual(expect.arrayContaining(['Tidewater Meats']))
    expect(await runsOf(target)).toHaveLength(0)
    expect((await importFile(exported, false)).written).toBe(true)
    const [before, after] = [await runsOf(demo), await runsOf(target)]
    expect(after.map((run) => run.figures)).toEqual(before.map((run) => run.figures))
    expect(after.map((run) => [run.cook.name, run.supplier?.name, run.received])).toEqual(
      before.map((run) => [run.cook.name, run.supplier?.name, run.received]),
    )
    const again = await importFile(exported, false)
    expect([again.written, again.newRuns.length, again.alreadyHere]).toEqual([false, 0, 370])
  })

  test('weighings come over with their reversals', async () => {
    const original = (JSON.parse(exported) as { runs: Run[] }).runs.find((run) => run.weighings.some((line) => line.reversesId !== null))
    const imported = (await runsOf(target)).find((run) => run.startedAt === original?.startedAt)
    const { weighings } = (await target.ask('GET', `/runs/${imported?.id}`)).body as unknown as Run
    expect(weighings.map((line) => line.tenths)).toEqual(original?.weighings.map((line) => line.tenths))
    const reversal = weighings.find((line) => line.reversesId !== null)
    expect(weighings.some((line) => line.id === reversal?.reversesId)).toBe(true)
  })

  test('a file of version 1, which calls the pieces of a run items, says the same', () => {
    const file = JSON.parse(exported) as { runs: Run[] }
    const piece = 2
    const [first] = file.runs
    const weighings = first?.weighings.map(({ piece: _, ...line }) => ({ ...line, item: piece }))
    const event = { id: randomUUID(), sequence: 1, at: '2026-06-15T08:00:00.000Z', by: first?.cook }
    const events = [{ ...event, what: { kind: 'item-done', item: piece } }]
    const { byPiece: _, ...rest } = first as Run
    const read = runExport.parse({ ...file, version: 1, runs: [{ ...rest, byItem: true, weighings, events }] }).runs[0]
    expect([read?.byPiece, new Set(read?.weighings.map((line) => line.piece))]).toEqual([true, new Set([piece])])
    expect(read?.events.map(({ what }) => what)).toEqual([{ kind: 'piece-done', piece }])
  })

  test('a broken file is refused with its line and column, and nothing is written', async () => {
    const before = await runsOf(target)
    const pretty = JSON.stringify(JSON.parse(exported), null, 1)
    const cases: [string, string, RegExp][] = [
      ['', '', /empty|not valid/],
      ['not json', '', /not valid JSON/],
      [pretty.slice(0, pretty.length / 2), '', /not valid JSON/],
      [pretty.replace('"fleam-runs"', '"other"'), 'format', /not a file of Fleam runs/],
      [pretty.replace('"currency": "EUR"', '"currency": "GBP"'), 'kitchen.currency', /does not mix/],
      [pretty.replace(/"tenths": \d+/, '"tenths": -5'), 'runs[0]', /./],
      [pretty.replace(/"quotedOn": "[^"]+"/, '"quotedOn": "x"'), 'runs[0].quote.quotedOn', /Write a day such as/],
    ]
    for (const [text, path, message] of cases) {
      const report = await importFile(text, false)
      expect([report.written, report.problems.length > 0]).toEqual([false, true])
      expect(report.problems[0]?.path).toMatch(new RegExp(`^${path.replace(/[[\].]/g, '\\$&')}`))
      expect(report.problems[0]?.message).toMatch(message)
      expect(report.problems[0]?.line).toBeGreaterThan(0)
    }
    const bad = await importFile(pretty.replace(/"tenths": \d+/, '"tenths": -5'), false)
    const line = pretty.split('\n').findIndex((text) => /"tenths": \d+/.test(text)) + 1
    expect(bad.problems[0]?.line).toBe(line)
    expect(await runsOf(target)).toEqual(before)
  })

  test('a weighing in a tub that is not there, or a reversal of nothing, is refused', async () => {
    const file = JSON.parse(exported) as { runs: Run[] }
    const [first] = file.runs
    const spoil = (change: Partial<Run['weighings'][number]>) => {
      const [line, ...lines] = first?.weighings ?? []
      return JSON.stringify({ ...file, runs: [{ ...first, weighings: [{ ...line, ...change }, ...lines] }] })
    }
    const strange = '01a20a1c-f130-7508-9b1f-ac17bbd31e93'
    expect((await importFile(spoil({ tubId: strange }), false)).problems[0]?.path).toBe('runs[0].weighings[0].tubId')
    expect((await importFile(spoil({ reversesId: strange }), false)).problems[0]?.path).toBe('runs[0].weighings[0].reversesId')
  })
})

describe('CSV', () => {
  test('has a row a run, in the order and filter of the log, with formulas made harmless', async () => {
    const cookId = (await runsOf(demo))[0]?.cook.id
    await test_.db.of(demo.kitchenId).runs.update({ lot: '=1+1' }, {})
    const text = String((await demo.ask('GET', `/runs.csv?sort=main-yield&cookId=${cookId}`)).body)
    const { data, errors } = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true })
    expect(errors).toEqual([])
    expect(text.startsWith('run,started_at')).toBe(true)
    expect(data.length).toBeGreaterThan(3)
    const yields = data.map((row) => Number(row.main_yield_pct))
    expect(yields).toEqual([...yields].sort((a, b) => b - a))
    expect(new Set(data.map((row) => row.lot))).toEqual(new Set(["'=1+1"]))
  })
})

describe('the sheet for the wall', () => {
  test('is one A4 page', async () => {
    const [run] = await runsOf(demo)
    const response = await test_.app.inject({ url: `/api/v1/runs/${run?.id}/yield-test.pdf`, headers: { cookie: demo.cookie } })
    const text = response.rawPayload.toString('latin1')
    expect(response.headers['content-type']).toBe('application/pdf')
    expect(text.startsWith('%PDF-')).toBe(true)
    expect(text.match(/\/Type \/Page\b/g)).toHaveLength(1)
    expect(text).toContain('/MediaBox [0 0 595.28 841.89]')
  })
})

describe('what comes in under names that are here already', () => {
  const oneRun = (change: (run: Run) => Run, suffix: string) => {
    const file = JSON.parse(exported) as { runs: Run[] }
    const another = JSON.stringify(file.runs[5]).replace(/"[0-9a-f]{6}([0-9a-f]{2}-[0-9a-f-]{27})"/g, `"${suffix}$1"`)
    const run = change(JSON.parse(another) as Run)
    return JSON.stringify({ ...file, runs: [run] })
  }

  test('José and Jose are one person, as they are to the database', async () => {
    const named = (name: string, suffix: string) => oneRun((run) => ({ ...run, cook: { ...run.cook, name } }), suffix)
    expect(await importFile(named('José Ferreira', 'a00001'), false)).toMatchObject({ written: true, added: { people: ['José Ferreira'] } })
    expect(await importFile(named(' jose ferreira ', 'a00002'), false)).toMatchObject({ written: true, added: { people: [] } })
    // letters that only the database takes for others
    await test_.db
      .of(target.kitchenId)
      .people.create({ id: randomUUID(), name: 'Straße', signInName: null, role: 'cook', secretHash: null })
    expect(await importFile(named('Strasse', 'a00003'), false)).toMatchObject({ written: true })
    expect((await runsOf(target)).filter((run) => run.cook.name === 'Straße')).toHaveLength(1)
  })

  test('lines that are here under another run are refused, and nothing is written', async () => {
    const file = JSON.parse(oneRun((run) => run, 'c00001')) as { runs: Run[] }
    const count = () => test_.db.of(target.kitchenId).runs.count()
    const before = await count()
    await importFile(JSON.stringify(file), false)
    const twin = JSON.stringify({ ...file, runs: file.runs.map((run) => ({ ...run, id: randomUUID() })) })
    expect(await importFile(twin, false)).toMatchObject({
      type: 'urn:fleam:problem:id-in-use',
      detail: expect.stringContaining('another run'),
    })
    expect(await count()).toBe(before + 1)
  })

  test('an imported sheet that was edited since is found in its old form', async () => {
    const sheeted = (suffix: string) => oneRun((run) => ({ ...run, sheet: { ...run.sheet, school: 'a school of its own' } }), suffix)
    const first = await importFile(sheeted('b00001'), false)
    expect(first.added.cutSheets).toHaveLength(1)
    const sheets = (await target.ask('GET', '/cut-sheets?limit=200')).body.entries as unknown as {
      id: string
      number: number
      slug: string
      body: object
    }[]
    const imported = sheets.find(
      ({ slug, body }) => slug.startsWith('imported-') && (body as { school: string }).school === 'a school of its own',
    )
    const edited = { number: imported?.number, body: { ...imported?.body, school: 'edited' } }
    expect((await target.ask('PUT', `/cut-sheets/${imported?.id}`, edited)).status).toBe(200)
    const again = await importFile(sheeted('b00002'), false)
    expect([again.written, again.added.cutSheets]).toEqual([true, []])
  })
})
