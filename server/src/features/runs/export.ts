import type { Kitchen } from '@fleam/contract/kitchen'
import type { RunQuery, runFilter } from '@fleam/contract/runs'
import type { z } from 'zod'
import type { Queries } from '../../db/database.ts'
import { cursorOf, findRun, listRuns, type RunRow, toSummary } from './read.ts'

type Filter = z.infer<typeof runFilter> & { sort: RunQuery['sort'] }

const pageSize = 200

async function* eachRun(db: Queries, kitchenId: string, filter: Filter): AsyncGenerator<RunRow> {
  let last: RunRow | undefined
  do {
    const rows: RunRow[] = await listRuns(db, kitchenId, filter, last && cursorOf(last, filter.sort), pageSize)
    yield* rows
    last = rows.length === pageSize ? rows.at(-1) : undefined
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

/** The runs of a filter as CSV (RFC 4180, UTF-8); text that a spreadsheet could take for a formula is quoted. */
export async function* writeRunsCsv(db: Queries, kitchen: Kitchen, filter: Filter): AsyncGenerator<string> {
  const { unparse } = await import('papaparse')
  const line = (cells: unknown[]) => `${unparse([cells], { escapeFormulae: true })}\r\n`
  yield line(csvHeader)
  for await (const row of eachRun(db, kitchen.id, filter)) {
    const run = toSummary(row)
    yield line([
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
    ])
  }
}

/** The runs of a filter as one JSON file that another kitchen can import. */
export async function* writeRunsJson(db: Queries, kitchen: Kitchen, filter: Filter): AsyncGenerator<string> {
  const head = {
    format: 'fleam-runs',
    version: 1,
    kitchen: { name: kitchen.name, currency: kitchen.settings.currency },
    exportedAt: new Date().toISOString(),
  }
  yield `${JSON.stringify(head).slice(0, -1)},"runs":[`
  let separator = '\n'
  for await (const row of eachRun(db, kitchen.id, filter)) {
    const run = await findRun(db, kitchen.id, row.id)
    if (!run) continue
    yield separator + JSON.stringify(run)
    separator = ',\n'
  }
  yield '\n]}\n'
}
