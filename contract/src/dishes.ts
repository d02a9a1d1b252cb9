import * as z from 'zod'
import { animal } from './prices.ts'
import { day, id, line, version, weightEntry } from './primitives.ts'

/** A dish that needs a second product, by a day. `product` is the key of the cut sheets' outputs that serve it. */
export const dishNeed = z.object({
  id,
  dish: z.string(),
  animal,
  product: z.string(),
  need: z.object({ tenths: z.int().positive(), entered: z.string() }),
  /** What was taken for it and what lies in the walk-in for it, in tenths of a gram. */
  collectedTenths: z.int(),
  /** Of that, what still lies there. */
  reservedTenths: z.int().default(0),
  /** What is short would cost at what the kitchen's own costs; `null` where nothing lies there to go by. */
  shortCost: z.number().nullable().default(null),
  dueOn: z.string(),
  version: z.int(),
})
export type DishNeed = z.infer<typeof dishNeed>

export const dishName = line(80)

export const dishNeedCreate = z.object({
  id,
  dish: dishName,
  animal,
  product: z.string().regex(/^[a-z][a-z0-9-]*$/, 'Choose what the dish needs.'),
  need: weightEntry,
  dueOn: day,
})
/** Off the list, or back on it. */
export const dishNeedClose = z.object({ version, closed: z.boolean().default(true) })
