import { crewSkills, placeKinds, stepKinds } from '@fleam/core/day/day-jobs'
import * as z from 'zod'
import { amount, day, id, line, percent, price, stamp, version } from './primitives.ts'

const key = z.string().min(1).max(240)
const grams = z.number('Type a weight in grams.').min(0, 'A weight cannot be negative.').max(10_000_000)
const count = z.int('Count whole ones.').min(0).max(100_000)
const minutes = z.number().min(0, 'Minutes are 0 or more.').max(100_000)
const spreadPct = z.number().min(0).max(200)

const planOffer = z.object({ id: key, price, pack: z.int().min(1).max(10_000), least: count.optional(), most: count.optional() })
const planWay = z.object({
  id: key,
  minutes,
  setupMinutes: minutes.optional(),
  consumables: amount.optional(),
  outputs: z.array(z.object({ product: key, pct: percent, sdPct: spreadPct.optional() })).max(60),
})
const held = z.record(key, count)

/** A day's demands, and all that can meet them. */
export const buyingPlanRequest = z.object({
  items: z
    .array(
      z.object({
        id: key,
        meanGrams: grams.positive(),
        sdGrams: grams.optional(),
        onHand: count.optional(),
        onHandValue: amount.optional(),
        offers: z.array(planOffer).max(20),
        ways: z.array(planWay).max(30),
      }),
    )
    .max(100),
  products: z.array(z.object({ id: key, onHandGrams: grams.optional(), leftValuePerKg: amount, mostLeftGrams: grams.optional() })).max(400),
  demands: z
    .array(
      z.object({
        product: key,
        grams,
        servicePct: z.number().min(50, 'At least 50 %.').max(99.9, 'At most 99.9 %.').optional(),
        sdPct: spreadPct.optional(),
      }),
    )
    .max(300),
  followOns: z
    .array(
      z.object({
        id: key,
        uses: z.array(z.object({ product: key, grams: grams.positive() })).max(20),
        gives: z.object({ product: key, grams: grams.positive() }),
        minutes,
        cost: amount.optional(),
        most: count.optional(),
      }),
    )
    .max(100)
    .default([]),
  readyCut: z
    .array(z.object({ id: key, product: key, pricePerPack: amount, packGrams: grams.positive(), least: count.optional() }))
    .max(300)
    .default([]),
  labour: z.object({
    ratePerHour: amount,
    onCostPct: z.number().min(0).max(300),
    minutesAvailable: minutes.optional(),
    overtime: z.object({ minutes, ratePerHour: amount }).optional(),
  }),
  seed: z.int().min(0).max(2_147_483_647).optional(),
  held: z.object({ way: held.optional(), offer: held.optional(), followOn: held.optional(), readyCut: held.optional() }).optional(),
})

export const buyingPlanAnswer = z.object({
  status: z.enum(['optimal', 'infeasible']),
  cost: z.number(),
  gap: z.number(),
  buy: z.array(z.object({ offer: z.string(), items: z.number(), cost: z.number() })),
  cut: z.array(z.object({ way: z.string(), items: z.number() })),
  make: z.array(z.object({ followOn: z.string(), batches: z.number() })),
  readyCut: z.array(z.object({ id: z.string(), packs: z.number(), cost: z.number() })),
  left: z.array(z.object({ product: z.string(), grams: z.number(), value: z.number() })),
  minutes: z.number(),
  overtimeMinutes: z.number(),
  met: z.array(z.object({ product: z.string(), probability: z.number(), shortGrams: z.number() })),
  margins: z.array(z.object({ product: z.string(), grams: z.number() })),
  allReadyCutCost: z.number().nullable(),
  short: z.array(z.object({ product: z.string(), grams: z.number() })),
})

const minute = z.int('Whole minutes.').min(0)
export const scheduleRequest = z.object({
  people: z.array(z.object({ id: key, from: minute, to: minute, skills: z.array(key).max(50).optional() })).max(500),
  places: z.array(z.object({ id: key, kind: key, room: z.number().positive().max(100_000), isSingle: z.boolean().optional() })).max(200),
  cleanDownMinutes: minute.max(600).optional(),
  jobs: z
    .array(
      z.object({
        id: key,
        handsMinutes: minute.max(10_000),
        waitMinutes: minute.max(50_000).optional(),
        skill: key.optional(),
        place: z.object({ kind: key, room: z.number().positive().max(100_000), during: z.enum(['hands', 'wait', 'both']) }).optional(),
        board: z.enum(['raw poultry', 'other']).optional(),
        after: z.array(key).max(50).optional(),
        earliest: minute.optional(),
        due: minute.optional(),
        heldAt: minute.optional(),
        heldBy: key.optional(),
        isLate: z.boolean().optional(),
      }),
    )
    .max(1000),
  seed: z.int().min(0).max(2_147_483_647).optional(),
})

