import { keptKinds } from '@fleam/core/walk-in/keeping'
import { takenFor } from '@fleam/core/walk-in/lot'
import * as z from 'zod'
import { amountUnit } from './calc.ts'
import { animal } from './prices.ts'
import { day, id, line, moment, note, stamp } from './primitives.ts'
import { wholeOf } from './receiving.ts'

export const keptKind = z.enum(keptKinds)
export const lotState = z.enum(['chilled', 'frozen', 'thawed'])
const named = z.object({ id, name: z.string() })

/** Allergens that food law commonly asks to be named; local law comes first. */
export const allergens = [
  'celery',
  'crustaceans',
  'egg',
  'fish',
  'gluten',
  'lupin',
  'milk',
  'molluscs',
  'mustard',
  'nuts',
  'peanuts',
  'sesame',
  'soy',
  'sulphites',
] as const
export const allergen = z.enum(allergens)

/** Something of one origin, in one place, with one date. Amounts in tenths of its unit: of a gram, a millilitre, a piece. */
export const lot = z.object({
  id,
  number: z.int(),
  version: z.int(),
  name: z.string(),
  kind: keptKind,
  animal: animal.nullable(),
  /** Key of the cut sheets' outputs that it is one of. */
  outputKey: z.string().nullable(),
  unit: amountUnit,
  packedTenths: z.int(),
  leftTenths: z.int(),
  packedPortions: z.int().nullable(),
  leftPortions: z.int().nullable(),
  place: z.string(),
  state: lotState,
  packedOn: z.string(),
  useBy: z.string(),
  chilledDaysLeft: z.int().nullable(),
  allergens: z.array(allergen),
  /** Bonded, rolled or stuffed: what was outside is inside. */
  isFormed: z.boolean(),
  isBlocked: z.boolean(),
  /** What was packed costs, in the kitchen's currency; `null` until its run is finished. */
  cost: z.number().nullable(),
  /** Where it comes from: a run or a follow-on. */
  run: z.object({ id, number: z.int(), item: z.string() }).nullable(),
  followOn: z.object({ id, number: z.int() }).nullable(),
  /** What was bought, where it lies there whole and waits to be cut. */
  whole: wholeOf.nullable().default(null),
  /** The supplier's lot that it leads back to. */
  supplierLot: z.string(),
  by: named,
  packedAt: stamp,
})
export type Lot = z.infer<typeof lot>

const tenths = z.int('Weigh to 0.1 g.').min(0, 'An amount cannot be negative.').max(50_000_000, 'That is over 5,000 kg or litres.')
const some = tenths.min(1, 'Say how much.').nullable().default(null)
const portions = z.int('Count whole portions.').min(0, 'Portions are 0 or more.').max(100_000, 'At most 100,000 portions.')
const somePortions = portions.min(1, 'At least one portion.').nullable().default(null)
const place = line(40)
const reason = note(200)

export const lotHappening = z
  .discriminatedUnion('kind', [
    z.object({
      kind: z.literal('take'),
      tenths: some,
      portions: somePortions,
      /** A follow-on and a run take for themselves, when they are started. */
      takenFor: z.enum(takenFor).exclude(['follow-on', 'run']),
      /** The dish, or why it was thrown away. */
      note: z.union([reason, z.literal('')]).default(''),
    }),
    z.object({ kind: z.literal('put'), place }),
    z.object({ kind: z.literal('freeze'), place }),
    z.object({ kind: z.literal('thaw'), place }),
    z.object({ kind: z.literal('count'), tenths, portions: portions.nullable().default(null), note: reason }),
    z.object({ kind: z.literal('split'), lotId: id, tenths: some, portions: somePortions, place }),
    z.object({ kind: z.literal('keep'), useBy: day, note: reason }),
    z.object({ kind: z.literal('block'), note: reason }),
    z.object({ kind: z.literal('release'), note: reason }),
  ])
  .refine((what) => what.kind !== 'take' || what.takenFor !== 'thrown away' || what.note !== '', {
    path: ['note'],
    message: 'Say why it is thrown away.',
  })

export const lotMoveCreate = z.object({ id, what: lotHappening, at: moment, personId: id.optional() })
export const lotUndo = z.object({ id, moveId: id, at: moment, personId: id.optional() })

/** A line of a lot's books: what happened, and what it added or took away. */
export const lotMove = z.object({
  id,
  sequence: z.int(),
  kind: z.enum(['packed', 'take', 'put', 'freeze', 'thaw', 'count', 'split', 'keep', 'block', 'release', 'undo']),
  tenths: z.int(),
  portions: z.int(),
  takenFor: z.enum(takenFor).nullable(),
  note: z.string(),
  undoesId: id.nullable(),
  followOnId: id.nullable(),
  at: stamp,
  by: named,
})
export type LotMove = z.infer<typeof lotMove>

export const lotWithMoves = lot.extend({ moves: z.array(lotMove) })
export type LotWithMoves = z.infer<typeof lotWithMoves>

/** Some of a tub, put away as so many packs. */
const put = z.object({
  id,
  tubId: id,
  tenths: tenths.min(1, 'Say how much.'),
  portions: somePortions,
  kind: keptKind,
  state: z.enum(['chilled', 'frozen']),
  place,
  allergens: z.array(allergen).max(14).default([]),
  isFormed: z.boolean().default(false),
})
export const putAway = z.object({ lots: z.array(put).min(1, 'Say what is put away.').max(60, 'At most 60 packs at once.') })
export type PutAway = z.infer<typeof putAway>

/** What was thrown away in a week, by kind and reason, in the kitchen's currency. */
export const thrownAway = z.object({ week: z.string(), kind: keptKind, reason: z.string(), cost: z.number(), grams: z.number() })
/** Portions of one name that were packed in these weeks, how many of them were thrown away, and what all of them cost. */
export const portionsEaten = z.object({ name: z.string(), packed: z.int(), thrown: z.int(), cost: z.number() })
export type PortionsEaten = z.infer<typeof portionsEaten>
export type ThrownAway = z.infer<typeof thrownAway>
