import { createHash } from 'node:crypto'
import { type ExportedRun, type ImportReport, type RunExport, runExport } from '@fleam/contract/run-export'
import type { Run } from '@fleam/contract/runs'
import { workerData } from 'piscina'
import { v5 as uuidv5, v7 as uuidv7 } from 'uuid'
import { duplicateKey, openDatabase } from '../../db/database.ts'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { found, recordChange } from '../../http/changes.ts'
import { readJsonFile } from '../../http/json-file.ts'
import { ProblemError } from '../../http/problems.ts'
import { listCutSheets } from '../cut-sheets/service.ts'
import { type ReadPicture, readPicture } from '../pictures/read-picture.ts'
import { priceColumns } from '../prices/quotes.ts'
import { addTests, type FinishedTest } from '../yield-book/totals.ts'
import { finishedTest } from './finished-test.ts'
import { defectColumns, eventColumns, type Ids, pictureColumns, runColumns, tubColumns, weighingColumns } from './import-columns.ts'
import { takeRunNumber } from './run-number.ts'

const mostProblems = 50
const runsAtOnce = 100

/** A file of runs that somebody reads in. */
export interface RunsFile {
  by: Pick<Actor, 'person' | 'kitchen'>
  text: string
  preview: boolean
}

/** The same on a thread of its own, by a connection of its own: reading and writing thousands of runs takes a while. */
export async function importRunsFile(
  { by, text, preview }: RunsFile,
  tell: (done: number) => void = () => undefined,
): Promise<ImportReport> {
  const db = openDatabase((workerData as { databaseUrl: string }).databaseUrl, { connections: 1, isPatient: true })
  try {
    return await importRuns({ ...by, records: db.of(by.kitchen.id) }, text, preview, tell)
  } finally {
    await db.close()
  }
}

/**
 * Reads a file of runs and says what it would add to the kitchen; writes it, all or nothing, unless it is a preview.
 * Ids are derived from the file's and the kitchen's, so the same file never comes in twice. Figures are computed anew.
 */
