import { readSettings } from '@fleam/contract/kitchen'
import type { FetchedList, PriceListReading } from '@fleam/contract/prices'
import { dayOf } from '@fleam/core/quantities/house-day'
import { Op } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import type { Database } from '../../db/database.ts'
import type { KitchenRecords } from '../../db/records.ts'
import type { HeavyWork } from '../../heavy-work.ts'
import { found } from '../../http/changes.ts'
import { ProblemError } from '../../http/problems.ts'
import { fetchList } from './fetch-list.ts'
import type { FetchedListRow } from './fetched-list.model.ts'
import { openPriceList, readReport } from './price-list.ts'
import type { SupplierRow } from './supplier.model.ts'

/** Fetches suppliers' price lists when they are due. Nothing of them is taken before a person has looked. */
export interface PriceWatch {
  /** Fetches a supplier's list now. */
  fetchNow(records: KitchenRecords, supplierId: string): Promise<FetchedList>
  close(): Promise<void>
}

interface PriceWatchOptions {
  db: Database
  heavyWork: HeavyWork
  simulatedSupplier: { host: string; port: number } | undefined
  /** How often it is looked whether one is due, ms. */
  everyMs?: number
}

const hourMs = 3_600_000
/** What was fetched before that is gone: what was taken of it stands as quotes. */
const keptDays = 60
const atOnce = 5
const shown = 20
const withoutText = { exclude: ['text'] }

export function openPriceWatch({ db, heavyWork, simulatedSupplier, everyMs = 60_000 }: PriceWatchOptions): PriceWatch {
  let timer: NodeJS.Timeout | undefined
  let working: Promise<void> | undefined
  let isClosed = false
  const readCsv = (list: { text: string; separator: PriceListReading['separator'] }) => heavyWork.run('readCsv', list)

  function addressOf({ feed }: SupplierRow): string {
    if (!feed) throw new Error('This supplier has no address.')
    if (feed.address !== 'simulated') return feed.address
    if (!simulatedSupplier) throw new Error('No simulated supplier is running.')
    return `http://${simulatedSupplier.host}:${simulatedSupplier.port}/prices.csv`
  }

  /** Fetches one list and says what it would change. */
  async function fetchOne(records: KitchenRecords, supplier: SupplierRow): Promise<FetchedList> {
    const id = uuidv7()
    const row = { id, supplierId: supplier.id, at: new Date() }
    let made: Pick<FetchedListRow, 'state' | 'why' | 'changes' | 'text'>
    try {
      const text = await fetchList(addressOf(supplier))
      const { reading } = await openPriceList(records, readCsv, { supplierId: supplier.id, text, separator: '' })
      const { timeZone } = readSettings(found(await records.kitchens.findOne()).settings)
      const asked = { id, supplierId: supplier.id, text, reading, articles: {}, leftOut: [], checked: [] }
      const csv = await readCsv({ text, separator: reading.separator })
      const { changes, problems } = await readReport(records, csv, { ...asked, quotedOn: dayOf(Date.now(), timeZone), preview: true })
      const why = problems.length > 0 ? `${problems.length} of its lines cannot be read as they stand.` : ''
      made = { state: changes === 0 && problems.length === 0 ? 'unchanged' : 'waiting', why, changes, text }
    } catch (error) {
      const isSaid = error instanceof ProblemError || error instanceof Error
      made = { state: 'failed', why: isSaid ? sentenceOf(error).slice(0, 300) : 'It could not be read.', changes: 0, text: '' }
    }
    await records.transaction(async (tx) => {
      if (made.state !== 'failed')
        await tx.fetchedLists.update({ state: 'let go', why: 'A newer one was fetched.' }, { supplierId: supplier.id, state: 'waiting' })
      await tx.fetchedLists.create({ ...row, ...made })
      await tx.fetchedLists.destroy({ supplierId: supplier.id, at: { [Op.lt]: new Date(Date.now() - keptDays * 24 * hourMs) } })
    })
    return toFetchedList(found(await records.fetchedLists.findOne({ attributes: withoutText, where: { id } })))
  }

  async function turn(): Promise<void> {
    const now = new Date()
    const due = await db.acrossKitchens.suppliers.findAll({ where: { nextFetchAt: { [Op.lte]: now } }, limit: atOnce })
    for (const supplier of due) {
      if (isClosed) return
      const next = supplier.feed && supplier.feed.everyHours > 0 ? new Date(now.getTime() + supplier.feed.everyHours * hourMs) : null
      // of several servers the one that moves the hour on fetches it
      const isOurs = await db.acrossKitchens.suppliers.update({ nextFetchAt: next }, { id: supplier.id, nextFetchAt: supplier.nextFetchAt })
      const isThere = supplier.feed?.address !== 'simulated' || simulatedSupplier !== undefined
      if (isOurs === 1 && supplier.feed && isThere) await fetchOne(db.of(supplier.kitchenId), supplier)
    }
  }

  function schedule(): void {
    if (isClosed) return
    timer = setTimeout(() => {
      // a database that is away is asked again later
      working = turn()
        .catch(() => undefined)
        .then(schedule)
    }, everyMs)
    timer.unref()
  }

  schedule()
  return {
    async fetchNow(records, supplierId) {
      return fetchOne(records, found(await records.suppliers.findOne({ where: { id: supplierId } })))
    },
    async close() {
      isClosed = true
      clearTimeout(timer)
      await working
    },
  }
}

function sentenceOf(error: Error): string {
  if (!(error instanceof ProblemError)) return error.message
  return error.extra.errors?.[0]?.message ?? error.extra.detail ?? error.message
}

/** The lists that were fetched last. */
export async function listFetched(records: KitchenRecords): Promise<FetchedList[]> {
  return (await records.fetchedLists.findAll({ attributes: withoutText, order: [['at', 'DESC']], limit: shown })).map(toFetchedList)
}

export async function findFetched(records: KitchenRecords, id: string): Promise<FetchedList & { text: string }> {
  const row = found(await records.fetchedLists.findOne({ where: { id } }))
  return { ...toFetchedList(row), text: row.text }
}

/** Lets a list go: nothing of it is taken. */
export async function letGoOfFetched(records: KitchenRecords, id: string): Promise<void> {
  found(await records.fetchedLists.findOne({ attributes: ['id'], where: { id } }))
  await records.fetchedLists.update({ state: 'let go', why: 'Somebody looked at it and let it go.' }, { id, state: 'waiting' })
}

function toFetchedList({ id, supplierId, at, state, why, changes }: FetchedListRow): FetchedList {
  return { id, supplierId, at: at.toISOString(), state, why, changes }
}
