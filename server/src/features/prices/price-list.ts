import type {
  Item,
  KeptPriceList,
  PriceListField,
  PriceListOpened,
  PriceListReading,
  PriceListReport,
  priceListOpen,
} from '@fleam/contract/prices'
import { guessDecimalSign } from '@fleam/core/quantities/parse-amount'
import type { Price } from '@fleam/core/quantities/price'
import { v5 as uuidv5 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { found, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { listItems } from './items.ts'
import { latestQuotesOfSupplier } from './quotes.sql.ts'
import { findQuotes, priceColumns, toPrice } from './quotes.ts'
import { type Csv, type ImportAsked, isSame, type Line, readLines } from './read-price-list.ts'
import type { SupplierRow } from './supplier.model.ts'

/** Reads the lines of a list, away from the event loop. */
type ReadCsv = (list: { text: string; separator: PriceListReading['separator'] }) => Promise<Csv>

const mostProblems = 50
const sampleLines = 6
const nothingKept: KeptPriceList = { reading: null, articles: {} }

const likelyNames: Record<PriceListField, RegExp> = {
  article: /article|artikel|product|item|description|bezeichnung|name/i,
  amount: /price|preis|amount|prix|cost|eur|usd|gbp/i,
  unit: /unit|einheit|per\b|uom|unité/i,
  caseCount: /pieces|count|stück|pcs|qty|per case/i,
  caseWeight: /weight|gewicht|net/i,
}

/** What a list looks like, and how it is to be read: as this supplier's last one was, or by a guess. */
export async function openPriceList(
  records: KitchenRecords,
  read: ReadCsv,
  asked: z.infer<typeof priceListOpen>,
): Promise<PriceListOpened> {
  const kept = found(await records.suppliers.findOne({ where: { id: asked.supplierId } })).priceList ?? nothingKept
  // a person's own choice, else what this supplier's last list had, else found out
  const { delimiter, header, rows } = await read({ text: asked.text, separator: asked.separator || (kept.reading?.separator ?? '') })
  const isKept = kept.reading !== null && Object.values(kept.reading.columns).every((name) => name === null || header.includes(name))
  const guess = (field: PriceListField) => header.find((name) => likelyNames[field].test(name)) ?? null
  const amount = guess('amount') ?? header[1] ?? header[0] ?? ''
  const amounts = rows.map(({ cells }) => cells[header.indexOf(amount)] ?? '')
  return {
    delimiter,
    header,
    lines: rows.length,
    sample: rows.slice(0, sampleLines).map(({ cells }) => cells),
    isKept,
    reading:
      isKept && kept.reading
        ? kept.reading
        : {
            columns: {
              article: guess('article') ?? header[0] ?? '',
              amount,
              unit: guess('unit'),
              caseCount: guess('caseCount'),
              caseWeight: guess('caseWeight'),
            },
            unit: 'kg',
            decimalSign: guessDecimalSign(amounts),
            separator: asked.separator,
          },
  }
}

/**
 * Reads a supplier's list and says what it would change; writes it, all or nothing, unless it is a preview. How it was
 * read and which article is which item is kept for the next list. A repeat with the same id writes nothing twice.
 */
export async function importPriceList(by: Actor, read: ReadCsv, asked: ImportAsked): Promise<PriceListReport> {
  const csv = await read({ text: asked.text, separator: asked.reading.separator })
  return by.records.transaction(async (tx) => {
    const supplier = found(await tx.suppliers.lock({ id: asked.supplierId }))
    const { articles, ...report } = await readReport(tx, csv, asked, supplier)
    const { lines, problems, unchecked } = report
    if (asked.preview || problems.length > 0 || unchecked > 0) return report
    await writeQuotes(tx, by, asked, lines.filter(isChange))
    const known = lines.flatMap((line): [string, string][] => (line.item ? [[line.article, line.item.id]] : []))
    const keep: KeptPriceList = { reading: asked.reading, articles: { ...articles, ...Object.fromEntries(known) } }
    await tx.suppliers.update({ priceList: keep }, { id: supplier.id })
    // one that was fetched is read in under its own id
    await tx.fetchedLists.update({ state: 'taken' }, { id: asked.id, supplierId: supplier.id })
    // one that came meanwhile and says the same is taken with it
    await tx.fetchedLists.update({ state: 'taken' }, { supplierId: supplier.id, state: 'waiting', text: asked.text })
    const after = { quotes: report.changes, quotedOn: asked.quotedOn }
    await recordChange(tx, by, {
      subject: 'supplier',
      subjectId: asked.supplierId,
      action: 'read in a price list of',
      before: undefined,
      after,
    })
    return { ...report, written: true }
  })
}

const isChange = (line: Line) => line.price !== null && line.item !== null && !isSame(line.before, line.price)

/** What a list would change, and which article is which item, as far as it is known. Nothing is written. */
export async function readReport(
  records: KitchenRecords,
  { header, rows }: Csv,
  asked: ImportAsked,
  supplier?: SupplierRow,
): Promise<PriceListReport & { articles: KeptPriceList['articles'] }> {
  for (const [field, name] of Object.entries(asked.reading.columns)) {
    if (name !== null && !header.includes(name)) throw refuseField(`reading.columns.${field}`, `The list has no column “${name}”.`)
  }
  const { priceList } = supplier ?? found(await records.suppliers.findOne({ where: { id: asked.supplierId } }))
  const articles = { ...(priceList ?? nothingKept).articles, ...asked.articles }
  const items = await listItems(records, '', 10_000)
  refuseUnknownItems(asked.articles, items)
  const standing = await standingPrices(records, asked.supplierId)
  const { lines, problems } = readLines(rows, header, asked, (article) => itemOf(article, articles, items), standing)
  const unchecked = lines.filter((line) => line.isOdd && isChange(line) && !asked.checked.includes(line.line)).length
  const changes = lines.filter(isChange).length
  return { written: false, lines, problems: problems.slice(0, mostProblems), unchecked, changes, articles }
}

function refuseUnknownItems(articles: ImportAsked['articles'], items: readonly Item[]): void {
  for (const [article, itemId] of Object.entries(articles)) {
    if (itemId !== null && !items.some((item) => item.id === itemId)) {
      throw refuseField(`articles.${article}`, 'Choose an item of this kitchen.')
    }
  }
}

/** The prices that a supplier quoted last, by item. */
async function standingPrices(records: KitchenRecords, supplierId: string): Promise<Map<string, Price>> {
  const latest = await records.select<{ id: string }>(latestQuotesOfSupplier, { supplierId })
  return new Map(
    (
      await findQuotes(
        records,
        latest.map(({ id }) => id),
      )
    ).map((row) => [row.itemId, toPrice(row)]),
  )
}

/** The item that an article stands for: as a person said, else the one of the same name. */
function itemOf(article: string, articles: Record<string, string | null>, items: readonly Item[]): Item | null | undefined {
  const said = articles[article]
  if (said === null) return null
  return items.find((item) => item.id === said) ?? items.find((item) => item.name.toLowerCase() === article.toLowerCase())
}

/** Stores the new prices; those that an earlier send of the same list has stored are there already. */
async function writeQuotes(tx: KitchenRecords, by: Actor, asked: ImportAsked, lines: readonly Line[]): Promise<void> {
  const { supplierId, quotedOn } = asked
  const changed = lines.flatMap(({ line, item, price, before }) =>
    item && price ? [{ id: uuidv5(String(line), asked.id), itemId: item.id, price, before }] : [],
  )
  const stored = await tx.quotes.findAll({ attributes: ['id'], where: { id: changed.map(({ id }) => id) } })
  const storedIds = new Set(stored.map(({ id }) => id))
  const fresh = changed.filter(({ id }) => !storedIds.has(id))
  const common = { supplierId, quotedOn, at: new Date(), personId: by.person.id }
  await tx.quotes.bulkCreate(fresh.map(({ id, itemId, price }) => ({ id, itemId, ...priceColumns(price), ...common })))
  for (const { itemId, price, before } of fresh) {
    const after = { price, quotedOn, supplierId }
    await recordChange(tx, by, { subject: 'quote', subjectId: itemId, action: 'quoted', before: before ?? undefined, after })
  }
}