export const scheduleAnswer = z.object({
  jobs: z.array(
    z.object({ id: z.string(), person: z.string(), place: z.string().nullable(), from: z.int(), handsUntil: z.int(), until: z.int() }),
  ),
  late: z.array(z.object({ id: z.string(), minutes: z.int() })),
  cleanDowns: z.array(z.object({ place: z.string(), from: z.int(), until: z.int() })),
  overtimeMinutes: z.int(),
  lowerBound: z.int(),
  endsAt: z.int(),
})

const hour = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Write an hour such as 18:30.')
/** When guests eat, and how many. */
export const dayService = z.object({
  id,
  name: line(60),
  at: hour,
  guests: z.int('Count whole guests.').min(0).max(20_000, 'That is over 20,000 guests: check the number.'),
  /** How far the guests may be off, percent. */
  sdPct: z.number().min(0).max(100).default(5),
})

const stepMinutes = z.int('Write whole minutes.').min(0, 'Minutes are 0 or more.')
/** One step of a dish's cooking, in the order in which it is done. */
export const cookingStep = z.object({
  kind: z.enum(stepKinds),
  handsMinutes: stepMinutes.max(600, 'At most ten hours of hands.'),
  waitMinutes: stepMinutes.max(10_080, 'At most a week.'),
  /** Portions a tray, or kg a litre; `null` for the usual. */
  perRoom: z.number().positive('More than nothing.').max(1000).nullable().default(null),
  /** °C at the core; `null` where nobody probes. */
  pullAtC: z.number().min(0, 'At least 0 °C.').max(120, 'At most 120 °C.').nullable().default(null),
})
export type DayStep = z.infer<typeof cookingStep>

const daysBefore = z.int('Count whole days.').min(0, 'Days are 0 or more.').max(14, 'At most a fortnight before.')
/** Who works when. A person who comes twice stands here twice. */
export const dayShift = z
  .object({
    id,
    personId: id.nullable().default(null),
    name: line(60),
    daysBefore,
    from: hour,
    to: hour,
    skills: z.array(z.enum(crewSkills)).max(crewSkills.length),
  })
  .refine(({ from, to }) => from !== to, { path: ['to'], message: 'That is no time at all: the shift ends as it begins.' })
export const dayPlace = z.object({
  id,
  name: line(60),
  kind: z.enum(placeKinds),
  /** 1 a bench, litres, trays or kg. */
  room: z.number('Write how much it takes.').positive('A place takes something.').max(5000, 'At most 5,000.'),
})
/** When something bought comes in. */
export const dayArrival = z.object({
  itemId: id,
  daysBefore,
  at: hour,
  thawHours: z.number('Write the hours.').min(0, 'Hours are 0 or more.').max(240, 'At most ten days.').default(0),
  orderDays: z.int('Count whole days.').min(0, 'Days are 0 or more.').max(30, 'At most 30 days.').default(1),
})

/** A dish of a service, and what a portion of it needs. */
export const dayDish = z.object({
  id,
  serviceId: id,
  name: line(80),
  /** Of a hundred guests so many take it, or so many are counted. */
  portions: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('of-guests'),
      pct: z.number('Type a percentage.').min(0, 'A percentage is 0 or more.').max(300, 'At most three portions a guest.'),
    }),
    z.object({
      kind: z.literal('counted'),
      count: z
        .int('Count whole portions.')
        .min(0, 'Portions are 0 or more.')
        .max(20_000, 'That is over 20,000 portions: check the number.'),
    }),
  ]),
  /** What it is of: an output of something bought whole. */
  itemId: id,
  outputKey: z.string().min(1).max(60),
  /** What its sheets call it: bone-in and boned thighs share a key, and are not the same. */
  outputName: z.string().min(1).max(60),
  gramsPerPortion: z.number().positive('A portion weighs more than nothing.').max(5000, 'A portion is under 5 kg.'),
  /** What is lost of it in the pan, percent: the weight is then the served one. */
  lossPct: z.number().min(0).max(80).default(0),
  steps: z.array(cookingStep).max(12, 'At most 12 steps.').default([]),
  /** The follow-on that it is made by: the portion is then of that, g or ml. */
  madeBy: z.string().min(1).max(60).nullable().default(null),
})
export type DayDish = z.infer<typeof dayDish>

