import { InputError } from '../input-error.ts'
import type { Keeping, KeptKind } from './keeping.ts'
import { type Clock, frozen, thawed } from './use-by.ts'

/** How a lot stands. Amounts in tenths of its unit: of a gram, a millilitre, or a piece. */
export interface LotStand extends Clock {
  kind: KeptKind
  leftTenths: number
  /** Portions that are left, where they were counted. */
  leftPortions: number | null
  place: string
  isBlocked: boolean
}

export const takenFor = ['dish', 'follow-on', 'run', 'staff', 'thrown away'] as const
export type TakenFor = (typeof takenFor)[number]

/** What can happen to a lot. */
export type LotHappening =
  | { kind: 'take'; tenths: number | null; portions: number | null; takenFor: TakenFor; note: string }
  | { kind: 'put'; place: string }
  | { kind: 'freeze'; place: string }
  | { kind: 'thaw'; place: string }
  | { kind: 'count'; tenths: number; portions: number | null; note: string }
  | { kind: 'split'; lotId: string; tenths: number | null; portions: number | null; place: string }
  | { kind: 'keep'; useBy: string; note: string }
  | { kind: 'block'; note: string }
  | { kind: 'release'; note: string }

/** What a happening makes of a lot, and what it adds to it (negative where it takes away). */
export interface LotChange {
  after: LotStand
  tenths: number
  portions: number
}

/**
 * How a lot stands after something has happened to it. The same on the tablet, where it is shown before the server has it, and
 * on the server, which decides.
 *
 * @param today the kitchen's calendar day, `2026-03-14`
 * @throws InputError naming the field, where it cannot be
 */
export function happen(lot: LotStand, what: LotHappening, today: string, keeping: Keeping): LotChange {
  const unchanged = { tenths: 0, portions: 0 }
  switch (what.kind) {
    case 'take':
      refuseUnusable(lot, what.takenFor, today)
      return less(lot, what)
    case 'split':
      return less(lot, what)
    case 'put':
      return { after: { ...lot, place: what.place }, ...unchanged }
    case 'freeze':
      return { after: { ...lot, ...frozen(lot, lot.kind, today, keeping), place: what.place }, ...unchanged }
    case 'thaw':
      return { after: { ...lot, ...thawed(lot, today, keeping), place: what.place }, ...unchanged }
    case 'count': {
      const { tenths, portions } = what
      if ((portions === null) !== (lot.leftPortions === null))
        throw new InputError('what.portions', lot.leftPortions === null ? 'It was not counted in portions.' : 'Count the portions too.')
      if (tenths === 0 && (portions ?? 0) > 0) throw new InputError('what.tenths', 'Portions weigh something: weigh them, or count none.')
      const after = { ...lot, leftTenths: tenths, leftPortions: portions }
      return { after, tenths: tenths - lot.leftTenths, portions: (portions ?? 0) - (lot.leftPortions ?? 0) }
    }
    case 'keep':
      if (lot.state === 'frozen') throw new InputError('what.useBy', 'It is frozen: thaw it first.')
      if (what.useBy < today) throw new InputError('what.useBy', 'That day is past already.')
      return { after: { ...lot, useBy: what.useBy }, ...unchanged }
    case 'block':
      if (lot.isBlocked) throw new InputError('what', 'It is blocked already.')
      return { after: { ...lot, isBlocked: true }, ...unchanged }
    case 'release':
      if (!lot.isBlocked) throw new InputError('what', 'It is not blocked.')
      return { after: { ...lot, isBlocked: false }, ...unchanged }
  }
}

/** What is past its date or called back can be thrown away and nothing else. */
function refuseUnusable(lot: LotStand, takenFor: TakenFor, today: string): void {
  if (takenFor === 'thrown away') return
  if (lot.isBlocked) throw new InputError('what', 'It is called back: it can be thrown away, or a lead releases it.')
  if (lot.useBy < today) throw new InputError('what', `Its date was ${lot.useBy}: throw it away, or a lead keeps it with a reason.`)
  if (lot.state === 'frozen' && takenFor === 'dish') throw new InputError('what', 'It is frozen: thaw it first.')
}

/** All that is left, some of it by amount, or some by portions, each of the two following the other. */
function less(lot: LotStand, { tenths, portions }: { tenths: number | null; portions: number | null }): LotChange {
  const { leftTenths, leftPortions } = lot
  if (leftTenths <= 0) throw new InputError('what', 'Nothing is left of it.')
  if (portions !== null) {
    if (leftPortions === null) throw new InputError('what.portions', 'It was not counted in portions: say how much.')
    if (portions > leftPortions) throw new InputError('what.portions', `Only ${leftPortions} are left.`)
  }
  const share = portions === null ? leftTenths : Math.round((leftTenths * portions) / (leftPortions as number))
  const taken = tenths ?? share
  if (taken > leftTenths) throw new InputError('what.tenths', 'That is more than is left.')
  const isAll = taken === leftTenths
  const counted =
    portions ?? (isAll ? leftPortions : leftPortions && Math.min(leftPortions, Math.round((leftPortions * taken) / leftTenths)))
  const gone = isAll ? (leftPortions ?? 0) : (counted ?? 0)
  const after = { ...lot, leftTenths: leftTenths - taken, leftPortions: leftPortions === null ? null : leftPortions - gone }
  return { after, tenths: 0 - taken, portions: 0 - gone }
}
