import { formatMoney } from '../quantities/format-money.ts'
import { formatWeight } from '../quantities/format-weight.ts'
import type { Tenths, WeightSystem } from '../quantities/weight.ts'

/** What is said to a supplier. */
export interface ClaimFacts {
  number: number
  kinds: readonly string[]
  words: string
  asked: number
  item: string
  supplier: string | null
  lot: string
  /** The day that it came, as the kitchen writes days. */
  cameOn: string
  billedTenths: Tenths
  receivedTenths: Tenths
  coreTempC: number | null
  limitC: number | null
}

/**
 * A claim as lines of plain text, to print, send or copy.
 * @example claimLines({ number: 3, kinds: ['short weight'], words: '', asked: 4, item: 'Loin', supplier: null, lot: '', cameOn: '1 May 2026', billedTenths: 20_000, receivedTenths: 19_500, coreTempC: null, limitC: null }, { kitchen: 'Saltmarsh House', currency: 'EUR', weightSystem: 'metric' })[0] // 'Claim 3 of Saltmarsh House'
 */
export function claimLines(
  facts: ClaimFacts,
  { kitchen, currency, weightSystem }: { kitchen: string; currency: string; weightSystem: WeightSystem },
): string[] {
  const { number, kinds, words, asked, item, supplier, lot, cameOn, billedTenths, receivedTenths, coreTempC, limitC } = facts
  const weight = (tenths: Tenths) => formatWeight(tenths, weightSystem)
  const short = billedTenths - receivedTenths
  return [
    `Claim ${number} of ${kitchen}`,
    `To: ${supplier ?? 'supplier not noted'}`,
    `Delivered: ${cameOn}. ${item}${lot ? `, lot ${lot}` : ''}`,
    `Wrong: ${kinds.join(', ')}`,
    `Billed ${weight(billedTenths)}, received ${weight(receivedTenths)}${short > 0 ? `, short ${weight(short)} (${((short / billedTenths) * 100).toFixed(1)} %)` : ''}`,
    ...(coreTempC === null ? [] : [`Core at receiving ${coreTempC} °C${limitC === null ? '' : `, our limit ${limitC} °C`}`]),
    ...(words === '' ? [] : [words]),
    `Asked for: ${formatMoney(asked, currency)}`,
  ]
}
