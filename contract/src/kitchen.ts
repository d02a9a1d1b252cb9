import * as z from 'zod'
import { amount, id, line, percent, stamp, version } from './primitives.ts'

export const weightSystem = z.enum(['metric', 'imperial'])

/** What a kitchen decides for itself. Money in its currency, temperatures in °C, percent 0–100. */
export const kitchenSettings = z.object({
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, 'Use a currency code of three letters, such as EUR.')
    .refine(isCurrency, 'No currency has that code.'),
  weightSystem,
  labour: z.object({ ratePerHour: amount, onCostPct: z.number().min(0).max(300, 'On-cost is at most 300 %.') }),
  disposalPerKg: amount,
  limits: z.object({
    receiveMaxC: z.number().min(-40, 'At least −40 °C.').max(30, 'At most 30 °C.'),
    unaccountedPct: percent,
    shortDeliveryPct: percent,
  }),
})
export type KitchenSettings = z.infer<typeof kitchenSettings>

export const kitchen = z.object({ id, name: z.string(), settings: kitchenSettings, version: z.int() })
export type Kitchen = z.infer<typeof kitchen>

export const kitchenChange = z.object({ version, name: line(80), settings: kitchenSettings })

export const auditEntry = z.object({
  id: z.string(),
  at: stamp,
  by: z.string(),
  subject: z.string(),
  subjectId: z.string(),
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