export const dayBody = z.object({
  services: z.array(dayService).max(20, 'At most 20 services.'),
  dishes: z.array(dayDish).max(100, 'At most 100 dishes.'),
  /** How often everything is to be enough, percent of days. */
  servicePct: z.number().min(50, 'At least 50 %.').max(99.5, 'At most 99.5 %.'),
  minutesAvailable: z.number().min(0).max(100_000),
  overtimeMinutes: z.number().min(0).max(100_000).default(0),
  /** Numbers decided by hand, by the ids of the plan. */
  held: z.object({ way: held.default({}), offer: held.default({}), readyCut: held.default({}) }),
  /** What offers can be had by, where their quotes do not say: items in a pack, at least, at most. */
  limits: z
    .record(
      key,
      z
        .object({ pack: count.min(1, 'A pack has at least one.').optional(), least: count.optional(), most: count.optional() })
        .refine(({ least = 0, most = least }) => least <= most, { path: ['most'], message: 'At most is less than at least.' }),
    )
    .default({}),
  crew: z.array(dayShift).max(100, 'At most 100 shifts.').default([]),
  places: z.array(dayPlace).max(60, 'At most 60 places.').default([]),
  arrivals: z.array(dayArrival).max(100).default([]),
  /** So many benches keep one sorter busy; 0 where the cutters pack themselves. */
  benchesPerSorter: z.int('Count whole benches.').min(0).max(10, 'At most ten benches a sorter.').default(3),
  cleanDownMinutes: stepMinutes.max(240, 'At most four hours.').default(15),
  tubKg: z.number('Write what a tub takes.').min(0.5, 'At least half a kg.').max(100, 'At most 100 kg.').default(8),
  /** Jobs of the schedule decided by hand: their start, in minutes of the schedule, and who does them. */
  heldJobs: z.record(z.string().max(240), z.object({ at: minute.max(40_320).optional(), who: z.string().max(60).optional() })).default({}),
})
export type DayBody = z.infer<typeof dayBody>

export const dayCreate = z.object({ id, name: line(80), date: day, body: dayBody })
export const dayChange = z.object({ version, name: line(80), date: day, body: dayBody })
export const dayRepeat = z.object({ weeks: z.int('Count whole weeks.').min(1, 'At least one week.').max(26, 'At most half a year.') })
export const dayCounts = z.object({
  version,
  text: z.string().min(1, 'There is nothing in it.').max(200_000, 'That is over 200 kB: is it a list of counts?'),
})
export const kitchenDay = z.object({
  id,
  name: z.string(),
  date: z.string(),
  body: dayBody,
  version: z.int(),
  changedAt: stamp,
  by: z.string(),
})
export type KitchenDay = z.infer<typeof kitchenDay>

const named = z.record(z.string(), z.string())
/** A day planned, with what its ids are called. */
export const plannedDay = z.object({
  plan: buyingPlanAnswer,
  names: z.object({ offer: named, way: named, readyCut: named, product: named, followOn: named }),
  /** What each product is needed for and comes from, g. */
  flow: z.array(
    z.object({
      product: z.string(),
      needed: z.number(),
      margin: z.number(),
      used: z.number(),
      left: z.number(),
      from: z.array(z.object({ kind: z.enum(['way', 'readyCut', 'onHand', 'made']), id: z.string(), grams: z.number() })),
    }),
  ),
  /** Items of each way and offer, to hold them. */
  itemOf: named,
  /** What the next best plan, which cuts something another way, would cost more, and which way it does without; `null` where there is none. */
  nextBest: z.object({ without: z.string(), cost: z.number() }).nullable(),
  /** What an hour more of hands would save; 0 where hands do not bind. */
  hourSaves: z.number(),
  /** Offers that all are taken of, or more than would be for their least order, with what a pack more, or no least, would save. */
  binds: z.array(z.object({ offer: z.string(), limit: z.enum(['most', 'least']), saves: z.number() })),
  /** Where the day cannot be met: each limit that alone would let it be, and by how much it would have to move. */
  moves: z.array(
    z.discriminatedUnion('limit', [
      z.object({ limit: z.literal('hands'), minutes: z.number() }),
      z.object({ limit: z.literal('offers'), items: z.array(z.object({ offer: z.string(), items: z.number() })) }),
      z.object({ limit: z.literal('held') }),
    ]),
  ),
  /** What is nearest to hand where a product is short: packs of something ready-cut. */
  nearest: z.record(z.string(), z.object({ readyCut: z.string(), packs: z.int() })),
  /** Where what is left over goes. */
  leftTo: z.record(z.string(), z.string()),
  /** What each demand's safety costs. */
  safetyCosts: z.number(),
  /** What to order of whom. */
  orders: z.array(
    z.object({
      supplierId: id,
      lines: z.array(
        z.object({ article: z.string(), quantity: z.number(), unit: z.enum(['kg', 'each', 'case']), price: z.number().nullable() }),
      ),
    }),
  ),
  /** Products that are measured in millilitres: what stands as their grams is those. */
  liquids: z.array(z.string()),
  /** Dishes that nothing stands for, in words. */
  troubles: z.array(z.string()),
})
export type PlannedDay = z.infer<typeof plannedDay>
