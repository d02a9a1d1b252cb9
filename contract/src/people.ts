import * as z from 'zod'
import { kitchen, kitchenSettings } from './kitchen.ts'
import { id, line, version } from './primitives.ts'
import { type PersonRole, roles } from './roles.ts'

export const role = z.enum(roles)

export const person = z.object({ id, name: z.string(), role, active: z.boolean(), version: z.int() })
export type Person = z.infer<typeof person>

const secret = z.string().min(4, 'Use at least 4 figures or letters.').max(200, 'Use at most 200 characters.')

/** Managers sign in with a password; others may use a PIN of four figures or more. */
function managersNeedPasswords(value: { role: PersonRole; secret?: string | undefined }, context: z.RefinementCtx): void {
  if (value.role === 'manager' && value.secret !== undefined && value.secret.length < 8) {
    context.addIssue({ code: 'custom', path: ['secret'], message: 'A manager’s password has at least 8 characters.' })
  }
}

export const personCreate = z.object({ id, name: line(60), role, secret }).superRefine(managersNeedPasswords)
export const personChange = z
  .object({ version, name: line(60), role, active: z.boolean(), secret: secret.optional() })
  .superRefine(managersNeedPasswords)

export const signIn = z.object({
  name: z.string().trim().min(1, 'Type your name.').max(60),
  secret: z.string().min(1, 'Type your PIN or password.').max(200),
})
export const session = z.object({ person, kitchen })
export type Session = z.infer<typeof session>

export const demoPerson = z.object({ name: z.string(), role, secret: z.string() })
export const demo = z.object({ people: z.array(demoPerson) })

export const setup = z.object({
  kitchenName: line(80),
  currency: kitchenSettings.shape.currency,
  locale: kitchenSettings.shape.locale,
  timeZone: kitchenSettings.shape.timeZone,
  name: line(60),
  secret: z.string().min(8, 'A manager’s password has at least 8 characters.').max(200),
})
export const setupState = z.object({ needed: z.boolean() })
