import type { KitchenRecords } from '../../db/records.ts'
import { csvLine } from '../../http/csv.ts'

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
  return [csvHeader, ...lines].map(csvLine).join('')
}
