import type { Defect, Run, Tub } from '@fleam/contract/runs'
import { groupBy } from '@fleam/core/group-by'
import type { KitchenRecords } from '../../db/records.ts'
import { found } from '../../http/changes.ts'
import { toPrice } from '../prices/quotes.ts'
import type { BenchEventRow } from './bench-event.model.ts'
import type { DefectRow } from './defect.model.ts'
import { toBenchEvent, toWeighing } from './ledger-lines.ts'
import { namesOfRun, toSummary } from './log.ts'
import type { RunRow } from './run.model.ts'
import type { TubRow } from './tub.model.ts'
import type { WeighingRow } from './weighing.model.ts'

const quote = ['amount', 'per', 'caseCount', 'caseGrams', 'quotedOn']
const everythingOfRun = [
  ...namesOfRun.map((one) => (one.association === 'cutSheetVersion' ? { association: 'cutSheetVersion' } : one)),
  { association: 'quote', attributes: quote },
  { association: 'readyCutItem', attributes: ['name'] },
  { association: 'readyCutQuote', attributes: quote },
  { association: 'finishedBy', attributes: ['id', 'name'] },
]

/** What is shown of a line of the ledger. */
const lineColumns = [
  'id',
  'runId',
  'sequence',
  'tubId',
  'tenths',
  'entered',
  'reversesId',
  'pieceNumber',
  'movedFromId',
  'weighedAt',
  'personId',
]

export async function findRun(records: KitchenRecords, id: string): Promise<Run | undefined> {
  return (await findRuns(records, [id]))[0]
}

/** Runs with all that is on record of them, in the order asked for; their ledgers, which may be long, as plain rows. */
export async function findRuns(records: KitchenRecords, ids: readonly string[]): Promise<Run[]> {
  const ofRuns = { runId: [...ids] }
  const rows = await records.runs.findAll({ where: { id: [...ids] }, include: everythingOfRun })
  if (rows.length === 0) return []
  const [tubs, weighings, defects, events] = await Promise.all([
    records.tubs.findAll({ where: ofRuns, order: ['position', 'id'] }),
    records.weighings.findAll({ attributes: lineColumns, where: ofRuns, order: ['runId', 'sequence'], raw: true }),
    records.defects.findAll({ where: ofRuns, order: ['at', 'id'], raw: true }),
    records.benchEvents.findAll({ where: ofRuns, order: ['runId', 'sequence'], raw: true }),
  ])
  const nameOf = await namesOf(records, [...weighings, ...defects, ...events])
  const [tubsOf, weighingsOf, defectsOf, eventsOf] = [byRun(tubs), byRun(weighings), byRun(defects), byRun(events)]
  const byId = new Map(rows.map((row) => [row.id, row]))
  return ids.flatMap((id) => {
    const row = byId.get(id)
    if (!row) return []
    const defectsOfRun = defectsOf(id)
    const kindOf = kindsOf(row)
    return {
      ...toSummary(row, defectsOfRun.length),
      ...termsOf(row),
      tubs: tubsOf(id).map((tub: TubRow) => toTub(tub, kindOf)),
      weighings: weighingsOf(id).map((line: WeighingRow) => toWeighing(line, nameOf(line))),
      defects: defectsOfRun.map((defect: DefectRow) => toDefect(defect, nameOf(defect))),
      events: eventsOf(id).map((event: BenchEventRow) => toBenchEvent(event, nameOf(event))),
    }
  })
}

/** The kind of each output of a run's sheet. */
function kindsOf({ cutSheetVersion }: RunRow): KindOf {
  const kinds = new Map(cutSheetVersion?.body?.outputs.map(({ key, kind }) => [key as string | null, kind]))
  return (key) => kinds.get(key)
}

type KindOf = (outputKey: string | null) => string | undefined

function byRun<Row extends { runId: string }>(rows: readonly Row[]): (id: string) => readonly Row[] {
  const lists = groupBy(rows, ({ runId }) => runId)
  return (id) => lists.get(id) ?? []
}

/** What was in force when the run was received, and what was said of it at its end. */
function termsOf(row: RunRow) {
  const { finishedBy } = row
  const bought = found(row.quote)
  return {
    sheet: found(row.cutSheetVersion).body,
    pieces: row.pieces,
    byPiece: row.byPiece,
    fish: row.fish ?? null,
    deliveryCheck: row.deliveryCheck ?? null,
    coreTempC: row.coreTempC,
    temperature: row.temperature ?? null,
    quote: { price: toPrice(bought), quotedOn: bought.quotedOn },
    readyCut: toReadyCut(row),
    rates: row.rates,
    consumables: row.consumables,
    method: row.method,
    unaccountedReason: row.unaccountedReason,
    claimCredit: row.claimCredit,
    finishedBy: finishedBy ? { id: finishedBy.id, name: finishedBy.name } : null,
    discarded: row.discarded ?? null,
    reopened: row.reopened ?? null,
  }
}

function toReadyCut({ readyCutTerms, readyCutItem, readyCutQuote }: RunRow): Run['readyCut'] {
  if (!readyCutTerms || !readyCutQuote) return null
  const { quotedOn } = readyCutQuote
  return { name: readyCutItem?.name ?? '', terms: readyCutTerms, quote: { price: toPrice(readyCutQuote), quotedOn } }
}

/** The names of the people who wrote these lines. */
async function namesOf(records: KitchenRecords, lines: readonly { personId: string }[]): Promise<(line: { personId: string }) => string> {
  const ids = [...new Set(lines.map(({ personId }) => personId))]
  const people = ids.length === 0 ? [] : await records.people.findAll({ attributes: ['id', 'name'], where: { id: ids }, raw: true })
  const names = new Map(people.map(({ id, name }) => [id, name]))
  return ({ personId }) => found(names.get(personId))
}

/** @param kindOf what its sheet calls the kind of an output; a run's tubs alone are asked for it */
export function toTub(row: TubRow, kindOf: KindOf = () => undefined): Tub {
  return {
    id: row.id,
    position: row.position,
    key: row.outputKey,
    name: row.name,
    role: row.role,
    kind: kindOf(row.outputKey),
    destination: row.destination,
    targetTenths: row.targetTenths,
    toleranceTenths: row.toleranceTenths,
    typicalPct: row.typicalPct,
    valuePerKg: row.valuePerKg,
    separableCost: row.separableCost,
  }
}

export function toDefect({ id, kind, note, step, at, personId }: DefectRow, name: string): Defect {
  return { id, kind, note, step, at: at.toISOString(), by: { id: personId, name } }
}
