import type { Item, PriceListReading, PriceListReport, priceListImport } from '@fleam/contract/prices'
import { price as priceSchema } from '@fleam/contract/primitives'
import { InputError } from '@fleam/core/input-error'
import { priceMove } from '@fleam/core/prices/price-move'
import { parseAmount } from '@fleam/core/quantities/parse-amount'
import { parseWeight } from '@fleam/core/quantities/parse-weight'
import type { Price } from '@fleam/core/quantities/price'
import { gramsOf } from '@fleam/core/quantities/weight'
import papa from 'papaparse'
import type { z } from 'zod'

export type ImportAsked = z.infer<typeof priceListImport>
type Problem = PriceListReport['problems'][number]
export type Line = PriceListReport['lines'][number]

const mostLines = 5000
const mostColumns = 60
const longestCell = 300
/** A price five times the last, or a fifth of it, in percent of change: a figure lost or doubled, most likely. */
const oddMove = { up: 400, down: -80 }
export interface Csv {
  delimiter: string
  header: string[]
  /** Every line after the header that has something in it, with its number in the file. */
  rows: { line: number; cells: string[] }[]
}

/** Reads a list's lines; a header that names a column twice or a line that is no CSV is refused, with its place. */
export function readCsv({ text, separator }: { text: string; separator: PriceListReading['separator'] }): Csv {
  const { data, errors, meta } = papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false, delimiter: separator })
  const quoting = errors.find((error) => error.type === 'Quotes')
  if (quoting)
    throw new InputError('text', `Line ${(quoting.row ?? 0) + 1} has a quotation mark that is not closed: put it right in the file.`)
  let line = 1
  const numbered = data.map((cells) => {
    const at = line
    line += 1 + cells.reduce((sum, cell) => sum + (cell.match(/\n/g)?.length ?? 0), 0)
    return { line: at, cells: cells.map((cell) => cell.trim()) }
  })
  const filled = numbered.filter(({ cells }) => cells.some((cell) => cell !== ''))
  const [first, ...rows] = filled
  if (!first || rows.length === 0)
    throw new InputError('text', 'There is no line under the header: a price list has a header and a line an article.')
  if (rows.length > mostLines) throw new InputError('text', `The list has ${rows.length} lines: read in at most ${mostLines} at once.`)
  if (first.cells.length > mostColumns)
    throw new InputError(
      'text',
      `The list has ${first.cells.length} columns: leave those out that Fleam does not read, at most ${mostColumns}.`,
    )
  const long = filled.find(({ cells }) => cells.some((cell) => cell.length > longestCell))
  if (long) throw new InputError('text', `Line ${long.line} has a cell of over ${longestCell} characters: is it a price list?`)
  const header = first.cells.map((name, index) => name || `column ${index + 1}`)
  const twice = header.find((name, index) => header.indexOf(name) !== index)
  if (twice) throw new InputError('text', `Two columns are headed “${twice}”: give them different names in the file.`)
  return { delimiter: meta.delimiter, header, rows }
}

export function readLines(
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

export function isSame(before: Price | null, after: Price): boolean {
  return (
    before !== null &&
    before.amount === after.amount &&
    before.per === after.per &&
    before.count === after.count &&
    before.grams === after.grams
  )
}
