import { heaviestTenths } from '@fleam/core/quantities/weight'
import { lookKeys } from '@fleam/core/receiving/delivery-check'
import * as z from 'zod'
import { benchEvent, fishCheck } from './bench.ts'
import { cutSheetBody, jointCostMethod, outputKind, role } from './cut-sheets.ts'
import { animal, readyCutTerms } from './prices.ts'
import { amount, day, id, line, moment, note, pageQuery, price, stamp, storedWeight, version, weightEntry } from './primitives.ts'
import { takenLoad } from './scales.ts'

export const runStatus = z.enum(['open', 'finished', 'turned-away', 'discarded'])

export const temperatureDecision = z.enum(['accept', 'use-at-once', 'turn-away'])
const named = z.object({ id, name: z.string().min(1).max(80) })

export const defectKinds = [
  'gouged meat with the silverskin',
  'over-trimmed',
  'under-trimmed',
  'oyster left on the carcass',
  'breast meat left on the wing or wishbone',
  'hip broken instead of parted',
  'bone chip left in',
  'skin torn',
  'cut with the grain',
  'ragged end face',
  'uneven portions',
  'uneven cutlets at the shoulder end',
  'portions over target',
  'portions under target',
  'blunt knife',
  'side muscle thrown away',
  'carcass thrown away',
  'liquid not weighed',
  'scale not zeroed',
  'string too short',
  'other',
] as const
export const defectKind = z.enum(defectKinds)

const tenths = z.int().positive().max(heaviestTenths)

export const tub = z.object({
  id,
  position: z.int(),
  key: z.string().max(60).nullable(),
  name: z.string().min(1).max(60),
  role,
  kind: outputKind.optional(),
  destination: z.string().max(80),
  targetTenths: tenths.nullable(),
  toleranceTenths: tenths.nullable(),
  typicalPct: z.number().min(0).max(100),
  valuePerKg: z.number().min(0).nullable(),
  separableCost: z.number().min(0),
})
export type Tub = z.infer<typeof tub>

export const weighing = z.object({
  id,
  sequence: z.int(),
  tubId: id,
  tenths,
  entered: z.string().max(40),
  reversesId: id.nullable(),
  /** Which piece of the run it came from, of 1, 2, 3; `null` where the run is pooled. */
  piece: z.int().positive().nullable().default(null),
  /** The weighing that this one moved here from another tub. */
  movedFromId: id.nullable().default(null),
  weighedAt: stamp,
  by: named,
})
export type Weighing = z.infer<typeof weighing>

export const defect = z.object({
  id,
  kind: defectKind,
  note: z.string().max(400),
  /** Title of the step at which it happened. */
  step: z.string().max(60).nullable().default(null),
  at: stamp,
  by: named,
})
export type Defect = z.infer<typeof defect>

/** The figures of a finished run; `null` where nothing carried the cost. Money in the kitchen's currency. */
export const runFigures = z.object({
  mainPct: z.number(),
  usablePct: z.number(),
  unaccountedPct: z.number(),
  netCost: z.number(),
  costPerKg: z.number().nullable(),
  costPerPortion: z.number().nullable(),
  portions: z.int(),
})
export type RunFigures = z.infer<typeof runFigures>

const reasoned = z.object({ reason: z.string(), by: named, at: stamp }).nullable().default(null)

export const runSummary = z.object({
  id,
  number: z.int(),
  version: z.int(),
  status: runStatus,
  item: named.extend({ animal }),
  cutSheet: named.extend({ number: z.int() }),
  supplier: named.nullable(),
  cook: named,
  lot: z.string().max(40),
  received: storedWeight,
  billed: storedWeight,
  minutes: z.number().min(0).nullable(),
  startedAt: stamp,
  finishedAt: stamp.nullable(),
  defectCount: z.int(),
  figures: runFigures.nullable(),
  /** Who leaves it out of the yield book, and why: it stays in the log, and nothing is expected from it. */
  leftOut: reasoned,
})
export type RunSummary = z.infer<typeof runSummary>

const looked = z.partialRecord(z.enum(lookKeys), z.string().max(40))
/** What was looked at when it came, and what was made of it. */
export const deliveryCheck = z.object({
  looked,
  /** `in-part`: some was sent back at the door and is not in the received weight. */
  outcome: z.enum(['taken', 'with-note', 'in-part']),
  note: z.string().max(400),
  refused: storedWeight.nullable().default(null),
  refusedPieces: z.int().min(1).nullable().default(null),
})
export type DeliveryCheck = z.infer<typeof deliveryCheck>

export const quotedPrice = z.object({ price, quotedOn: z.iso.date('Write a day such as 2026-03-14.') })

export const run = runSummary.extend({
  sheet: cutSheetBody,
  pieces: z.int().positive(),
  /** Whether each item is weighed apart, because its own yields matter. */
  byPiece: z.boolean().default(false),
  fish: fishCheck.nullable().default(null),
  deliveryCheck: deliveryCheck.nullable().default(null),
  coreTempC: z.number().nullable(),
  temperature: z.object({ limitC: z.number(), decision: temperatureDecision, note: z.string(), by: named, at: stamp }).nullable(),
  quote: quotedPrice,
  readyCut: z.object({ name: z.string(), terms: readyCutTerms, quote: quotedPrice }).nullable(),
  rates: z.object({
    ratePerHour: z.number().min(0),
    onCostPct: z.number().min(0),
    disposalPerKg: z.number().min(0),
    unaccountedLimitPct: z.number(),
    shortDeliveryLimitPct: z.number(),
  }),
  consumables: z.number().min(0),
  method: jointCostMethod,
  unaccountedReason: z.string().max(400).nullable(),
  /** What claims brought back of what was paid. */
  claimCredit: z.number().default(0),
  finishedBy: named.nullable(),
  /** Who struck the run, and why, where it should not be. */
  discarded: reasoned,
  /** Who opened it again last, and why. */
  reopened: reasoned,
  tubs: z.array(tub),
  weighings: z.array(weighing),
  defects: z.array(defect),
  events: z.array(benchEvent).default([]),
})
export type Run = z.infer<typeof run>

