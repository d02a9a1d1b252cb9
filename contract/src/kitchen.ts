import { type KeptKind, keptKinds, usualKeeping } from '@fleam/core/walk-in/keeping'
import { priorWorth } from '@fleam/core/yield-book/expectation'
import * as z from 'zod'
import { labelSize } from './labels.ts'
import { amount, id, line, percent, stamp, version } from './primitives.ts'

export const weightSystem = z.enum(['metric', 'imperial'])

const minutes = z.number('Type the minutes.').min(1, 'At least one minute.').max(600, 'At most 600 minutes.')
const coolingHours = z.number('Type the hours.').min(0.5, 'At least half an hour.').max(24, 'At most 24 hours.')
const coreTemperature = z.number('Type a temperature in °C.').min(40, 'At least 40 °C.').max(100, 'At most 100 °C.')
const days = z.int('Count whole days.').min(0, 'Days are 0 or more.').max(730, 'At most two years.')
const keptDays = z.object({ chilledDays: days, frozenDays: days })

/** Where things lie and how long they keep, where a kitchen has not said. */
export const usualWalkIn = { places: ['Walk-in shelf', 'Service fridge', 'Freezer'], keeping: usualKeeping }

const privateHost = /^(localhost|127\.\d+\.\d+\.\d+|10\.\d+\.\d+\.\d+|192\.168\.\d+\.\d+|172\.(1[6-9]|2\d|3[01])\.\d+\.\d+)$/
export const scaleAddress = z.object({
  name: line(40),
  host: z.string().regex(privateHost, 'Use an address of this kitchen’s own network, such as 192.168.1.20.'),
  port: z.int('A port is a whole number.').min(1024, 'A port is 1024 or more.').max(65_535, 'A port is at most 65535.'),
})

/** Label printers that speak IPP, on this machine or the kitchen's own network. */
export const printerAddress = z.object({
  name: line(40),
  host: z.string().regex(privateHost, 'Use an address of this kitchen’s own network, such as 192.168.1.30.'),
  port: z.int('A port is a whole number.').min(1, 'A port is 1 or more.').max(65_535, 'A port is at most 65535.'),
  path: z
    .string()
    .regex(/^[\w./-]{1,80}$/, 'Type the path of its queue, such as ipp/print.')
    .default('ipp/print'),
  size: labelSize,
})

/** How long a session lasts without a sign of work, where a kitchen has not said. */
export const usualIdle = { tabletHours: 12, otherHours: 2 }
const idleHours = z.number('Type the hours.').min(0.25, 'At least a quarter of an hour.').max(168, 'At most a week.')

/** Where a kitchen stands that has not said. */
export const usualPlace = { locale: 'en-GB', timeZone: 'UTC' }

/** What a kitchen decides for itself. Money in its currency, temperatures in °C, percent 0–100. */
export const kitchenSettings = z.object({
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, 'Use a currency code of three letters, such as EUR.')
    .refine(isCurrency, 'No currency has that code.'),
  weightSystem,
  /** How days and numbers are written, as `de-DE`. */
  locale: z.string().refine(isLocale, 'Choose how days and numbers are written.').default(usualPlace.locale),
  /** Where the kitchen stands: a day begins and ends by it. */
  timeZone: z.string().refine(isTimeZone, 'Choose a time zone, such as Europe/Dublin.').default(usualPlace.timeZone),
  labour: z.object({ ratePerHour: amount, onCostPct: z.number().min(0).max(300, 'On-cost is at most 300 %.') }),
  disposalPerKg: amount,
  /** What is counted beside the knife time and the yield when cutting is set against buying. */
  cutting: z.object({
    setupMinutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(600, 'At most 600 minutes.'),
    storageLossPct: percent.lt(100, 'A loss is under 100 %.'),
    rejectedPct: percent.lt(100, 'A loss is under 100 %.'),
    /** The hands are there and paid anyway: their time costs nothing. */
    idleHands: z.boolean(),
    /** Tests that a cut sheet's starting figures count for in the yield book. */
    priorTests: z.number('Type a number of tests.').min(1, 'At least one test.').max(50, 'At most 50 tests.').default(priorWorth),
  }),
  limits: z.object({
    receiveMaxC: z.number().min(-40, 'At least −40 °C.').max(30, 'At most 30 °C.'),
    unaccountedPct: percent,
    shortDeliveryPct: percent,
    /** A price that moves by more than this is shown on the Board. */
    priceMovePct: percent,
    outOfColdMinutes: minutes,
    coldWarningMinutes: minutes,
    /** Without any sign of work for longer than this, a person at the bench counts as away. */
    breakMinutes: minutes,
    poultryCoreC: coreTemperature,
    groundCoreC: coreTemperature,
    /** From 60 to 20 °C, and from there to 5 °C. */
    coolFirstHours: coolingHours.default(2),
    coolSecondHours: coolingHours.default(4),
  }),
  walkIn: z
    .object({
      places: z.array(line(40)).min(1, 'Name one place at least.').max(40, 'At most 40 places.'),
      keeping: z.object({
        kinds: z.object(Object.fromEntries(keptKinds.map((kind) => [kind, keptDays])) as Record<KeptKind, typeof keptDays>),
        thawedDays: days,
        cookedBeginsAnew: z.boolean(),
      }),
    })
    .default(usualWalkIn),
  /** After how long without a sign of work somebody is signed out, in hours. */
  signedOutAfter: z.object({ tabletHours: idleHours, otherHours: idleHours }).default(usualIdle),
  /** Bench scales that speak Fleam's scale protocol, on this machine or the kitchen's own network. */
  scales: z.array(scaleAddress).max(20, 'A kitchen has at most 20 scales.'),
  printers: z.array(printerAddress).max(20, 'A kitchen has at most 20 printers.').default([]),
})
export type KitchenSettings = z.infer<typeof kitchenSettings>

