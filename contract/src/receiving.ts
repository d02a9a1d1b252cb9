import * as z from 'zod'
import { id, line, moment } from './primitives.ts'

const day = z.iso.date('Write a day such as 2026-03-14.')
const tenths = z.int('Weigh to 0.1 g.').min(1, 'Say how much.').max(20_000_000, 'That is over 2,000 kg.')

/** Which of the kitchen's items a supplier's trade item number stands for. */
export const boxItem = z.object({
  gtin: z.string().regex(/^\d{14}$/, 'A trade item number has 14 digits.'),
  supplierId: id.nullable(),
  itemId: id,
})
export type BoxItem = z.infer<typeof boxItem>

/** Something bought whole that waits in the walk-in until it is cut. */
export const wholeLotCreate = z.object({
  id,
  itemId: id,
  supplierId: id.nullable(),
  billedTenths: tenths,
  tenths,
  pieces: z.int('Count whole pieces.').min(1, 'At least one piece.').max(1000, 'At most 1,000 pieces.'),
  supplierLot: z.union([line(40), z.literal('')]).default(''),
  /** Dates printed on the box. */
  useBy: day.nullable().default(null),
  bestBefore: day.nullable().default(null),
  coreTempC: z.number('Type a temperature in °C.').min(-40, 'At least −40 °C.').max(60, 'At most 60 °C.').nullable().default(null),
  /** What was done where it was too warm. */
  action: z.union([line(200), z.literal('')]).default(''),
  place: line(40),
  at: moment,
})

/** A lot that was bought whole. */
export const wholeOf = z.object({ itemId: id, supplierId: id.nullable(), pieces: z.int(), billedTenths: z.int() })
