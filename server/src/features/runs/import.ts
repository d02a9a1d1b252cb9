import { createHash } from 'node:crypto'
import { type ImportReport, type RunExport, runExport } from '@fleam/contract/run-export'
import type { Run } from '@fleam/contract/runs'
import { figuresOfRun } from '@fleam/core/runs/run-record'
import { v5 as uuidv5, v7 as uuidv7 } from 'uuid'
import type { Database, Queries } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { recordChange } from '../../http/changes.ts'
import { readJsonFile } from '../../http/json-file.ts'
import { listCutSheets } from '../cut-sheets/service.ts'
import { keepShares } from '../yield-book/shares.ts'

const mostProblems = 50

/**
 * Reads a file of runs and says what it would add to the kitchen; writes it, all or nothing, unless it is a preview.
 * Ids are derived from the file's and the kitchen's, so the same file never comes in twice. Figures are computed anew.
 */
export async function importRuns(db: Database, by: SignedIn, text: string, preview: boolean): Promise<ImportReport> {
  const { content: file, problems: unreadable, problemAt } = await readJsonFile(text, runExport)
  const report = emptyReport(file?.kitchen.name ?? '')
  if (!file) return { ...report, problems: unreadable }
  const problems = checkMeaning(file, by.kitchen.settings.currency).map((problem) => problemAt(problem.path, problem.message))
  if (problems.length > 0) return { ...report, problems: problems.slice(0, mostProblems) }
  return db.transaction(async (tx) => {
    const importer = await openImporter(tx, by)
    for (const run of file.runs) await importer.take(run)
    const found = { ...report, ...importer.report }
    if (preview || found.newRuns.length === 0) return found
    await importer.write()
    const after = { from: file.kitchen.name, runs: found.newRuns.length }
    await recordChange(tx, by, { subject: 'run', subjectId: by.kitchen.id, action: 'imported', before: undefined, after })
    return { ...found, written: true }
  })
}

/** What a schema cannot say: one currency, weighings in tubs that are there, reversals of weighings that are there. */
function checkMeaning(file: RunExport, currency: string): { path: (string | number)[]; message: string }[] {
  const problems: { path: (string | number)[]; message: string }[] = []
  if (file.kitchen.currency !== currency) {
    const message = `The file is in ${file.kitchen.currency}, this kitchen in ${currency}: money does not mix.`
    problems.push({ path: ['kitchen', 'currency'], message })
  }
  file.runs.forEach((run, index) => {
    const tubs = new Set(run.tubs.map((tub) => tub.id))
    const weighed = new Map(run.weighings.map((line) => [line.id, line]))
    run.weighings.forEach((line, at) => {
      const path = ['runs', index, 'weighings', at]
      if (!tubs.has(line.tubId)) problems.push({ path: [...path, 'tubId'], message: 'This run has no such tub.' })
      const taken = line.reversesId === null ? undefined : weighed.get(line.reversesId)
      if (line.reversesId !== null && (!taken || taken.reversesId !== null || taken.tenths !== line.tenths)) {
        problems.push({ path: [...path, 'reversesId'], message: 'It takes back a weighing that does not stand in this run.' })
      }
    })
    if (weighed.size !== run.weighings.length)
      problems.push({ path: ['runs', index, 'weighings'], message: 'A weighing stands here twice.' })
  })
  return problems
}

function emptyReport(kitchenName: string): ImportReport {
  return {
    written: false,
    kitchenName,
    newRuns: [],
    alreadyHere: 0,
    stillOpen: 0,
    added: { people: [], suppliers: [], items: [], cutSheets: [] },
    problems: [],
  }
}

