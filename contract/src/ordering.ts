import * as z from 'zod'
import { day, id, line, stamp } from './primitives.ts'

const unit = z.enum(['kg', 'each', 'case'])
const text = z.string().max(200)

/** An order as JSON, as a supplier takes it. */
export const order = z.object({
  number: text.min(1, 'An order has a number.'),
  kitchen: text,
  supplier: text,
  orderedOn: z.iso.date(),
  wantedOn: z.iso.date(),
  currency: z.string().length(3),
  note: z.string().max(600).default(''),
  lines: z
    .array(
      z.object({
        article: text.min(1),
        gtin: z
          .string()
          .regex(/^\d{14}$/)
          .nullable()
          .default(null),
        quantity: z.number().positive('Order more than nothing.').max(100_000),
        unit,
        price: z.number().min(0).nullable().default(null),
      }),
    )
    .min(1, 'An order has at least one line.')
    .max(200),
})

/** A delivery note as JSON, as a supplier answers it. */
export const deliveryNote = z.object({
  number: text,
  order: text,
  supplier: text,
  kitchen: text,
  sentOn: z.iso.date(),
  lines: z
    .array(
      z.object({
        article: text,
        gtin: z.string().nullable(),
        ordered: z.number().min(0),
        sent: z.number().min(0),
        unit,
        why: text,
        boxes: z
          .array(z.object({ code: text, tenths: z.int().positive(), lot: z.string().max(40), useBy: z.string().nullable() }))
          .max(500),
      }),
    )
    .max(200),
})

/** An order that a kitchen writes. */
export const orderCreate = z.object({
  id,
  supplierId: id,
  /** The day that it was planned for, where it was. */
  dayId: id.nullable().default(null),
  wantedOn: day,
  lines: z
    .array(
      z.object({
        article: line(120),
        quantity: z.number().positive('Order more than nothing.').max(100_000),
        unit,
        price: z.number().min(0).max(1_000_000).nullable(),
      }),
    )
    .min(1, 'An order has at least one line.')
    .max(200),
})

export const kitchenOrder = z.object({
  id,
  number: z.int(),
  supplier: z.object({ id, name: z.string() }),
  dayId: id.nullable(),
  wantedOn: z.string(),
  lines: order.shape.lines,
  by: z.string(),
  at: stamp,
  sentAt: stamp.nullable(),
  /** What the supplier answered; `null` until it has. */
  note: deliveryNote.nullable(),
})
export type KitchenOrder = z.infer<typeof kitchenOrder>
