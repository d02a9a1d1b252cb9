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
import { v5 as uuidv5 } from 'uuid'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { found, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { listItems } from './service.ts'

type ImportAsked = z.infer<typeof priceListImport>
type Problem = PriceListReport['problems'][number]
type Line = PriceListReport['lines'][number]

const mostProblems = 50
const mostLines = 5000
const sampleLines = 6

interface Csv {
  delimiter: string
  header: string[]
  /** Every line after the header that has something in it, with its number in the file. */
  rows: { line: number; cells: string[] }[]
}

/** Reads a list's lines; a header that names a column twice or a line that is no CSV is refused, with its place. */
async function readCsv(text: string): Promise<Csv> {
  const { parse } = await import('papaparse')
  const { data, errors, meta } = parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false })
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
export async function openPriceList(db: Queries, kitchenId: string, asked: z.infer<typeof priceListOpen>): Promise<PriceListOpened> {
  const { kept } = await keptListOf(db, kitchenId, asked.supplierId)
  const { delimiter, header, rows } = await readCsv(asked.text)
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
          },
  }
}

/**
 * Reads a supplier's list and says what it would change; writes it, all or nothing, unless it is a preview. How it was
 * read and which article is which item is kept for the next list. A repeat with the same id writes nothing twice.
 */
export async function importPriceList(db: Database, by: SignedIn, asked: ImportAsked): Promise<PriceListReport> {
  const { header, rows } = await readCsv(asked.text)
  for (const [field, name] of Object.entries(asked.reading.columns)) {
    if (name !== null && !header.includes(name)) throw refuseField(`reading.columns.${field}`, `The list has no column “${name}”.`)
  }
  return db.transaction(async (tx) => {
    const { kept } = await keptListOf(tx, by.kitchen.id, asked.supplierId, 'FOR UPDATE')
    const articles = { ...kept.articles, ...asked.articles }
    const items = await listItems(tx, by.kitchen.id, '', 10_000)
    refuseUnknownItems(asked.articles, items)
    const standing = await standingPrices(tx, by.kitchen.id, asked.supplierId)
    const { lines, problems } = readLines(rows, header, asked.reading, (article) => itemOf(article, articles, items), standing)
    const isChange = (line: Line) => line.price !== null && line.item !== null && !isSame(line.before, line.price)
    const report = { written: false, lines, problems: problems.slice(0, mostProblems), changes: lines.filter(isChange).length }
    if (asked.preview || problems.length > 0) return report
    for (const line of lines.filter(isChange)) await writeQuote(tx, by, asked, line)
    const known = lines.flatMap((line): [string, string][] => (line.item ? [[line.article, line.item.id]] : []))
    const keep: KeptPriceList = { reading: asked.reading, articles: { ...articles, ...Object.fromEntries(known) } }
    await tx.run('UPDATE suppliers SET price_list = :keep WHERE id = :supplierId AND kitchen_id = :kitchenId', {
      keep: JSON.stringify(keep),
      supplierId: asked.supplierId,
      kitchenId: by.kitchen.id,
    })
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

async function keptListOf(db: Queries, kitchenId: string, supplierId: string, lock = ''): Promise<{ kept: KeptPriceList }> {
  const row = found(
    await db.row<{ price_list: string | null }>(
      `SELECT price_list FROM suppliers WHERE id = :supplierId AND kitchen_id = :kitchenId ${lock}`,
      { supplierId, kitchenId },
    ),
  )
  return { kept: row.price_list ? JSON.parse(row.price_list) : { reading: null, articles: {} } }
}

function refuseUnknownItems(articles: ImportAsked['articles'], items: readonly Item[]): void {
  for (const [article, itemId] of Object.entries(articles)) {
    if (itemId !== null && !items.some((item) => item.id === itemId)) {
      throw refuseField(`articles.${article}`, 'Choose an item of this kitchen.')
    }
  }
}

/** What this supplier asks for each item today. */
async function standingPrices(db: Queries, kitchenId: string, supplierId: string): Promise<Map<string, Price>> {
  const rows = await db.rows<{ item_id: string; amount: number; per: Price['per']; case_count: number | null; case_grams: number | null }>(
    `SELECT item_id, amount, per, case_count, case_grams FROM quotes
     WHERE kitchen_id = :kitchenId AND supplier_id = :supplierId ORDER BY quoted_on, at, id`,
    { kitchenId, supplierId },
  )
  return new Map(
    rows.map(({ item_id, amount, per, case_count, case_grams }) => [
      item_id,
      { amount, per, count: case_count ?? undefined, grams: case_grams ?? undefined },
    ]),
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
  reading: PriceListReading,
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
    if (article === '') {
      refuse(reading.columns.article, 'The article has no name.')
      continue
    }
    const item = itemFor(article)
    if (item === null) {
      lines.push({ line, article, item: null, isLeftOut: true, price: null, before: null, movePct: null })
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
    lines.push({
      line,
      article,
      item: item ? { id: item.id, name: item.name } : null,
      isLeftOut: false,
      price,
      before,
      movePct: before && priceMove(before, price),
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

async function writeQuote(tx: Queries, by: SignedIn, asked: ImportAsked, { line, item, price, before }: Line): Promise<void> {
  if (!item || !price) return
  await tx.run(
    `INSERT IGNORE INTO quotes (id, kitchen_id, item_id, supplier_id, amount, per, case_count, case_grams, quoted_on, at, person_id)
     VALUES (:id, :kitchenId, :itemId, :supplierId, :amount, :per, :count, :grams, :quotedOn, UTC_TIMESTAMP(3), :personId)`,
    {
      id: uuidv5(String(line), asked.id),
      kitchenId: by.kitchen.id,
      itemId: item.id,
      supplierId: asked.supplierId,
      amount: price.amount,
      per: price.per,
      count: price.count ?? null,
      grams: price.grams ?? null,
      quotedOn: asked.quotedOn,
      personId: by.person.id,
    },
  )
  const after = { price, quotedOn: asked.quotedOn, supplierId: asked.supplierId }
  await recordChange(tx, by, { subject: 'quote', subjectId: item.id, action: 'quoted', before: before ?? undefined, after })
}

const csvHeader = ['item', 'kind', 'animal', 'supplier', 'quoted_on', 'price', 'per', 'case_count', 'case_g', 'currency']

/** Every quote of the kitchen as CSV (RFC 4180, UTF-8); text that a spreadsheet could take for a formula is quoted. */
export async function writeQuotesCsv(db: Queries, kitchenId: string, currency: string): Promise<string> {
  const { unparse } = await import('papaparse')
  const rows = await db.rows<Record<string, string | number | null> & { quoted_on: Date }>(
    `SELECT i.name AS item, i.kind, i.animal, s.name AS supplier, q.quoted_on, q.amount, q.per, q.case_count, q.case_grams
     FROM quotes q JOIN items i ON i.id = q.item_id LEFT JOIN suppliers s ON s.id = q.supplier_id
     WHERE q.kitchen_id = :kitchenId ORDER BY i.name, q.quoted_on, q.at, q.id`,
    { kitchenId },
  )
  const lines = rows.map((row) => [
    row.item,
    row.kind,
    row.animal,
    row.supplier ?? '',
    row.quoted_on.toISOString().slice(0, 10),
    row.amount,
    row.per,
    row.case_count ?? '',
    row.case_grams ?? '',
    currency,
  ])
  return `${unparse([csvHeader, ...lines], { escapeFormulae: true })}\r\n`
}
