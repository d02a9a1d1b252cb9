import type {
  Item,
  KeptPriceList,
  PriceListField,
  PriceListOpened,
  PriceListReading,
  PriceListReport,
  priceListImport,
  priceListOpen,
} from '@fleam/contract/prices'
import { price as priceSchema } from '@fleam/contract/primitives'
import { priceMove } from '@fleam/core/prices/price-move'
import { guessDecimalSign, parseAmount } from '@fleam/core/quantities/parse-amount'
import { parseWeight } from '@fleam/core/quantities/parse-weight'
import type { Price } from '@fleam/core/quantities/price'
import { gramsOf } from '@fleam/core/quantities/weight'
import papa from 'papaparse'
import { v5 as uuidv5 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { SignedIn } from '../../http/access.ts'
import { found, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { listItems } from './items.ts'
import { latestQuotesOfSupplier } from './quotes.sql.ts'
import { findQuotes, priceColumns, toPrice } from './quotes.ts'

type ImportAsked = z.infer<typeof priceListImport>
type Problem = PriceListReport['problems'][number]
type Line = PriceListReport['lines'][number]

const mostProblems = 50
const mostLines = 5000
const sampleLines = 6
/** A price five times the last, or a fifth of it, in percent of change: a figure lost or doubled, most likely. */
const oddMove = { up: 400, down: -80 }
const nothingKept: KeptPriceList = { reading: null, articles: {} }

interface Csv {
  delimiter: string
  header: string[]
  /** Every line after the header that has something in it, with its number in the file. */
  rows: { line: number; cells: string[] }[]
}

/** Reads a list's lines; a header that names a column twice or a line that is no CSV is refused, with its place. */
function readCsv(text: string, separator: PriceListReading['separator']): Csv {
  const { data, errors, meta } = papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false, delimiter: separator })
  const quoting = errors.find((error) => error.type === 'Quotes')
  if (quoting)
    throw refuseField('text', `Line ${(quoting.row ?? 0) + 1} has a quotation mark that is not closed: put it right in the file.`)
  let line = 1
  const numbered = data.map((cells) => {
    const at = line
    line += 1 + cells.reduce((sum, cell) => sum + (cell.match(/\n/g)?.length ?? 0), 0)
    return { line: at, cells: cells.map((cell) => cell.trim()) }
  })
  const filled = numbered.filter(({ cells }) => cells.some((cell) => cell !== ''))
  const [first, ...rows] = filled
  if (!first || rows.length === 0)
    throw refuseField('text', 'There is no line under the header: a price list has a header and a line an article.')
  if (rows.length > mostLines) throw refuseField('text', `The list has ${rows.length} lines: read in at most ${mostLines} at once.`)
  const header = first.cells.map((name, index) => name || `column ${index + 1}`)
  const twice = header.find((name, index) => header.indexOf(name) !== index)
  if (twice) throw refuseField('text', `Two columns are headed “${twice}”: give them different names in the file.`)
  return { delimiter: meta.delimiter, header, rows }
}

const likelyNames: Record<PriceListField, RegExp> = {
  article: /article|artikel|product|item|description|bezeichnung|name/i,
  amount: /price|preis|amount|prix|cost|eur|usd|gbp/i,
  unit: /unit|einheit|per\b|uom|unité/i,
  caseCount: /pieces|count|stück|pcs|qty|per case/i,
  caseWeight: /weight|gewicht|net/i,
}

