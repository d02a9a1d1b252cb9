import * as z from 'zod'
import { kitchen, kitchenSettings } from './kitchen.ts'
import { id, line, stamp, version } from './primitives.ts'
import { type PersonRole, roles } from './roles.ts'

export const role = z.enum(roles)

export const person = z.object({ id, name: z.string(), role, active: z.boolean(), version: z.int() })
export type Person = z.infer<typeof person>

/** What a person signs in with: a PIN opens only on a tablet that the kitchen has enrolled. */
const secretKinds = ['pin', 'passphrase'] as const
export type SecretKind = (typeof secretKinds)[number]
export const secretKindOf = (of: PersonRole): SecretKind => (of === 'cook' || of === 'student' ? 'pin' : 'passphrase')

/** Repeats, and counting up or down, are what anyone would try first. */
const isEasyPin = (text: string) => new Set(text).size === 1 || '01234567890'.includes(text) || '09876543210'.includes(text)
export const pin = z
  .string()
  .regex(/^\d{4,8}$/, 'A PIN has 4 to 8 figures.')
  .refine((text) => !isEasyPin(text), 'Choose figures that nobody tries first.')
export const passphrase = z
  .string()
  .min(12, 'Use at least 12 characters: a few words are easy to keep.')
  .max(200, 'Use at most 200 characters.')

function secretFits(value: { role: PersonRole; name: string; secret?: string | undefined }, context: z.RefinementCtx): void {
  if (value.secret === undefined) return
  const issues = (secretKindOf(value.role) === 'pin' ? pin : passphrase).safeParse(value.secret).error?.issues ?? []
  for (const { message } of issues) context.addIssue({ code: 'custom', path: ['secret'], message })
  if (holdsName(value.secret, value.name)) context.addIssue({ code: 'custom', path: ['secret'], message: 'Leave the name out of it.' })
}

/** Whether a secret is a name in other words. */
export function holdsName(secret: string, name: string): boolean {
  return name.trim().length > 2 && secret.toLowerCase().includes(name.trim().toLowerCase())
}

const secret = z.string().max(200, 'Use at most 200 characters.')
export const personCreate = z.object({ id, name: line(60), role, secret }).superRefine(secretFits)
export const personChange = z
  .object({ version, name: line(60), role, active: z.boolean(), secret: secret.optional() })
  .superRefine(secretFits)
export const ownSecretChange = z.object({ current: secret.min(1, 'Type the present one.'), secret })

const timeCode = z
  .string()
  .trim()
  .regex(/^\d{6}$/, 'A time code has six figures.')
export const signIn = z.object({
  name: z.string().trim().min(1, 'Type your name.').max(60),
  secret: z.string().min(1, 'Type your PIN or passphrase.').max(200),
  /** Its name or id, where there are several and this is no enrolled tablet. */
  kitchen: z.string().trim().max(80).optional(),
  /** Of who has asked for it. */
  code: z.union([timeCode, z.literal('')]).optional(),
})
export const session = z.object({
  person,
  kitchen,
  /** The enrolled tablet that it is on. */
  tablet: z.object({ id, name: z.string() }).nullable().default(null),
})
export type Session = z.infer<typeof session>

/** What a sign-in page needs to know: the people of an enrolled tablet, or whether to ask for the kitchen. */
export const door = z.object({
  needsSetup: z.boolean(),
  asksKitchen: z.boolean(),
  tablet: z
    .object({
      name: z.string(),
      kitchen: z.string(),
      people: z.array(z.object({ name: z.string(), role, asks: z.enum(secretKinds) })),
    })
    .nullable(),
})
export type Door = z.infer<typeof door>

/** A device that a manager has made the kitchen's own. */
export const tablet = z.object({ id, name: z.string(), by: z.string(), enrolledAt: stamp, usedAt: stamp, isThis: z.boolean() })
export type Tablet = z.infer<typeof tablet>
export const tabletCreate = z.object({ id, name: line(60) })

/** Where one is signed in. */
const ownSession = z.object({
  id,
  device: z.string(),
  address: z.string(),
  tablet: z.string().nullable(),
  startedAt: stamp,
  seenAt: stamp,
  isThis: z.boolean(),
})

export const account = z.object({
  secretKind: z.enum(secretKinds),
  /** The secret is kept in another kitchen, one's own. */
  isAway: z.boolean(),
  hasTimeCode: z.boolean(),
  hasCalendar: z.boolean(),
  sessions: z.array(ownSession),
})
export type Account = z.infer<typeof account>
/** A key to be taken into an app that makes time codes; it counts once a code of it has been typed. */
export const timeCodeOffer = z.object({ key: z.string(), uri: z.string(), picture: z.string() })
export type TimeCodeOffer = z.infer<typeof timeCodeOffer>
export const timeCodeStart = z.object({ current: secret.min(1, 'Type the present one.') })
export const timeCodeConfirm = z.object({ key: z.string().max(100), code: timeCode })

/** Who came in or tried to, and what left the kitchen or came into it. */
export const securityEvent = z.object({
  id: z.string(),
  at: stamp,
  kind: z.string(),
  by: z.string().nullable(),
  address: z.string(),
  about: z.string(),
})
export type SecurityEvent = z.infer<typeof securityEvent>

export const demoPerson = z.object({ name: z.string(), role, secret: z.string() })
export const demo = z.object({ people: z.array(demoPerson) })

export const setup = z
  .object({
    kitchenName: line(80),
    currency: kitchenSettings.shape.currency,
    locale: kitchenSettings.shape.locale,
    timeZone: kitchenSettings.shape.timeZone,
    name: line(60),
    secret: passphrase,
  })
  .refine(({ secret: typed, name }) => !holdsName(typed, name), { path: ['secret'], message: 'Leave the name out of it.' })
