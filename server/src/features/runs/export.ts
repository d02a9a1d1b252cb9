import type { Kitchen } from '@fleam/contract/kitchen'
import { runsVersion } from '@fleam/contract/run-export'
import type { RunSummary } from '@fleam/contract/runs'
import { v7 as uuidv7 } from 'uuid'
import type { Actor } from '../../http/access.ts'
import { csvLine } from '../../http/csv.ts'
import { exportPictures } from '../pictures/service.ts'
import { findRuns } from './find-run.ts'
import { cursorOf, type LogQuery, listRuns } from './log.ts'

const pageSize = 200
/** Whole runs read at once: with more, others wait while their lines are put together. */
const wholeRuns = 20

/** What an export is asked for; its days are those of the kitchen. */
type ExportQuery = Omit<LogQuery, 'timeZone'>

/** The runs of a filter, a page at a time. */
async function* eachPage({ records, kitchen }: Actor, query: ExportQuery): AsyncGenerator<RunSummary[]> {
  const { timeZone } = kitchen.settings
  let last: RunSummary | undefined
  do {
    const runs: RunSummary[] = await listRuns(records, { ...query, timeZone }, last && cursorOf(last, query.sort), pageSize)
    yield runs
    last = runs.length === pageSize ? runs.at(-1) : undefined
  } while (last)
}

const csvHeader = [
  'run',
  'started_at',
  'finished_at',
  'status',
  'item',
  'animal',
  'cut_sheet',
  'supplier',
  'cook',
  'lot',
  'billed_g',
  'received_g',
  'minutes',
  'main_yield_pct',
  'usable_yield_pct',
  'unaccounted_pct',
  'net_cost',
  'cost_per_kg',
  'cost_per_portion',
  'portions',
  'defects',
  'currency',
]

interface Named {
  id: string
  name: string
}

/** What people are called in a file that leaves names out: a number, within one file always the same for one person. */
function numbersForNames(): (person: Named) => Named {
  const known = new Map<string, Named>()
  return ({ id }) => {
    const person = known.get(id) ?? { id: uuidv7(), name: `person ${known.size + 1}` }
    known.set(id, person)
    return person
  }
}

/** Where a run names people. */
const peopleOfRun = new Set(['cook', 'by', 'finishedBy'])

/** The runs of a filter as CSV, a line each. */
export async function* writeRunsCsv(by: Actor, query: ExportQuery, withNames = true): AsyncGenerator<string> {
  const call = withNames ? (person: Named) => person : numbersForNames()
  yield csvLine(csvHeader)
  for await (const runs of eachPage(by, query))
    yield runs.map((run) => csvLine(cellsOf({ ...run, cook: call(run.cook) }, by.kitchen))).join('')
}

function cellsOf(run: RunSummary, kitchen: Kitchen): unknown[] {
  return [
    run.number,
    run.startedAt,
    run.finishedAt,
    run.status,
    run.item.name,
    run.item.animal,
    run.cutSheet.name,
    run.supplier?.name,
    run.cook.name,
    run.lot,
    run.billed.tenths / 10,
    run.received.tenths / 10,
    run.minutes,
    run.figures?.mainPct,
    run.figures?.usablePct,
    run.figures?.unaccountedPct,
    run.figures?.netCost,
    run.figures?.costPerKg,
    run.figures?.costPerPortion,
    run.figures?.portions,
    run.defectCount,
    kitchen.settings.currency,
  ]
}

/**
 * The runs of a filter as one JSON file that another kitchen can import.
 * @param withPictures whether their pictures go with them
 * @param withNames whether people are named in it
 */
export async function* writeRunsJson(by: Actor, query: ExportQuery, withPictures = false, withNames = true): AsyncGenerator<string> {
  const call = numbersForNames()
  const unnamed = (key: string, value: unknown) =>
    peopleOfRun.has(key) && typeof value === 'object' && value !== null ? call(value as Named) : value
  const { records, kitchen } = by
  const head = {
    format: 'fleam-runs',
    version: runsVersion,
    kitchen: { name: kitchen.name, currency: kitchen.settings.currency },
    exportedAt: new Date().toISOString(),
  }
  yield `${JSON.stringify(head).slice(0, -1)},"runs":[`
  let separator = '\n'
  for await (const page of eachPage(by, query)) {
    for (let from = 0; from < page.length; from += wholeRuns) {
      const ids = page.slice(from, from + wholeRuns).map(({ id }) => id)
      const pictures = withPictures ? await exportPictures(records, ids) : undefined
      for (const run of await findRuns(records, ids)) {
        yield separator + JSON.stringify(pictures ? { ...run, pictures: pictures.get(run.id) ?? [] } : run, withNames ? undefined : unnamed)
        separator = ',\n'
      }
    }
  }
  yield '\n]}\n'
}
