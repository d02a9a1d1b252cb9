import * as z from 'zod'
import { jointCostMethod, outputKind, role } from './cut-sheets.ts'
import { amount, percent, price } from './primitives.ts'

const most = 5_000_000
const grams = z.number('Type a weight in grams.').min(0, 'A weight cannot be negative.').max(most, 'That is over 5 t: check the weight.')
const gramsOver0 = grams.positive('This must be over 0 g.')
const minutes = z.number().min(0, 'Minutes are 0 or more.').max(100_000)
const wage = { ratePerHour: amount, onCostPct: z.number().min(0).max(300) }

export const yieldTestRequest = z.object({
  purchase: z.object({
    billedGrams: gramsOver0,
    receivedGrams: gramsOver0,
    pieces: z.int().min(1).max(100_000).default(1),
    price,
    claimCredit: amount.default(0),
  }),
  method: jointCostMethod,
  labour: z.object({ minutes, ...wage }),
  consumables: amount.default(0),
  disposalPerKg: amount.default(0),
  outputs: z
    .array(
      z.object({
        id: z.string().min(1).max(100),
        name: z.string().max(200).default(''),
        role,
        kind: outputKind.optional(),
        grams,
        count: z.int().min(0).max(1_000_000).optional(),
        valuePerKg: amount.optional(),
        separableCost: amount.optional(),
      }),
    )
    .min(1, 'A yield test has at least one output.')
    .max(500),
})

const outputCost = z.object({
  id: z.string(),
  cost: z.number(),
  costPerKg: z.number().nullable(),
  costPerPortion: z.number().nullable(),
  costFactorPerKg: z.number().nullable(),
  costFactorPerPortion: z.number().nullable(),
})
export const yieldTestAnswer = z.object({
  cost: z.object({
    purchase: z.number(),
    labour: z.number(),
    consumables: z.number(),
    disposal: z.number(),
    gross: z.number(),
    credit: z.number(),
    net: z.number(),
    purchasePerKg: z.number(),
  }),
  grams: z.object({
    billed: z.number(),
    received: z.number(),
    short: z.number(),
    main: z.number(),
    coproduct: z.number(),
    byproduct: z.number(),
    waste: z.number(),
    weighed: z.number(),
    unaccounted: z.number(),
  }),
  yields: z.object({ mainPct: z.number(), usablePct: z.number(), wastePct: z.number(), unaccountedPct: z.number() }),
  outputs: z.array(outputCost),
})

export const portionsRequest = z.object({
  weights: z.array(gramsOver0).min(1, 'There are no portions to look at.').max(10_000),
  target: gramsOver0,
  tolerance: grams,
  costPerKg: amount.optional(),
})
export const portionsAnswer = z.object({
  count: z.int(),
  mean: z.number(),
  sd: z.number().nullable(),
  cvPct: z.number().nullable(),
  min: z.number(),
  max: z.number(),
  under: z.int(),
  within: z.int(),
  over: z.int(),
  giveawayGrams: z.number(),
  giveawayCost: z.number().nullable(),
  portionsForgone: z.int(),
})

export const pairPiecesRequest = z.object({
  pieces: z.array(gramsOver0).min(1, 'There are no pieces.').max(500, 'At most 500 pieces at once.'),
  perPortion: z.int().min(1, 'A portion has one piece or more.').max(20, 'At most 20 pieces a portion.'),
})
export const pairPiecesAnswer = z.object({
  portions: z.array(z.object({ pieces: z.array(z.int()), grams: z.number() })),
  left: z.array(z.int()),
  spreadGrams: z.number(),
  exact: z.boolean(),
})

