import { heaviestTenths, type Tenths, type WeightUnit } from './weight.ts'

export type ParsedWeight = { ok: true; tenths: Tenths; entered: string } | { ok: false; message: string }

const longestEntry = 40
const unitWords: Record<string, WeightUnit> = {
  g: 'g',
  gr: 'g',
  gram: 'g',
  grams: 'g',
  kg: 'kg',
  kilo: 'kg',
  kilos: 'kg',
  lb: 'lb',
  lbs: 'lb',
  oz: 'oz',
}
/** One unit as a fraction of a tenth of a gram, in hundred-thousandths of a gram for the pound: 45 359 237 / 10 000. */
const tenthsPerUnit: Record<WeightUnit, { over: bigint; under: bigint }> = {
  g: { over: 10n, under: 1n },
  kg: { over: 10_000n, under: 1n },
  lb: { over: 45_359_237n, under: 10_000n },
  oz: { over: 45_359_237n, under: 160_000n },
}

/**
 * Reads a weight as a cook types it: `184`, `184 g`, `1.25kg`, `1,25 kg`, `1 250 g`, `1,250.5 g`, `2 lb 3.5 oz`.
 * A point or a comma is a decimal sign, save before three digits of grams: those are thousands. Where three digits could be
 * either, as in `1,250 oz`, the weight is refused, never guessed. A bare number after pounds is ounces. Pounds and ounces are rounded to the nearest 0.1 g; grams finer than that are refused.
 * The arithmetic is exact (integers), whatever the unit.
 *
 * @param text what was typed, at most 40 characters
 * @param defaultUnit unit of a bare number; without it a bare number is refused
 * @returns tenths of a gram and the entry with its unit, or a sentence that says what is wrong
 * @example parseWeight('1,25 kg') // { ok: true, tenths: 12500, entered: '1,25 kg' }
 */
export function parseWeight(text: string, defaultUnit?: WeightUnit): ParsedWeight {
  if (text.length > longestEntry) return refuse(`A weight has at most ${longestEntry} characters, such as 2 lb 3.5 oz.`)
  const entry = text.trim().replace(/\s+/g, ' ').toLowerCase()
  if (entry === '') return refuse('Type a weight.')
  if (entry.startsWith('-') || entry.startsWith('−')) return refuse('A weight cannot be less than nothing.')
  const parts = readParts(entry)
  if (parts === undefined) return refuse(explain(entry))
  const bareUnit = parts.length === 1 ? defaultUnit : parts[0]?.unit === 'lb' ? 'oz' : undefined
  const withUnits = parts.map((part) => asThousands({ ...part, unit: part.unit ?? bareUnit }))
  const [first, second] = withUnits
  if (!first?.unit) return refuse('Say the unit too: g, kg, lb or oz.')
  if (second && !(first.unit === 'lb' && second.unit === 'oz' && !first.fraction)) {
    return refuse('Only whole pounds and ounces go together, such as 2 lb 3.5 oz.')
  }
  if (withUnits.some(isEither)) return refuse('Three figures after the sign could be thousands: leave out the sign, or write fewer.')
  let over = 0n
  const under = 160_000n * 10n ** 9n
  for (const part of withUnits) over += scaled(part.whole, part.fraction, part.unit as WeightUnit, under)
  if (isMetric(first.unit) && over % under !== 0n) return refuse('Weights go down to 0.1 g: leave out the finer figures.')
  const tenths = Number((2n * over + under) / (2n * under))
  if (tenths < 1) return refuse('The smallest weight is 0.1 g.')
  if (tenths > heaviestTenths) return refuse('That is over 500 kg: check the figure and its unit.')
  return { ok: true, tenths, entered: withUnits.map(written).join(' ') }
}

type Part = { whole: string; sign: string; fraction: string; unit: WeightUnit | undefined }

function readParts(entry: string): Part[] | undefined {
  const pattern = /(\d[\d ]*(?:[.,]\d{3}(?=[.,]\d))*)?(?:([.,])(\d*))? ?([a-z]+)?/y
  const parts: Part[] = []
  while (pattern.lastIndex < entry.length && parts.length < 3) {
    const match = pattern.exec(entry)
    if (!match || match[0] === '') return undefined
    const [, wholeText = '', sign, fraction = '', word] = match
    if (wholeText.trim() === '' && fraction === '') return undefined
    if (word !== undefined && unitWords[word] === undefined) return undefined
    if (fraction.length > 9 || wholeText.length > 12 || (sign && wholeText.includes(sign))) return undefined
    const whole = readWhole(wholeText)
    if (whole === undefined) return undefined
    parts.push({ whole, sign: fraction === '' ? '' : (sign ?? ''), fraction, unit: word === undefined ? undefined : unitWords[word] })
    while (entry[pattern.lastIndex] === ' ') pattern.lastIndex += 1
    if (word === undefined && pattern.lastIndex < entry.length) return undefined
  }
  return pattern.lastIndex >= entry.length && parts.length <= 2 ? parts : undefined
}

function readWhole(text: string): string | undefined {
  const signs = new Set(text.match(/[.,]/g))
  const groups = text.trim().split(/[ .,]/)
  if (signs.size > 1 || ((groups[0]?.length ?? 0) > 3 && groups.length > 1)) return undefined
  if (groups.length > 1 && !groups.slice(1).every((group) => group.length === 3)) return undefined
  return groups.join('')
}

/** Grams go down to a tenth, so that three figures after a sign can only be thousands: `12,500 g`. */
function asThousands(part: Part): Part {
  if (part.unit !== 'g' || !mayBeThousands(part)) return part
  return { ...part, whole: part.whole + part.fraction, sign: '', fraction: '' }
}

/** Kilos and pounds by the thousand are over what is weighed here; ounces are not. */
function isEither(part: Part): boolean {
  return part.unit === 'oz' && mayBeThousands(part)
}

function mayBeThousands({ whole, fraction }: Part): boolean {
  return fraction.length === 3 && /^[1-9]\d{0,2}$/.test(whole)
}

function scaled(whole: string, fraction: string, unit: WeightUnit, under: bigint): bigint {
  const digits = BigInt((whole || '0') + fraction.padEnd(9, '0'))
  const factor = tenthsPerUnit[unit]
  return (digits * factor.over * (under / 10n ** 9n)) / factor.under
}

function explain(entry: string): string {
  if (/[.,]\d*[.,]/.test(entry)) return 'There are two decimal signs: write 1.25 kg or 1,25 kg.'
  const word = /^[\d .,]+([a-z]+)/.exec(entry)?.[1]
  if (word && unitWords[word] === undefined) return `“${word.slice(0, 10)}” is not a unit here: use g, kg, lb or oz.`
  return 'Write a weight such as 184 g, 1.25 kg or 2 lb 3.5 oz.'
}

function isMetric(unit: WeightUnit): boolean {
  return unit === 'g' || unit === 'kg'
}

function written(part: Part): string {
  return `${part.whole || '0'}${part.sign}${part.fraction} ${part.unit}`
}

function refuse(message: string): ParsedWeight {
  return { ok: false, message }
}