async function openImporter(tx: Queries, by: SignedIn) {
  const kitchenId = by.kitchen.id
  const own = (id: string) => uuidv5(id, kitchenId)
  const report = emptyReport('')
  const writes: (() => Promise<unknown>)[] = []
  const byName = async (table: 'people' | 'suppliers' | 'items') => {
    const rows = await tx.rows<{ id: string; name: string }>(`SELECT id, name FROM ${table} WHERE kitchen_id = :kitchenId`, { kitchenId })
    return new Map(rows.map((row) => [row.name.toLowerCase(), row.id]))
  }
  const known = { people: await byName('people'), suppliers: await byName('suppliers'), items: await byName('items') }
  const sheets = new Map((await listCutSheets(tx, kitchenId, '', 1000)).map((sheet) => [fingerprint(sheet.body), sheet.versionId]))
  const quotes = new Set<string>()

  const ensure = (kind: keyof typeof known, name: string, insert: (id: string) => Promise<unknown>): string => {
    const there = known[kind].get(name.toLowerCase())
    if (there) return there
    const id = uuidv7()
    known[kind].set(name.toLowerCase(), id)
    report.added[kind].push(name)
    writes.push(() => insert(id))
    return id
  }
  const person = (name: string) =>
    ensure('people', name, (id) =>
      tx.run("INSERT INTO people (id, kitchen_id, name, role, active) VALUES (:id, :kitchenId, :name, 'cook', 0)", { id, kitchenId, name }),
    )
  const supplier = (name: string) =>
    ensure('suppliers', name, (id) =>
      tx.run('INSERT INTO suppliers (id, kitchen_id, name) VALUES (:id, :kitchenId, :name)', { id, kitchenId, name }),
    )
  const item = (name: string, kind: string, animal: string, readyCut: unknown) =>
    ensure('items', name, (id) =>
      tx.run(
        'INSERT INTO items (id, kitchen_id, name, kind, animal, ready_cut) VALUES (:id, :kitchenId, :name, :kind, :animal, :readyCut)',
        {
          id,
          kitchenId,
          name,
          kind,
          animal,
          readyCut: readyCut ? JSON.stringify(readyCut) : null,
        },
      ),
    )
  const quote = (itemId: string, supplierId: string | null, { price, quotedOn }: Run['quote']): string => {
    const id = own(JSON.stringify([itemId, supplierId, price.amount, price.per, price.count, price.grams, quotedOn]))
    if (quotes.has(id)) return id
    quotes.add(id)
    writes.push(() =>
      tx.run(
        `INSERT IGNORE INTO quotes (id, kitchen_id, item_id, supplier_id, amount, per, case_count, case_grams, quoted_on, at, person_id)
         VALUES (:id, :kitchenId, :itemId, :supplierId, :amount, :per, :count, :grams, :quotedOn, UTC_TIMESTAMP(3), :personId)`,
        {
          id,
          kitchenId,
          itemId,
          supplierId,
          amount: price.amount,
          per: price.per,
          count: price.count ?? null,
          grams: price.grams ?? null,
          quotedOn,
          personId: by.person.id,
        },
      ),
    )
    return id
  }
  const sheetVersion = (run: Run): string => {
    const print = fingerprint(run.sheet)
    const there = sheets.get(print)
    if (there) return there
    const versionId = uuidv7()
    sheets.set(print, versionId)
    report.added.cutSheets.push(run.sheet.name)
    writes.push(async () => {
      const id = uuidv7()
      await tx.run('INSERT INTO cut_sheets (id, kitchen_id, slug) VALUES (:id, :kitchenId, :slug)', {
        id,
        kitchenId,
        slug: `imported-${print.slice(0, 16)}`,
      })
      await tx.run(
        `INSERT INTO cut_sheet_versions (id, kitchen_id, cut_sheet_id, number, name, body, at)
         VALUES (:versionId, :kitchenId, :id, 1, :name, :body, UTC_TIMESTAMP(3))`,
        { versionId, kitchenId, id, name: run.sheet.name, body: JSON.stringify(run.sheet) },
      )
    })
    return versionId
  }

  const take = async (run: Run): Promise<void> => {
    if (run.status === 'open') {
      report.stillOpen += 1
      return
    }
    const there = await tx.row('SELECT id FROM runs WHERE kitchen_id = :kitchenId AND id IN (:id, :ownId)', {
      kitchenId,
      id: run.id,
      ownId: own(run.id),
    })
    if (there) {
      report.alreadyHere += 1
      return
    }
    report.newRuns.push({ number: run.number, item: run.item.name, cook: run.cook.name, startedAt: run.startedAt })
    const itemId = item(run.item.name, 'whole', run.item.animal, null)
    const supplierId = run.supplier ? supplier(run.supplier.name) : null
    const readyCutItemId = run.readyCut ? item(run.readyCut.name, 'ready-cut', run.item.animal, run.readyCut.terms) : null
    const ids = {
      itemId,
      supplierId,
      readyCutItemId,
      versionId: sheetVersion(run),
      cookId: person(run.cook.name),
      finishedBy: run.finishedBy ? person(run.finishedBy.name) : null,
      quoteId: quote(itemId, supplierId, run.quote),
      readyCutQuoteId: run.readyCut && readyCutItemId ? quote(readyCutItemId, null, run.readyCut.quote) : null,
    }
    const people = new Map([...run.weighings, ...run.defects, ...run.events].map((entry) => [entry.by.name, person(entry.by.name)]))
    writes.push(() => writeRun(tx, kitchenId, own, run, ids, people))
  }
  return {
    report: {
      newRuns: report.newRuns,
      added: report.added,
      get alreadyHere() {
        return report.alreadyHere
      },
      get stillOpen() {
        return report.stillOpen
      },
    },
    take,
    write: async () => {
      for (const write of writes) await write()
    },
  }
}

