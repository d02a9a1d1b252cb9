import { randomUUID } from 'node:crypto'
import type { CutSheet, CutSheetImportReport } from '@fleam/contract/cut-sheets'
import type { Run } from '@fleam/contract/runs'
import { syncCatalog } from '../src/features/cut-sheets/catalog-sheets.ts'
import { openTestApp, runRequest, type Stocked, stockKitchen, type TestApp } from './kitchen.ts'

let test_: TestApp
let kitchen: Stocked
let other: Stocked

beforeAll(async () => {
  test_ = await openTestApp()
  ;[kitchen, other] = await Promise.all([stockKitchen(test_), stockKitchen(test_, 'Another kitchen')])
})
afterAll(() => test_.close())

const read = async (id: string) => (await kitchen.lead.ask('GET', `/cut-sheets/${id}`)).body as unknown as CutSheet
const changed = (sheet: CutSheet, name: string) => ({ number: sheet.number, body: { ...sheet.body, name } })

test('a change makes a version; runs stay with theirs; the catalog never overwrites it', async () => {
  const before = await read(kitchen.cutSheetId)
  const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen))).body as unknown as Run
  const after = (await kitchen.lead.ask('PUT', `/cut-sheets/${before.id}`, changed(before, 'Loin, our way'))).body as unknown as CutSheet
  expect(after).toMatchObject({ number: before.number + 1, source: 'kitchen', body: { name: 'Loin, our way' } })
  expect(((await kitchen.cook.ask('GET', `/runs/${run.id}`)).body as unknown as Run).sheet.name).toBe(before.body.name)
  await syncCatalog(test_.db, 'f'.repeat(64))
  expect((await read(before.id)).body.name).toBe('Loin, our way')
  const versions = (await kitchen.cook.ask('GET', `/cut-sheets/${before.id}/versions`)).body.entries as unknown as {
    number: number
    source: string
  }[]
  expect(versions.map(({ number, source }) => [number, source])).toEqual([
    [2, 'kitchen'],
    [1, 'catalog'],
  ])
})

test('of two who change a sheet, the second is shown how it stands', async () => {
  const sheet = await read(kitchen.cutSheetId)
  await kitchen.lead.ask('PUT', `/cut-sheets/${sheet.id}`, changed(sheet, 'First'))
  const second = await kitchen.manager.ask('PUT', `/cut-sheets/${sheet.id}`, changed(sheet, 'Second'))
  expect([second.status, second.body.type]).toEqual([409, 'urn:fleam:problem:stale-version'])
  expect((await read(sheet.id)).body.name).toBe('First')
})

test('a variant names what it comes from, and is made once', async () => {
  const sheet = await read(kitchen.cutSheetId)
  const create = { id: randomUUID(), basedOnId: sheet.id, body: { ...sheet.body, name: 'Variant' } }
  await kitchen.lead.ask('POST', '/cut-sheets', create)
  const again = await kitchen.lead.ask('POST', '/cut-sheets', create)
  expect(again.body).toMatchObject({ id: create.id, number: 1, basedOnId: sheet.id, source: 'kitchen' })
  expect((await kitchen.cook.ask('POST', '/cut-sheets', { ...create, id: randomUUID() })).status).toBe(403)
  expect((await other.lead.ask('POST', '/cut-sheets', { ...create, id: randomUUID() })).status).toBe(404)
})

test('a sheet whose shares are more than the whole, or whose step names no tub, is refused with its field', async () => {
  const sheet = await read(kitchen.cutSheetId)
  const tooMuch = sheet.body.outputs.map((output) => ({ ...output, typicalPct: 60, highPct: 70 }))
  const put = async (body: object) =>
    (await kitchen.lead.ask('PUT', `/cut-sheets/${sheet.id}`, { number: sheet.number, body })).body.errors?.[0]
  expect((await put({ ...sheet.body, outputs: tooMuch }))?.message).toMatch(/low, typical, high|at most the whole/)
  expect((await put({ ...sheet.body, steps: [{ title: 'Cut', text: 'Cut.', outputs: ['nothing'] }] }))?.message).toBe(
    'Steps name outputs of their sheet.',
  )
})

test('what was put away is kept and can be put back', async () => {
  const retired = await kitchen.lead.ask('POST', `/cut-sheets/${kitchen.cutSheetId}/retire`, { retired: true })
  expect((retired.body as unknown as CutSheet).retired).toBe(true)
  await kitchen.lead.ask('POST', `/cut-sheets/${kitchen.cutSheetId}/retire`, { retired: false })
  expect((await read(kitchen.cutSheetId)).retired).toBe(false)
})

test('a file of sheets comes into another kitchen, all or nothing, and not twice', async () => {
  const sheet = await read(kitchen.cutSheetId)
  const file = JSON.stringify((await kitchen.cook.ask('GET', `/cut-sheets.json?id=${sheet.id}`)).body)
  const give = async (text: string, preview: boolean) =>
    (await other.lead.ask('POST', '/cut-sheet-imports', { text, preview })).body as unknown as CutSheetImportReport
  expect(await give(file, true)).toMatchObject({ written: false, added: [sheet.body.name], problems: [] })
  expect(await give(file, false)).toMatchObject({ written: true, added: [sheet.body.name] })
  expect(await give(file, false)).toMatchObject({ written: false, added: [], alreadyHere: [sheet.body.name] })
  const broken = file.replace('"role":"main"', '"role":"best"')
  const report = await give(broken, false)
  expect(report).toMatchObject({ written: false, added: [] })
  expect(report.problems[0]).toMatchObject({ path: expect.stringMatching(/^sheets\[0\]\.outputs\[\d\]\.role$/), line: 1 })
  expect((await give('{"format":', true)).problems[0]?.message).toMatch(/not valid JSON/)
})