/** What came, as it can be put right later. */
const delivery = z.object({
  itemId: id,
  cutSheetId: id,
  supplierId: id.nullable(),
  lot: z.union([line(40), z.literal('')]).default(''),
  billed: weightEntry,
  received: weightEntry,
  pieces: z.int('Count whole pieces.').min(1, 'At least one piece.').max(1000, 'At most 1,000 pieces.').default(1),
  target: weightEntry.nullable().default(null),
  /** Weights that look wrong were looked at again and stand. */
  weightsChecked: z.boolean().default(false),
})
export const runCreate = delivery.extend({
  id,
  coreTempC: z.number('Type a temperature in °C.').min(-40, 'At least −40 °C.').max(60, 'At most 60 °C.').nullable(),
  temperature: z
    .object({ decision: temperatureDecision, note: z.union([note(400), z.literal('')]).default('') })
    .nullable()
    .default(null),
  byPiece: z.boolean().default(false),
  fish: fishCheck.nullable().default(null),
  deliveryCheck: deliveryCheck
    .extend({
      note: z.union([note(400), z.literal('')]).default(''),
      refused: weightEntry.nullable().default(null),
      refusedPieces: z.int('Count whole pieces.').min(1, 'At least one piece.').max(1000, 'At most 1,000 pieces.').nullable().default(null),
    })
    .nullable()
    .default(null),
  /** The lot that lay whole in the walk-in and is cut now. */
  fromLotId: id.nullable().default(null),
  startedAt: moment,
})

/** Who weighed, where a tablet sends what another person weighed on it; the signed-in person otherwise. */
const weigher = id.optional()
const pieceNumber = z.int('Pieces are counted 1, 2, 3.').min(1).max(1000).nullable().default(null)

export const weighingCreate = z.object({
  id,
  tubId: id,
  weight: weightEntry,
  weighedAt: moment,
  piece: pieceNumber,
  personId: weigher,
  /** Where a scale gave the weight: a load is put into one tub once, whichever tablet asks first. */
  load: takenLoad.nullable().default(null),
})
export const reversalCreate = z.object({ id, reversesId: id, weighedAt: moment, personId: weigher })
/** Moves a weighed piece to another tub, or to another piece of the run: takes it back there and weighs it here, linked, in one. */
export const moveCreate = z.object({
  id,
  reversalId: id,
  weighingId: id,
  tubId: id,
  /** The piece that it came from; as it was unless given. */
  piece: z.int('Pieces are counted 1, 2, 3.').min(1).max(1000).optional(),
  weighedAt: moment,
  personId: weigher,
})
export const move = z.object({ reversal: weighing, weighing })
export type Move = z.infer<typeof move>
export const tubCreate = z.object({ id, name: line(40), role })
export const tubChange = z.object({ valuePerKg: amount.nullable(), separableCost: amount })
export const defectCreate = z
  .object({ id, kind: defectKind, note: z.union([note(400), z.literal('')]).default(''), step: line(60).nullable().default(null) })
  .refine((value) => value.kind !== 'other' || value.note !== '', { path: ['note'], message: 'Say what went wrong.' })
export const runFinish = z.object({
  version,
  minutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(1440, 'That is over a day.'),
  consumables: amount.default(0),
  unaccountedReason: z.union([note(400), z.literal('')]).default(''),
})
export const runCorrect = delivery.extend({ version })
/** Puts a finished run right without opening it: what came, what was weighed, how long it took. */
export const runPutRight = delivery.omit({ itemId: true, cutSheetId: true }).extend({
  version,
  reason: note(400),
  minutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(1440, 'That is over a day.'),
  consumables: amount,
  unaccountedReason: z.union([note(400), z.literal('')]).default(''),
  moved: z
    .array(z.object({ weighingId: id, tubId: id }))
    .max(500)
    .default([]),
  takenBack: z.array(id).max(500).default([]),
  added: z
    .array(z.object({ tubId: id, weight: weightEntry, piece: pieceNumber }))
    .max(500)
    .default([]),
})
/** A run that was written down on paper, entered all at once: what came, every weight, how long it took. */
export const runFromPaper = runCreate.omit({ fromLotId: true }).extend({
  /** Who cut it; the signed-in person unless given. */
  cookId: id.optional(),
  weighings: z
    .array(z.object({ id, outputKey: line(60), weight: weightEntry }))
    .min(1, 'Type what was weighed.')
    .max(2000, 'At most 2,000 weighings at once.'),
  minutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(1440, 'That is over a day.'),
  consumables: amount.default(0),
  unaccountedReason: z.union([note(400), z.literal('')]).default(''),
})
export const runDiscard = z.object({ version, reason: note(400) })
export const runReopen = z.object({ version, reason: note(400) })
/** Leaves a finished run out of the yield book, with the reason, or takes it in again. */
export const runLeaveOut = z.object({ version, reason: note(400).nullable() })

export const runSorts = ['newest', 'oldest', 'main-yield', 'cost-per-kg', 'unaccounted'] as const
export const runFilter = z.object({
  itemId: id.optional(),
  cookId: id.optional(),
  supplierId: id.optional(),
  status: runStatus.optional(),
  from: day.optional(),
  to: day.optional(),
})
export const runQuery = pageQuery.extend(runFilter.shape).extend({ sort: z.enum(runSorts).default('newest') })
export type RunQuery = z.infer<typeof runQuery>
