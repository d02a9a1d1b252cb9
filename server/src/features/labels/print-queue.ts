import { type KitchenSettings, readSettings } from '@fleam/contract/kitchen'
import { Op } from 'sequelize'
import type { Database } from '../../db/database.ts'
import type { HeavyWork } from '../../heavy-work.ts'
import { findLots } from '../walk-in/find-lots.ts'
import type { LabelPrintRow } from './label-print.model.ts'
import { labelsOf } from './labels-of.ts'
import { type PrinterAddress, sendJob, stateOfJob } from './printer.ts'

/** Labels on their way: tried until they are printed or somebody lets them go. */
export interface PrintQueue {
  /** Something was added: it is tried at once. */
  wake(): void
  close(): Promise<void>
}

interface PrintQueueOptions {
  db: Database
  heavyWork: HeavyWork
  simulatedPrinter: { host: string; port: number } | undefined
  /** Waits while something is on its way, and while nothing is, ms. */
  busyMs?: number
  idleMs?: number
}

/** How long one server keeps a print to itself: one that dies leaves it to the others. */
const heldMs = 30_000
const atOnce = 20

/** The kitchen's printers, and the simulated one where there is one. */
export function printersOf(
  { printers }: Pick<KitchenSettings, 'printers'>,
  simulated: PrintQueueOptions['simulatedPrinter'],
): PrinterAddress[] {
  // known by where it stands: labels that wait are for that one, whatever becomes of the list
  const own = printers.map((one) => ({ ...one, id: `${one.host}:${one.port}/${one.path}`, isSimulated: false }))
  if (!simulated) return own
  return [...own, { ...simulated, path: 'ipp/print', size: '62x29', id: 'simulated', name: 'Simulated label printer', isSimulated: true }]
}

export function openPrintQueue({ db, heavyWork, simulatedPrinter, busyMs = 1500, idleMs = 20_000 }: PrintQueueOptions): PrintQueue {
  const { acrossKitchens: records } = db
  let timer: NodeJS.Timeout | undefined
  let working: Promise<void> | undefined
  let isClosed = false

  async function printOne(row: LabelPrintRow): Promise<void> {
    const now = new Date()
    const isOurs = await records.labelPrints.update(
      { heldUntil: new Date(now.getTime() + heldMs) },
      { id: row.id, state: 'waiting', heldUntil: { [Op.lt]: now } },
    )
    if (isOurs !== 1) return
    const change = await tried(row).catch((error: Error) => ({ why: error.message.slice(0, 200) }))
    await records.labelPrints.update({ ...change, heldUntil: new Date(86_400_000) }, { id: row.id, state: 'waiting' })
  }

  async function tried(row: LabelPrintRow): Promise<Partial<Pick<LabelPrintRow, 'state' | 'why' | 'job' | 'printedAt'>>> {
    const kitchen = await records.kitchens.findOne({ where: { id: row.kitchenId } })
    const settings = kitchen && readSettings(kitchen.settings)
    const printer = settings && printersOf(settings, simulatedPrinter).find(({ id }) => id === row.printerId)
    if (!kitchen || !printer) return { state: 'given up', why: 'The kitchen has no such printer any more.' }
    if (row.job !== null) {
      const state = await stateOfJob(printer, row.job)
      if (state.kind === 'done') return { state: 'printed', why: '', printedAt: new Date() }
      // a job that the printer has lost is sent again
      return state.kind === 'waiting' ? { why: state.why } : { why: state.why, job: null }
    }
    const lots = await findLots(records.of(row.kitchenId), { id: row.lotIds })
    const pdf = await heavyWork.run('writeLabels', { labels: labelsOf(lots, { settings }, row.origin), size: printer.size })
    return { job: await sendJob(printer, pdf, lots.length), why: '' }
  }

  async function turn(): Promise<void> {
    const waiting = await records.labelPrints.findAll({ where: { state: 'waiting' }, order: ['askedAt'], limit: atOnce })
    for (const row of waiting) if (!isClosed) await printOne(row)
    schedule(waiting.length > 0 ? busyMs : idleMs)
  }

  function schedule(ms: number): void {
    clearTimeout(timer)
    if (isClosed) return
    timer = setTimeout(() => {
      // a database that is away is asked again later
      working = turn().catch(() => schedule(idleMs))
    }, ms)
    timer.unref()
  }

  schedule(idleMs)
  return {
    wake: () => schedule(0),
    async close() {
      isClosed = true
      clearTimeout(timer)
      await working
    },
  }
}