/** What a list looks like, and how it is to be read: as this supplier's last one was, or by a guess. */
export async function openPriceList(records: KitchenRecords, asked: z.infer<typeof priceListOpen>): Promise<PriceListOpened> {
  const kept = found(await records.suppliers.findOne({ where: { id: asked.supplierId } })).priceList ?? nothingKept
  // a person's own choice, else what this supplier's last list had, else found out
  const { delimiter, header, rows } = readCsv(asked.text, asked.separator || (kept.reading?.separator ?? ''))
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
export async function importPriceList(by: SignedIn, asked: ImportAsked): Promise<PriceListReport> {
  const { header, rows } = readCsv(asked.text, asked.reading.separator)
  for (const [field, name] of Object.entries(asked.reading.columns)) {
    if (name !== null && !header.includes(name)) throw refuseField(`reading.columns.${field}`, `The list has no column “${name}”.`)
  }
  return by.records.transaction(async (tx) => {
    const supplier = found(await tx.suppliers.lock({ id: asked.supplierId }))
    const kept = supplier.priceList ?? nothingKept
    const articles = { ...kept.articles, ...asked.articles }
    const items = await listItems(tx, '', 10_000)
    refuseUnknownItems(asked.articles, items)
    const standing = await standingPrices(tx, asked.supplierId)
    const { lines, problems } = readLines(rows, header, asked, (article) => itemOf(article, articles, items), standing)
    const isChange = (line: Line) => line.price !== null && line.item !== null && !isSame(line.before, line.price)
    const unchecked = lines.filter((line) => line.isOdd && isChange(line) && !asked.checked.includes(line.line)).length
    const report = { written: false, lines, problems: problems.slice(0, mostProblems), unchecked, changes: lines.filter(isChange).length }
    if (asked.preview || problems.length > 0 || unchecked > 0) return report
    await writeQuotes(tx, by, asked, lines.filter(isChange))
    const known = lines.flatMap((line): [string, string][] => (line.item ? [[line.article, line.item.id]] : []))
    const keep: KeptPriceList = { reading: asked.reading, articles: { ...articles, ...Object.fromEntries(known) } }
    await tx.suppliers.update({ priceList: keep }, { id: supplier.id })
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

function readLines(
  rows: Csv['rows'],
  header: readonly string[],
  { reading, leftOut }: Pick<ImportAsked, 'reading' | 'leftOut'>,
  itemFor: (article: string) => Item | null | undefined,
  standing: ReadonlyMap<string, Price>,
): { lines: Line[]; problems: Problem[] } {
  const problems: Problem[] = []
  const lines: Line[] = []
  const firstLine = new Map<string, number>()
  for (const { line, cells } of rows) {
    const cell = (name: string | null) => (name === null ? '' : (cells[header.indexOf(name)] ?? ''))
    const refuse = (column: string | null, message: string) => problems.push({ line, column: column ?? '', message })
    const article = cell(reading.columns.article).slice(0, 200)
    if (leftOut.includes(line)) {
      lines.push({ line, article, item: null, isLeftOut: true, price: null, before: null, movePct: null, isOdd: false })
      continue
    }
    if (article === '') {
      refuse(reading.columns.article, 'The article has no name.')
      continue
    }
    const item = itemFor(article)
    if (item === null) {
      lines.push({ line, article, item: null, isLeftOut: true, price: null, before: null, movePct: null, isOdd: false })
      continue
    }
    const price = readPrice(cell, reading, refuse)
    if (!price) continue
    const before = item ? (standing.get(item.id) ?? null) : null
    if (item) {
      const earlier = firstLine.get(item.id)
      if (earlier !== undefined) refuse(reading.columns.article, `“${item.name}” stands on line ${earlier} too: one price an item.`)
      firstLine.set(item.id, earlier ?? line)
    }
    const movePct = before && priceMove(before, price)
    lines.push({
      line,
      article,
      item: item ? { id: item.id, name: item.name } : null,
      isLeftOut: false,
      price,
      before,
      movePct,
      isOdd: movePct !== null && (movePct >= oddMove.up || movePct <= oddMove.down),
    })
  }
  return { lines, problems }
}

const unitWords: readonly (readonly [RegExp, Price['per']])[] = [
  [/^(per |\/ ?)?(kg|kilo|kilos|kilogram)s?\.?$/i, 'kg'],
  [/^(per |\/ ?)?(lb|lbs|pound|pounds)\.?$/i, 'lb'],
  [/^(per |\/ ?)?(each|ea|piece|pieces|pc|pcs|st|stk|stück|pce)\.?$/i, 'each'],
  [/^(per |\/ ?)?(case|box|carton|crate|cs|ctn|kiste|karton)\.?$/i, 'case'],
]

function readPrice(
  cell: (name: string | null) => string,
  { columns, unit, decimalSign }: PriceListReading,
  refuse: (column: string | null, message: string) => void,
): Price | undefined {
  const amount = parseAmount(cell(columns.amount), decimalSign)
  if (amount === undefined) {
    refuse(columns.amount, `“${cell(columns.amount)}” is no amount with ${decimalSign === ',' ? 'a decimal comma' : 'a decimal point'}.`)
    return undefined
  }
  const word = cell(columns.unit)
  const per = word === '' ? unit : unitWords.find(([pattern]) => pattern.test(word))?.[1]
  if (!per) {
    refuse(columns.unit, `“${word}” is no unit that Fleam knows: kg, lb, each or case.`)
    return undefined
  }
  const written = cell(columns.caseCount)
  const count = written === '' ? undefined : Number(written)
  const weight = cell(columns.caseWeight)
  const parsed = weight === '' ? undefined : parseWeight(weight, 'kg')
  if (parsed && !parsed.ok) {
    refuse(columns.caseWeight, parsed.message)
    return undefined
  }
  const ofCase = { ...(count === undefined ? {} : { count }), ...(parsed ? { grams: gramsOf(parsed.tenths) } : {}) }
  const checked = priceSchema.safeParse({ amount, per, ...(per === 'case' ? ofCase : {}) })
  if (checked.success) return checked.data
  const [issue] = checked.error.issues
  refuse(issue?.path[0] === 'count' ? columns.caseCount : columns.amount, issue?.message ?? 'This is no price.')
  return undefined
}

function isSame(before: Price | null, after: Price): boolean {
  return (
    before !== null &&
    before.amount === after.amount &&
    before.per === after.per &&
    before.count === after.count &&
    before.grams === after.grams
  )
}

/** Stores the new prices; those that an earlier send of the same list has stored are there already. */
async function writeQuotes(tx: KitchenRecords, by: SignedIn, asked: ImportAsked, lines: readonly Line[]): Promise<void> {
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

const csvHeader = ['item', 'kind', 'animal', 'supplier', 'quoted_on', 'price', 'per', 'case_count', 'case_g', 'currency']

/** Every quote of the kitchen as CSV (RFC 4180, UTF-8); text that a spreadsheet could take for a formula is quoted. */
export async function writeQuotesCsv(records: KitchenRecords, currency: string): Promise<string> {
  const quotes = await records.quotes.findAll({
    include: [
      { association: 'item', attributes: ['name', 'kind', 'animal'] },
      { association: 'supplier', attributes: ['name'] },
    ],
    order: [['item', 'name', 'ASC'], 'quotedOn', 'at', 'id'],
  })
  const lines = quotes.map(({ item, supplier, quotedOn, amount, per, caseCount, caseGrams }) => [
    item?.name,
    item?.kind,
    item?.animal,
    supplier?.name ?? '',
    quotedOn,
    amount,
    per,
    caseCount ?? '',
    caseGrams ?? '',
    currency,
  ])
  return `${papa.unparse([csvHeader, ...lines], { escapeFormulae: true })}\r\n`
}