async function writeRun(
  tx: Queries,
  kitchenId: string,
  own: (id: string) => string,
  run: Run,
  ids: Record<string, string | null>,
  people: ReadonlyMap<string, string>,
): Promise<void> {
  const runId = own(run.id)
  const figures = run.status === 'finished' ? figuresOfRun(run) : null
  await tx.run('UPDATE kitchens SET last_run_number = LAST_INSERT_ID(last_run_number + 1) WHERE id = :kitchenId', { kitchenId })
  await tx.run(
    `INSERT INTO runs (id, kitchen_id, number, version, status, item_id, cut_sheet_version_id, supplier_id, cook_id, lot,
       billed_tenths, billed_entered, received_tenths, received_entered, pieces, core_temp_c, temperature, quote_id,
       ready_cut_item_id, ready_cut_terms, ready_cut_quote_id, rates, method, minutes, consumables, unaccounted_reason,
       by_item, fish, started_at, finished_at, finished_by, main_pct, usable_pct, unaccounted_pct, net_cost, cost_per_kg, cost_per_portion, portions)
     VALUES (:runId, :kitchenId, LAST_INSERT_ID(), 2, :status, :itemId, :versionId, :supplierId, :cookId, :lot,
       :billed, :billedEntered, :received, :receivedEntered, :pieces, :coreTempC, :temperature, :quoteId,
       :readyCutItemId, :readyCutTerms, :readyCutQuoteId, :rates, :method, :minutes, :consumables, :reason,
       :byItem, :fish, :startedAt, :finishedAt, :finishedBy, :mainPct, :usablePct, :unaccountedPct, :netCost, :costPerKg, :costPerPortion, :portions)`,
    {
      ...ids,
      runId,
      kitchenId,
      status: run.status,
      lot: run.lot,
      billed: run.billed.tenths,
      billedEntered: run.billed.entered,
      received: run.received.tenths,
      receivedEntered: run.received.entered,
      pieces: run.pieces,
      coreTempC: run.coreTempC,
      temperature: run.temperature && JSON.stringify(run.temperature),
      readyCutTerms: run.readyCut && JSON.stringify(run.readyCut.terms),
      rates: JSON.stringify(run.rates),
      byItem: run.byItem ? 1 : 0,
      fish: run.fish && JSON.stringify(run.fish),
      method: run.method,
      minutes: run.minutes,
      consumables: run.consumables,
      reason: run.unaccountedReason,
      startedAt: new Date(run.startedAt),
      finishedAt: run.finishedAt && new Date(run.finishedAt),
      mainPct: figures?.mainPct ?? null,
      usablePct: figures?.usablePct ?? null,
      unaccountedPct: figures?.unaccountedPct ?? null,
      netCost: figures?.netCost ?? null,
      costPerKg: figures?.costPerKg ?? null,
      costPerPortion: figures?.costPerPortion ?? null,
      portions: figures?.portions ?? null,
    },
  )
  const tubs = run.tubs.map((tub) => ({
    id: own(tub.id),
    kitchen_id: kitchenId,
    run_id: runId,
    position: tub.position,
    output_key: tub.key,
    name: tub.name,
    role: tub.role,
    destination: tub.destination,
    target_tenths: tub.targetTenths,
    tolerance_tenths: tub.toleranceTenths,
    typical_pct: tub.typicalPct,
    value_per_kg: tub.valuePerKg,
    separable_cost: tub.separableCost,
  }))
  const weighings = run.weighings.map((line) => ({
    id: own(line.id),
    kitchen_id: kitchenId,
    run_id: runId,
    tub_id: own(line.tubId),
    tenths: line.tenths,
    entered: line.entered,
    reverses_id: line.reversesId && own(line.reversesId),
    item_number: line.item,
    moved_from_id: line.movedFromId && own(line.movedFromId),
    person_id: people.get(line.by.name),
    weighed_at: new Date(line.weighedAt),
  }))
  const defects = run.defects.map((defect) => ({
    id: own(defect.id),
    kitchen_id: kitchenId,
    run_id: runId,
    kind: defect.kind,
    note: defect.note,
    step: defect.step,
    person_id: people.get(defect.by.name),
    at: new Date(defect.at),
  }))
  const events = run.events.map((event) => ({
    id: own(event.id),
    kitchen_id: kitchenId,
    run_id: runId,
    body: JSON.stringify(event.what.kind === 'slice' ? { ...event.what, weighingId: own(event.what.weighingId) } : event.what),
    person_id: people.get(event.by.name),
    sent_by_id: people.get(event.by.name),
    happened_at: new Date(event.at),
  }))
  await tx.insertMany('tubs', tubs)
  await tx.insertMany('weighings', weighings)
  await tx.insertMany('defects', defects)
  await tx.insertMany('bench_events', events)
  if (figures) await keepShares(tx, runId, run)
}

/** The same for two cut sheets that say the same, whatever the order of their fields. */
function fingerprint(body: unknown): string {
  const sorted = JSON.stringify(body, (_key, value) =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  )
  return createHash('sha256').update(sorted).digest('hex')
}