const underAll = percent.lt(100, 'This is under 100 %.')
export const makeOrBuyRequest = z.object({
  item: z.object({ grams: gramsOver0, price }),
  yieldPct: percent.positive('A yield is over 0 %.'),
  portionGrams: gramsOver0,
  overServedPct: z.number().min(-90).max(900).default(0),
  panLossPct: underAll.default(0),
  lossPct: underAll.default(0),
  byproducts: z
    .array(z.object({ pct: percent, valuePerKg: amount }))
    .max(100)
    .default([]),
  wastePct: percent.default(0),
  disposalPerKg: amount.default(0),
  labour: z.object({
    minutesPerItem: minutes,
    setupMinutes: minutes.default(0),
    itemsPerBatch: z.number().positive().max(100_000).default(1),
    ...wage,
  }),
  consumablesPerItem: amount.default(0),
  buy: z
    .object({
      price,
      portionGrams: gramsOver0,
      trimPct: underAll.default(0),
      lossPct: underAll.default(0),
      panLossPct: underAll.default(0),
      feePerOrder: amount.default(0),
      portionsPerOrder: z.number().positive().optional(),
    })
    .refine((buy) => buy.feePerOrder === 0 || buy.portionsPerOrder !== undefined, {
      path: ['portionsPerOrder'],
      message: 'Say how many portions an order has, to share its fee.',
    }),
  portionsPerWeek: z.number().min(0).max(1_000_000).optional(),
  uncertainty: z
    .object({
      yieldSdPct: z.number().min(0).max(100).optional(),
      minutesSd: z.number().min(0).max(10_000).optional(),
      itemGramsSd: z.number().min(0).max(1_000_000).optional(),
      degreesOfFreedom: z.number().min(1, 'At least one degree of freedom.').max(1_000_000).optional(),
      draws: z.int('Count whole draws.').min(1, 'Draw at least once.').max(100_000, 'Draw at most 100,000 times.'),
      seed: z.int('A seed is a whole number.').min(0).max(4_294_967_295),
    })
    .optional(),
})
const orNull = z.number().nullable()
export const makeOrBuyAnswer = z.object({
  make: z.object({
    costPerPortion: z.number(),
    netCost: z.number(),
    portionsPerItem: z.number(),
    purchase: z.number(),
    labour: z.number(),
    consumables: z.number(),
    disposal: z.number(),
    credit: z.number(),
  }),
  buy: z.object({ costPerPortion: z.number() }),
  savingPerPortion: z.number(),
  savingPct: orNull,
  savingPerWeek: orNull,
  breakEven: z.object({ itemPrice: orNull, buyPrice: orNull, yieldPct: orNull, minutesPerItem: orNull }),
  /** With uncertainty only: probability that making costs less, and percentiles of its cost a portion. */
  probability: z.number().optional(),
  p5: z.number().optional(),
  p50: z.number().optional(),
  p95: z.number().optional(),
})

const station = z
  .object({
    cm: z.number().min(-1000).max(1000),
    girthCm: z.number().min(0).max(500).optional(),
    widthCm: z.number().min(0).max(200).optional(),
    heightCm: z.number().min(0).max(200).optional(),
  })
  .refine((place) => place.girthCm !== undefined || (place.widthCm !== undefined && place.heightCm !== undefined), {
    path: ['girthCm'],
    message: 'Give a girth, or a width and a height.',
  })
const measured = { stations: z.array(station).max(200, 'At most 200 measured places.'), grams }
const cm = z.number().min(0).max(1000)
/** More than are ever cut from one piece. */
const mostPieces = 1000

export const cutInOrderRequest = z.object({
  ...measured,
  sections: z
    .array(
      z.object({
        id: z.string().min(1).max(100),
        grams,
        count: z.union([z.int().min(0).max(mostPieces), z.literal('fill')]),
        maxCm: cm.optional(),
        minDiameterCm: cm.optional(),
      }),
    )
    .max(50, 'At most 50 sections.')
    .refine(
      (sections) => sections.reduce((sum, { count }) => sum + (count === 'fill' ? 0 : count), 0) <= mostPieces,
      `At most ${mostPieces} pieces from one.`,
    ),
})
const density = { densityGPerCm3: z.number(), densityIsPlausible: z.boolean() }
export const cutInOrderAnswer = z.object({
  ...density,
  pieces: z.array(
    z.object({
      section: z.string(),
      fromCm: z.number(),
      toCm: z.number(),
      thicknessCm: z.number(),
      grams: z.number(),
      faceCm: z.number(),
    }),
  ),
  remainder: z.object({ fromCm: z.number(), cm: z.number(), grams: z.number() }),
})

