import * as z from 'zod'
import { kitchenSettings } from './kitchen.ts'
import { role } from './people.ts'
import { day, id, line, stamp } from './primitives.ts'

/** A kitchen that one works in, and as what. */
export const place = z.object({
  kitchenId: id,
  name: z.string(),
  role,
  /** Where one is just now. */
  isHere: z.boolean(),
  /** Where one's passphrase is kept. */
  isHome: z.boolean(),
})
export type Place = z.infer<typeof place>

export const kitchenCreate = z.object({
  id,
  name: line(80),
  currency: kitchenSettings.shape.currency,
  locale: kitchenSettings.shape.locale,
  timeZone: kitchenSettings.shape.timeZone,
})

/** Somebody of another kitchen is asked in by a code, which they type where they are signed in. */
export const invitation = z.object({ id, role, by: z.string(), expiresAt: stamp })
export type Invitation = z.infer<typeof invitation>
export const invitationCreate = z.object({ id, role })
export const invitationMade = invitation.extend({ code: z.string() })
export type InvitationMade = z.infer<typeof invitationMade>
export const join = z.object({
  code: z
    .string()
    .trim()
    .toUpperCase()
    .transform((text) => text.replaceAll(/[\s-]/g, ''))
    .pipe(z.string().regex(/^[A-Z0-9]{12}$/, 'A code has twelve letters and figures.')),
})
export const chosenKitchen = z.object({ kitchenId: id })

/** Figures of kitchens over days, each by its own clock, of one catalog sheet or of all that was cut. */
export const sideBySideQuery = z
  .object({ from: day, to: day, slug: z.string().max(80).optional() })
  .refine(({ from, to }) => from <= to, { path: ['to'], message: 'The last day comes before the first.' })
  .refine(({ from, to }) => Date.parse(to) - Date.parse(from) <= 366 * 86_400_000, { path: ['to'], message: 'At most a year at once.' })

/** What one kitchen's finished runs come to: weights in grams, money in its own currency, percent 0–100. */
export const kitchenFigures = z.object({
  kitchenId: id,
  name: z.string(),
  currency: z.string(),
  runs: z.int(),
  receivedGrams: z.number(),
  /** Main output of what was received, weighed by it. */
  mainPct: z.number().nullable(),
  portions: z.int(),
  /** A portion on average over all portions. */
  costPerPortion: z.number().nullable(),
  /** Over target, at the cost per kg of each run. */
  giveaway: z.object({ grams: z.number(), cost: z.number() }),
  /** Of the walk-in; of one sheet alone, what came of runs by it. */
  thrownAway: z.object({ grams: z.number(), cost: z.number() }),
  /** What was paid for what was cut. */
  netCost: z.number(),
})
export type KitchenFigures = z.infer<typeof kitchenFigures>
export const sideBySide = z.object({
  kitchens: z.array(kitchenFigures),
  /** Sheets that were cut by in those days, the most common first. */
  sheets: z.array(z.object({ slug: z.string(), name: z.string(), runs: z.int(), kitchens: z.int() })),
})
export type SideBySide = z.infer<typeof sideBySide>