/** Common public figures, which every kitchen replaces by its own. */
export const usualLimits: KitchenSettings['limits'] = {
  receiveMaxC: 5,
  unaccountedPct: 2,
  shortDeliveryPct: 1,
  priceMovePct: 5,
  outOfColdMinutes: 30,
  coldWarningMinutes: 10,
  breakMinutes: 15,
  poultryCoreC: 74,
  groundCoreC: 71,
  coolFirstHours: 2,
  coolSecondHours: 4,
}

export const usualCutting: KitchenSettings['cutting'] = {
  setupMinutes: 0,
  storageLossPct: 0,
  rejectedPct: 0,
  idleHands: false,
  priorTests: priorWorth,
}

/** Settings as stored, with the usual figure wherever an older version did not ask for one. */
export function readSettings(settings: KitchenSettings): KitchenSettings {
  return {
    ...usualPlace,
    ...settings,
    scales: settings.scales ?? [],
    printers: settings.printers ?? [],
    signedOutAfter: settings.signedOutAfter ?? usualIdle,
    walkIn: settings.walkIn ?? walkInBefore(settings.limits as OldLimits),
    cutting: { ...usualCutting, ...settings.cutting },
    limits: { ...usualLimits, ...settings.limits },
  }
}

type OldLimits = KitchenSettings['limits'] & { keepPoultryDays?: number; keepWholeCutDays?: number }

/** Before places and house days had a place of their own, two of the days stood among the limits. */
function walkInBefore({ keepPoultryDays, keepWholeCutDays }: OldLimits) {
  const { kinds } = usualKeeping
  const kept = (kind: KeptKind, chilledDays: number | undefined) => ({
    [kind]: { ...kinds[kind], ...(chilledDays === undefined ? {} : { chilledDays }) },
  })
  return {
    ...usualWalkIn,
    keeping: {
      ...usualKeeping,
      kinds: {
        ...kinds,
        ...kept('raw poultry', keepPoultryDays),
        ...kept('raw fish', keepPoultryDays),
        ...kept('raw cuts', keepWholeCutDays),
      },
    },
  }
}

export const kitchen = z.object({ id, name: z.string(), settings: kitchenSettings, version: z.int() })
export type Kitchen = z.infer<typeof kitchen>

export const kitchenChange = z.object({
  version,
  name: line(80),
  settings: kitchenSettings,
  /** Somebody has said that the scales' addresses are scales of theirs; asked for where they are new. */
  scalesConfirmed: z.boolean().default(false),
  /** The same of printers. */
  printersConfirmed: z.boolean().default(false),
})

export const auditEntry = z.object({
  id: z.string(),
  at: stamp,
  by: z.string(),
  subject: z.string(),
  subjectId: z.string(),
  /** What was changed, as it is called today: a run by its number and item. Empty where nothing has that name any more. */
  about: z.string().default(''),
  action: z.string(),
  before: z.unknown(),
  after: z.unknown(),
})
export type AuditEntry = z.infer<typeof auditEntry>

function isCurrency(code: string): boolean {
  try {
    return Intl.supportedValuesOf('currency').includes(code)
  } catch {
    return false
  }
}

function isLocale(locale: string): boolean {
  try {
    return Intl.DateTimeFormat.supportedLocalesOf(locale).length > 0
  } catch {
    return false
  }
}

function isTimeZone(timeZone: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone }).resolvedOptions().timeZone !== ''
  } catch {
    return false
  }
}