export const bestMixRequest = z.object({
  ...measured,
  types: z
    .array(
      z.object({
        id: z.string().min(1).max(100),
        value: z.number().min(0).max(1_000_000),
        targetGrams: grams,
        minGrams: grams,
        maxGrams: grams,
        minCm: cm,
        maxCm: cm,
        minDiameterCm: cm,
        maxCount: z.int().min(0).max(1000).optional(),
        minCount: z.int().min(0).max(1000).optional(),
        onlyAt: z.enum(['thick-end', 'thin-end']).optional(),
      }),
    )
    .max(12, 'At most 12 kinds of piece.'),
  tipsValuePerKg: amount.default(0),
  minTipsCm: cm.default(0),
  offTargetPerGram: amount.default(0),
  stepCm: z.number().min(0.02, 'Steps go down to 0.02 cm: a knife is no finer.').max(10).default(0.1),
})
export const bestMixAnswer = z.object({
  ...density,
  score: z.number(),
  pieces: z.array(z.object({ type: z.string(), fromCm: z.number(), toCm: z.number(), thicknessCm: z.number(), grams: z.number() })),
  counts: z.record(z.string(), z.int()),
  tipsGrams: z.number(),
  transitions: z.int(),
})

export const rackRequest = z.object({
  ...measured,
  ribsCm: z.array(cm).min(1, 'A rack has a rib at least.').max(100),
  boneHalfWidthCm: cm,
  bonesPerPiece: z.array(z.int().min(1).max(100)).min(1, 'Say how many bones each piece has.').max(100),
})
export const rackAnswer = z.object({
  cutsCm: z.array(z.number()),
  pieces: z.array(z.object({ fromCm: z.number(), toCm: z.number(), grams: z.number(), bones: z.int() })),
  spreadGrams: z.number(),
  midpointCutsCm: z.array(z.number()),
  midpointSpreadGrams: z.number(),
})

export const bondedPairRequest = z.object({
  a: z.object(measured),
  b: z.object(measured),
  portionGrams: grams,
  offsetCm: z.number().min(-1000).max(1000).default(0),
})
export const bondedPairAnswer = z.object({
  lengthCm: z.number(),
  grams: z.number(),
  portions: z.int(),
  thicknessCm: z.array(z.number()),
  leftGrams: z.number(),
  thicknessSpreadCm: z.number(),
})

const madeAmount = z.number('Type an amount.').min(0, 'An amount cannot be negative.').max(most, 'That is over 5,000 kg or litres.')
export const amountUnit = z.enum(['g', 'ml', 'piece'])

export const followOnRequest = z.object({
  inputs: z
    .array(z.object({ id: z.string().min(1).max(100), grams, cost: z.number('Type a cost.').min(-1_000_000).max(1_000_000) }))
    .min(1, 'A follow-on is made of something: add what goes in.')
    .max(200),
  added: z
    .array(z.object({ name: z.string().max(80), grams: grams.optional(), cost: amount }))
    .max(100)
    .default([]),
  energy: amount.default(0),
  labour: z.object({ minutes, ...wage }),
  consumables: amount.default(0),
  disposalPerKg: amount.default(0),
  method: jointCostMethod,
  outputs: z
    .array(
      z.object({
        id: z.string().min(1).max(100),
        name: z.string().max(200).optional(),
        role,
        amount: madeAmount,
        unit: amountUnit,
        count: z.int().min(0).max(1_000_000).optional(),
        valuePerUnit: amount.optional(),
      }),
    )
    .min(1, 'Say what comes out.')
    .max(100),
})

export const followOnAnswer = z.object({
  carried: z.number(),
  gross: z.number(),
  credit: z.number(),
  net: z.number(),
  yieldPct: z.number().nullable(),
  outputs: z.array(
    z.object({ id: z.string(), cost: z.number(), costPerUnit: z.number().nullable(), costPerPortion: z.number().nullable() }),
  ),
})
