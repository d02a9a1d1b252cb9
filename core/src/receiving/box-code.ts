import { type ParsedElement, parseBarcode } from 'gs1-barcode-parser-mod'
import { gramsPerPound, type Tenths } from '../quantities/weight.ts'

/** What the code of a supplier's box says. */
export interface BoxCode {
  /** The trade item, 14 digits. */
  gtin: string | null
  /** Net weight. */
  tenths: Tenths | null
  /** Pieces in it. */
  count: number | null
  lot: string
  /** Days, `2026-03-14`. */
  packedOn: string | null
  bestBefore: string | null
  useBy: string | null
  /** What else it says, by title. */
  others: { title: string; text: string }[]
  /** What follows what could be read, as it stands in the code; empty where all could. */
  unread: string
  /** What is wrong with it, in sentences; empty where nothing is. */
  troubles: string[]
}

const longestCode = 200
const groupSeparator = '\u001d'

/**
 * Reads a GS1 element string, as a scanner types it or a camera sees it: GS1-128 or DataMatrix, with a symbology identifier or without, its
 * parts parted by the group separator, or written in brackets. What is odd, cut off or unknown leaves what stands before it read.
 *
 * Source: GS1 General Specifications, application identifiers 01, 02, 10, 11, 13, 15, 17, 30, 37, 310n and 320n; parsed by
 * gs1-barcode-parser-mod.
 * @returns `undefined` where nothing of it is a GS1 element string
 * @example readBoxCode('(01)09501101530003(3103)004350(10)H132')?.tenths // 43_500
 */
export function readBoxCode(text: string): BoxCode | undefined {
  let code = text.trim().replace(/^\](C1|d2|e0|Q3)/, '')
  while (code.startsWith(groupSeparator)) code = code.slice(1)
  if (code === '' || code.length > longestCode) return undefined
  const found = longestRead(code)
  if (!found) return undefined
  const box: BoxCode = {
    ...{ gtin: null, tenths: null, count: null, lot: '', packedOn: null, bestBefore: null, useBy: null },
    ...{ others: [], unread: found.unread, troubles: [] },
  }
  for (const element of found.elements) take(box, element)
  if (found.unread !== '')
    box.troubles.push(`“${found.unread.replaceAll(groupSeparator, ' ')}” could not be read: it is cut off, or is something else.`)
  return box
}

/** All of it, or as much from its beginning as can be read. */
function longestRead(code: string): { elements: ParsedElement[]; unread: string } | undefined {
  for (let length = code.length; length > 2; length -= 1) {
    // a number that goes on is not its end
    if (length < code.length && isInside(code, length)) continue
    try {
      const { parsedCodeItems } = parseBarcode(code.slice(0, length))
      if (parsedCodeItems.length > 0) return { elements: parsedCodeItems, unread: code.slice(length) }
    } catch {
      // tried with less of it
    }
  }
  return undefined
}

/** Whether the code in brackets is cut anywhere but before a bracket. */
const isInside = (code: string, at: number): boolean => code.includes('(') && code[at] !== '('

function take(box: BoxCode, { ai, dataTitle, data, unit, isoDate, raw }: ParsedElement): void {
  const text = String(data)
  if (ai === '01' || ai === '02') {
    if (!isGtin(text)) box.troubles.push(`The item number ${text} is not one: its last digit does not go with the others.`)
    else box.gtin = text
  } else if (/^3(10|20)\d$/.test(ai) && typeof data === 'number') {
    const grams = unit === 'KGM' ? data * 1000 : data * gramsPerPound
    box.tenths = Math.round(grams * 10)
    if (box.tenths === 0) box.troubles.push('It says that it weighs nothing.')
  } else if (ai === '30' || ai === '37') {
    const count = Number(text)
    if (Number.isInteger(count) && count > 0) box.count = count
    else box.troubles.push(`“${text}” is no number of pieces.`)
  } else if (ai === '10') box.lot = text.slice(0, 40)
  else if (ai in dayOf) {
    const isDay = isoDate.slice(2, 7).replace('-', '') === (raw ?? '').slice(0, 4)
    if (isDay) box[dayOf[ai as keyof typeof dayOf]] = isoDate
    else box.troubles.push(`${dataTitle} “${raw}” is no day.`)
  } else box.others.push({ title: dataTitle, text })
}

const dayOf = { '11': 'packedOn', '13': 'packedOn', '15': 'bestBefore', '17': 'useBy' } as const

/** Whether the last of 14 digits goes with the others: three times every second from the left, to the next ten. */
function isGtin(digits: string): boolean {
  if (!/^\d{14}$/.test(digits)) return false
  const sum = [...digits].reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 3 : 1), 0)
  return sum % 10 === 0
}
