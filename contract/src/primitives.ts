import { parseWeight } from '@fleam/core/quantities/parse-weight'
import { heaviestTenths } from '@fleam/core/quantities/weight'
import * as z from 'zod'

/** A UUID; what a client creates carries its own, version 7, so that a repeated POST is recognised. */
export const id = z.uuid('This is not an id.').toLowerCase()
export type Id = z.infer<typeof id>

/** Control signs, halves of signs, signs of nobody's, and marks that turn the direction of what follows or cannot be seen. */
const unprintable = /[\p{Cc}\p{Cs}\p{Co}\u200b\u200e\u200f\u2028-\u202e\u2060-\u2069\ufeff]/u
const readable = /[\p{L}\p{N}]/u

/** One line of text written by a person. */
export function line(most: number) {
  return z
    .string()
    .trim()
    .min(1, 'This cannot be empty.')
    .max(most, `Use at most ${most} characters.`)
    .refine((text) => !unprintable.test(text), 'Use ordinary letters and signs on one line.')
    .refine((text) => text === '' || readable.test(text), 'Write it with a letter or a figure at least.')
}

/** Holds a value against narrower limits than it is read back by: what was stored once can always be shown. */
export function within<Limits extends z.ZodType>(limits: Limits) {
  return (value: unknown, context: z.RefinementCtx): void => {
    const { error } = limits.safeParse(value)
    for (const { path, message } of error?.issues ?? []) context.addIssue({ code: 'custom', path: [...path], message })
  }
}

/** A longer note; line breaks are allowed. */
export function note(most: number) {
  return z
    .string()
    .trim()
    .min(1, 'This cannot be empty.')
    .max(most, `Use at most ${most} characters.`)
    .refine((text) => !unprintable.test(text.replace(/[\n\r\t]/g, '')), 'Use ordinary letters and signs.')
}

/** A weight as typed, with its unit: `184 g`, `1,25 kg`, `2 lb 3.5 oz`. Read into tenths of a gram, kept as entered. */
export const weightEntry = z
  .string('Type a weight with its unit, such as 184 g.')
  .transform((text, context) => {
    const parsed = parseWeight(text)
    if (parsed.ok) return { tenths: parsed.tenths, entered: parsed.entered }
    context.addIssue({ code: 'custom', message: parsed.message })
    return z.NEVER
  })
  .meta({ description: 'A weight with its unit: g, kg, lb or oz', example: '2950 g' })

/** A weight that was measured: tenths of a gram, and the words it was entered in. */
export const storedWeight = z.object({ tenths: z.int().positive().max(heaviestTenths), entered: z.string().max(40) })

/** An amount of money in the kitchen's currency, not negative. */
export const amount = z
  .number('Type an amount.')
  .min(0, 'An amount cannot be negative.')
  .max(1_000_000, 'That is over a million: check the amount.')

export const percent = z.number('Type a percentage.').min(0, 'A percentage is 0 or more.').max(100, 'A percentage is at most 100.')

/** A calendar day, 2000 to the end of next year. */
export const day = z.iso
  .date('Write a day such as 2026-03-14.')
  .refine((text) => text >= '2000-01-01', 'That day is too long ago: use 2000 or later.')
  .refine((text) => Number(text.slice(0, 4)) <= new Date().getUTCFullYear() + 1, 'That day is too far ahead.')

/**
 * A moment with its offset, 2000 to the end of next year: it may be the server's own clock that is off, and what was weighed is
 * not refused for that.
 */
export const moment = z.iso
  .datetime({ offset: true, message: 'Write a moment such as 2026-03-14T09:30:00Z.' })
  .refine((text) => new Date(text).getTime() >= Date.UTC(2000, 0, 1), 'That moment is too long ago.')
  .refine((text) => new Date(text).getUTCFullYear() <= new Date().getUTCFullYear() + 1, 'That moment lies in the future: check the clock.')

/** A moment as the server answers it, ISO 8601 in UTC. */
export const stamp = z.iso.datetime({ offset: true })

export const version = z.int('Send the version that was read.').min(1)

export const price = z
  .object({
    amount,
    per: z.enum(['kg', 'lb', 'each', 'case'], 'A price is per kg, lb, each or case.'),
    count: z.int('Count whole pieces.').min(1, 'A case has at least one piece.').max(10_000).optional(),
    grams: z.number().positive('A case weighs more than nothing.').max(500_000).optional(),
  })
  .refine((value) => value.per !== 'case' || value.count !== undefined || value.grams !== undefined, {
    path: ['count'],
    message: 'A case needs the number of pieces in it, or its weight.',
  })
  .refine((value) => value.per === 'case' || (value.count === undefined && value.grams === undefined), {
    path: ['per'],
    message: 'Only a case has a count or a weight.',
  })

/** A page of a list: give `nextCursor` back as `cursor` for the next one. */
export function pageOf<Entry extends z.ZodType>(entry: Entry) {
  return z.object({ entries: z.array(entry), nextCursor: z.string().nullable() })
}

export const pageQuery = z.object({
  cursor: z.string().max(200).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
})
