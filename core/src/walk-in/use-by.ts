import { InputError } from '../input-error.ts'
import { isCooked, type Keeping, type KeptKind } from './keeping.ts'

/** Where a lot's clock stands. A thawed one is not frozen again raw. */
export type LotState = 'chilled' | 'frozen' | 'thawed'

/** A lot's date, and of a frozen one the chilled days that were left when its clock stopped. Days are `2026-03-14`. */
export interface Clock {
  state: LotState
  useBy: string
  chilledDaysLeft: number | null
}

/**
 * A calendar day some days later or earlier.
 * @example daysAfter('2026-02-27', 2) // '2026-03-01'
 */
export function daysAfter(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10)
}

/**
 * Whole days from one calendar day to another.
 * @example daysBetween('2026-03-28', '2026-03-30') // 2
 */
export function daysBetween(from: string, to: string): number {
  return Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000)
}

/**
 * The date of something packed: the house's days of its kind, no longer than anything it was made of, nor than a date printed
 * on its box. Section 9 of the calculations: min(packed + days, every input, every printed date).
 *
 * @param madeOf dates of what it was made of
 * @param printed dates on boxes and labels
 * @example useBy('raw poultry', '2026-03-14', usualKeeping, { madeOf: ['2026-03-15'] }) // '2026-03-15'
 */
export function useBy(
  kind: KeptKind,
  packedOn: string,
  keeping: Keeping,
  { madeOf = [], printed = [] }: { madeOf?: readonly string[]; printed?: readonly string[] } = {},
): string {
  const bounds = isCooked(kind) && keeping.cookedBeginsAnew ? printed : [...madeOf, ...printed]
  return earliest([daysAfter(packedOn, keeping.kinds[kind].chilledDays), ...bounds])
}

/**
 * Freezing stops the clock: the chilled days that are left stay, and the date is the frozen quality date of the kind.
 * @throws InputError where it is frozen already, was thawed, or is past its date
 * @example frozen({ state: 'chilled', useBy: '2026-03-17', chilledDaysLeft: null }, 'stock', '2026-03-14', usualKeeping).chilledDaysLeft // 3
 */
export function frozen(clock: Clock, kind: KeptKind, today: string, keeping: Keeping): Clock {
  if (clock.state === 'frozen') throw new InputError('what', 'It is frozen already.')
  if (clock.state === 'thawed') throw new InputError('what', 'It was thawed: it is not frozen again raw.')
  const left = daysBetween(today, clock.useBy)
  if (left < 0) throw new InputError('what', `Its date was ${clock.useBy}: what is past its date is not frozen.`)
  return { state: 'frozen', useBy: daysAfter(today, keeping.kinds[kind].frozenDays), chilledDaysLeft: left }
}

/**
 * Thawing starts the house's thawed days, never more than were left when it was frozen, nor past its frozen date.
 * @throws InputError where it is not frozen, or past its frozen date
 * @example thawed({ state: 'frozen', useBy: '2026-07-12', chilledDaysLeft: 3 }, '2026-05-01', usualKeeping).useBy // '2026-05-02'
 */
export function thawed(clock: Clock, today: string, keeping: Keeping): Clock {
  if (clock.state !== 'frozen') throw new InputError('what', clock.state === 'thawed' ? 'It was thawed already.' : 'It is not frozen.')
  if (clock.useBy < today)
    throw new InputError('what', `Its frozen date was ${clock.useBy}: throw it away, or a lead keeps it with a reason.`)
  const days = Math.min(keeping.thawedDays, clock.chilledDaysLeft ?? keeping.thawedDays)
  return { state: 'thawed', useBy: earliest([daysAfter(today, days), clock.useBy]), chilledDaysLeft: null }
}

/** Days are text that sorts as they come. */
const earliest = (days: readonly string[]): string => [...days].sort()[0] as string