async function importRuns(by: Actor, text: string, preview: boolean, tell: (done: number) => void): Promise<ImportReport> {
  const { content: file, problems: unreadable, problemAt } = readJsonFile(text, runExport)
  const report = emptyReport(file?.kitchen.name ?? '')
  if (!file) return { ...report, problems: unreadable }
  const problems = checkMeaning(file, by.kitchen.settings.currency).map((problem) => problemAt(problem.path, problem.message))
  if (problems.length > 0) return { ...report, problems: problems.slice(0, mostProblems) }
  const pictures = await readPictures(file)
  if (pictures.problems.length > 0) {
    const shown = pictures.problems.slice(0, mostProblems)
    return { ...report, problems: shown.map(({ path, message }) => problemAt(path, message)) }
  }
  try {
    return await by.records.transaction(async (tx) => {
      const importer = await openImporter(tx, by, pictures.read)
      for (const [index, run] of file.runs.entries()) {
        await importer.take(run)
        if (index % runsAtOnce === 0) tell((preview ? 1 : 0.2) * (index / file.runs.length))
      }
      const read = { ...report, ...importer.report }
      if (preview || read.newRuns.length === 0) return read
      await importer.write((done) => tell(0.2 + 0.8 * done))
      const after = { from: file.kitchen.name, runs: read.newRuns.length }
      await recordChange(tx, by, { subject: 'run', subjectId: by.kitchen.id, action: 'imported', before: undefined, after })
      return { ...read, written: true }
    })
  } catch (error) {
    if (duplicateKey(error) === undefined) throw error
    throw new ProblemError('id-in-use', { detail: 'Lines of this file are here already, in another run: nothing was read in.' })
  }
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

/** The pictures of a file as they are kept, by their ids in it. */
async function readPictures(file: RunExport) {
  const read = new Map<string, ReadPicture>()
  const problems: { path: (string | number)[]; message: string }[] = []
  for (const [index, run] of file.runs.entries()) {
    const defects = new Set(run.defects.map(({ id }) => id))
    for (const [at, { id, jpeg, defectId }] of run.pictures.entries()) {
      const path = ['runs', index, 'pictures', at]
      if (defectId !== null && !defects.has(defectId))
        problems.push({ path: [...path, 'defectId'], message: 'This run has no such defect.' })
      try {
        read.set(id, await readPicture(Buffer.from(jpeg, 'base64')))
      } catch {
        problems.push({ path: [...path, 'jpeg'], message: 'This is not a picture that can be read.' })
      }
    }
  }
  return { read, problems }
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

/** Something that runs name by its name: it is here already, or comes in with them. Its id is known once it is written. */
interface Named {
  id: string
}

/** Names that the database takes for one: without regard to case, accents and spaces around them. */
function sameName(name: string): string {
  return name.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().trim()
}

async function openImporter(tx: KitchenRecords, by: Actor, pictures: ReadonlyMap<string, ReadPicture>) {
  const own = (id: string) => uuidv5(id, tx.kitchenId)
  const report = emptyReport('')
  const writes: (() => Promise<unknown>)[] = []
  const runs: (() => { run: ExportedRun; ids: Ids })[] = []
  /** What an item bought whole stands against, by the latest run that says so. */
  const standsAgainst = new Map<Named, Named>()
  const quotes = new Map<string, () => QuoteNew>()
  const byName = async (table: { findAll: (options: object) => Promise<{ id: string; name: string }[]> }) => {
    const rows = await table.findAll({ attributes: ['id', 'name'], raw: true })
    return new Map<string, Named>(rows.map(({ id, name }) => [sameName(name), { id }]))
  }
  const known = { people: await byName(tx.people), suppliers: await byName(tx.suppliers), items: await byName(tx.items) }
  const sheets = new Map((await listCutSheets(tx, '', 1000)).map((sheet) => [fingerprint(sheet.body), sheet.versionId]))

  const ensure = (kind: keyof typeof known, name: string, create: (id: string) => Promise<unknown>): Named => {
    const there = known[kind].get(sameName(name))
    if (there) return there
    const added: Named = { id: uuidv7() }
    known[kind].set(sameName(name), added)
    report.added[kind].push(name)
    writes.push(async () => {
      try {
        await create(added.id)
      } catch (error) {
        // what the database takes for the same name all the same is the one that is meant
        if (duplicateKey(error) === undefined) throw error
        added.id = found(await tx[kind].findOne({ attributes: ['id'], where: { name } })).id
      }
    })
    return added
  }
  const person = (name: string) =>
    ensure('people', name, (id) => tx.people.create({ id, name, signInName: null, role: 'cook', secretHash: null, active: false }))
  const supplier = (name: string) => ensure('suppliers', name, (id) => tx.suppliers.create({ id, name, priceList: null }))
  const item = (
    name: string,
    kind: 'whole' | 'ready-cut',
    animal: Run['item']['animal'],
    readyCut: NonNullable<Run['readyCut']>['terms'] | null,
  ) => ensure('items', name, (id) => tx.items.create({ id, name, kind, animal, readyCut, againstId: null }))

  const quote = (of: Named, from: Named | null, { price, quotedOn }: Run['quote']) => {
    const idOf = () => own(JSON.stringify([of.id, from?.id ?? null, price.amount, price.per, price.count, price.grams, quotedOn]))
    quotes.set(idOf(), () => ({ id: idOf(), itemId: of.id, supplierId: from?.id ?? null, ...priceColumns(price), quotedOn }))
    return idOf
  }
  const writeQuotes = async () => {
    const wanted = new Map([...quotes.values()].map((made) => made()).map((row) => [row.id, row]))
    const there = await tx.quotes.findAll({ attributes: ['id'], where: { id: [...wanted.keys()] }, raw: true })
    for (const { id } of there) wanted.delete(id)
    await tx.quotes.bulkCreate([...wanted.values()].map((row) => ({ ...row, at: new Date(), personId: by.person.id })))
  }

  /** The version that says just this: the newest of a sheet, an older one of a sheet that came in before, or a new sheet. */
  const sheetVersion = async ({ sheet }: Run): Promise<string> => {
    const print = fingerprint(sheet)
    const slug = `imported-${print.slice(0, 16)}`
    const there = sheets.get(print) ?? (await findVersion(tx, slug, print))
    const versionId = there ?? uuidv7()
    sheets.set(print, versionId)
    if (there) return versionId
    report.added.cutSheets.push(sheet.name)
    writes.push(async () => {
      const id = uuidv7()
      await tx.cutSheets.create({ id, slug, basedOnId: null, newestVersionId: versionId })
      await tx.cutSheetVersions.create({
        id: versionId,
        cutSheetId: id,
        number: 1,
        name: sheet.name,
        body: sheet,
        at: new Date(),
        personId: null,
      })
    })
    return versionId
  }

  const take = async (run: ExportedRun): Promise<void> => {
    if (run.status === 'open') {
      report.stillOpen += 1
      return
    }
    if (await tx.runs.findOne({ attributes: ['id'], where: { id: [run.id, own(run.id)] }, raw: true })) {
      report.alreadyHere += 1
      return
    }
    report.newRuns.push({ number: run.number, item: run.item.name, cook: run.cook.name, startedAt: run.startedAt })
    const bought = item(run.item.name, 'whole', run.item.animal, null)
    const from = run.supplier ? supplier(run.supplier.name) : null
    const { readyCut } = run
    const against = readyCut ? item(readyCut.name, 'ready-cut', run.item.animal, readyCut.terms) : null
    if (against) standsAgainst.set(bought, against)
    const versionId = await sheetVersion(run)
    const cook = person(run.cook.name)
    const finishedBy = run.finishedBy ? person(run.finishedBy.name) : null
    const quoteId = quote(bought, from, run.quote)
    const readyCutQuoteId = readyCut && against ? quote(against, null, readyCut.quote) : null
    const people = new Map(
      [...run.weighings, ...run.defects, ...run.events, ...run.pictures].map(({ by: { name } }) => [name, person(name)]),
    )
    runs.push(() => ({
      run,
      ids: {
        itemId: bought.id,
        supplierId: from?.id ?? null,
        readyCutItemId: against?.id ?? null,
        versionId,
        cookId: cook.id,
        finishedById: finishedBy?.id ?? null,
        quoteId: quoteId(),
        readyCutQuoteId: readyCutQuoteId?.() ?? null,
        personOf: ({ by: { name } }) => found(people.get(name)).id,
      },
    }))
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
    write: async (tell: (done: number) => void) => {
      for (const write of writes) await write()
      // an item that this kitchen has given no ready-cut item of its own takes that of the runs
      for (const [{ id }, { id: againstId }] of standsAgainst) await tx.items.update({ againstId }, { id, againstId: null })
      await writeQuotes()
      await writeRuns(
        tx,
        own,
        runs.map((made) => made()),
        pictures,
        tell,
      )
    },
  }
}

type QuoteNew = Omit<Parameters<KitchenRecords['quotes']['create']>[0], 'at' | 'personId'> & { id: string }

async function findVersion(tx: KitchenRecords, slug: string, print: string): Promise<string | undefined> {
  const sheet = await tx.cutSheets.findOne({ where: { slug } })
  const versions = sheet ? await tx.cutSheetVersions.findAll({ where: { cutSheetId: sheet.id } }) : []
  return versions.find(({ body }) => fingerprint(body) === print)?.id
}

async function writeRuns(
  tx: KitchenRecords,
  own: (id: string) => string,
  read: readonly { run: ExportedRun; ids: Ids }[],
  pictures: ReadonlyMap<string, ReadPicture>,
  tell: (done: number) => void,
): Promise<void> {
  const firstNumber = await takeRunNumber(tx, read.length)
  const rows = read.map(({ run, ids }, index) => runColumns(own(run.id), firstNumber + index, run, ids))
  const sheetOf = new Map(
    (
      await tx.cutSheetVersions.findAll({
        attributes: ['id', 'cutSheetId'],
        where: { id: read.map(({ ids }) => ids.versionId) },
        raw: true,
      })
    ).map(({ id, cutSheetId }) => [id, cutSheetId]),
  )
  for (let from = 0; from < read.length; from += runsAtOnce) {
    const part = read.slice(from, from + runsAtOnce)
    await tx.runs.bulkCreate(rows.slice(from, from + runsAtOnce))
    await tx.tubs.bulkCreate(part.flatMap(({ run }) => tubColumns(own, run)))
    await tx.weighings.bulkCreate(part.flatMap(({ run, ids }) => weighingColumns(own, run, ids)))
    await tx.defects.bulkCreate(part.flatMap(({ run, ids }) => defectColumns(own, run, ids)))
    await tx.benchEvents.bulkCreate(part.flatMap(({ run, ids }) => eventColumns(own, run, ids)))
    // a packet of the database holds a few of them, not hundreds
    for (const { run, ids } of part) for (const picture of pictureColumns(own, run, ids, pictures)) await tx.pictures.create(picture)
    tell(from / read.length)
  }
  await addTests(
    tx,
    read.flatMap(({ run, ids }, index): FinishedTest[] => {
      const row = rows[index]
      if (!row || run.status !== 'finished' || run.leftOut) return []
      return [finishedTest(row, found(sheetOf.get(ids.versionId)), run)]
    }),
  )
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
