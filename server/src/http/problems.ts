import type { Problem } from '@fleam/contract/problem'
import { type Ailment, ailmentOf } from '../db/ailments.ts'

/** Every kind of refusal that Fleam answers with. The `type` is stable; the words may change. */
const kinds = {
  'invalid-input': { status: 400, title: 'Some of this cannot be accepted as it stands.' },
  'broken-request': { status: 400, title: 'The request could not be read.' },
  'not-signed-in': { status: 401, title: 'Sign in to go on.' },
  'wrong-secret': { status: 401, title: 'That name and PIN or passphrase do not go together.' },
  'time-code-needed': { status: 401, title: 'Type the time code too.' },
  'tablet-needed': { status: 403, title: 'A PIN opens only on a tablet of the kitchen: a manager enrols it under Kitchen.' },
  'role-too-low': { status: 403, title: 'Your role may not do this.' },
  'foreign-origin': { status: 403, title: 'This request came from another site.' },
  'unknown-host': { status: 421, title: 'This server is not known by that name.' },
  'not-found': { status: 404, title: 'There is no such thing in this kitchen.' },
  'stale-version': { status: 409, title: 'Someone else changed this meanwhile.' },
  'run-closed': { status: 409, title: 'This run is closed.' },
  'follow-on-closed': { status: 409, title: 'This follow-on is closed.' },
  'run-open': { status: 409, title: 'This run is still open.' },
  'already-reversed': { status: 409, title: 'This weighing has been taken back already.' },
  'load-taken': { status: 409, title: 'What lies on the scale was taken already.' },
  'lot-refused': { status: 409, title: 'That cannot be done to this lot as it stands.' },
  'id-in-use': { status: 409, title: 'That id is in use for something else.' },
  'name-in-use': { status: 409, title: 'That name is taken.' },
  'already-set-up': { status: 409, title: 'This kitchen has its first manager already.' },
  'unsettled-balance': { status: 422, title: 'More came off the board than went on it.' },
  'reason-needed': { status: 422, title: 'The unaccounted loss is over the house limit.' },
  'decision-needed': { status: 422, title: 'Something came that is not as it should be.' },
  'odd-weights': { status: 422, title: 'These weights look wrong.' },
  'not-a-picture': { status: 422, title: 'That is not a picture that can be read.' },
  'no-quote': { status: 422, title: 'This item has no price yet.' },
  'day-not-met': { status: 422, title: 'The day cannot be met as it stands.' },
  'order-not-taken': { status: 422, title: 'This supplier takes no orders by wire.' },
  'supplier-away': { status: 502, title: 'The supplier cannot be reached.' },
  'scale-away': { status: 502, title: 'The scale cannot be reached.' },
  'too-much-work': { status: 422, title: 'That is more than is computed at once.' },
  busy: { status: 429, title: 'You have much waiting already.' },
  'too-many-writes': { status: 429, title: 'That was too much in a short time.' },
  'too-many-streams': { status: 429, title: 'This session has many pages open already.' },
  'too-slow': { status: 408, title: 'The request took too long to arrive.' },
  'too-large': { status: 413, title: 'That is too large to accept.' },
  'too-many-attempts': { status: 429, title: 'Too many sign-in attempts.' },
  internal: { status: 500, title: 'Fleam met something it did not expect.' },
  'database-away': { status: 503, title: 'The kitchen’s records cannot be reached just now.' },
  'database-unwritable': { status: 503, title: 'The kitchen’s records take nothing in just now.' },
  'database-damaged': { status: 503, title: 'The kitchen’s records are damaged.' },
} as const
export type ProblemKind = keyof typeof kinds

export class ProblemError extends Error {
  readonly kind: ProblemKind
  readonly extra: Pick<Problem, 'detail' | 'errors' | 'current'>
  readonly retryAfterSeconds: number | undefined

  constructor(kind: ProblemKind, extra: Pick<Problem, 'detail' | 'errors' | 'current'> = {}, retryAfterSeconds?: number) {
    super(kinds[kind].title)
    this.kind = kind
    this.extra = extra
    this.retryAfterSeconds = retryAfterSeconds
  }

  body(): Problem {
    const { status, title } = kinds[this.kind]
    return { type: `urn:fleam:problem:${this.kind}`, title, status, ...this.extra }
  }
}

/** A refusal of one field. */
export function refuseField(field: string, message: string, kind: ProblemKind = 'invalid-input'): ProblemError {
  return new ProblemError(kind, { errors: [{ field, message }] })
}

/** What somebody at a tablet is told when the database cannot do what it was asked; all of it may pass. */
const ailments: Record<Ailment, { kind: ProblemKind; detail: string }> = {
  away: { kind: 'database-away', detail: 'Nothing that was accepted is lost. Try again in a moment.' },
  contended: { kind: 'database-away', detail: 'Many write at once. Nothing that was accepted is lost. Try again in a moment.' },
  unwritable: {
    kind: 'database-unwritable',
    detail: 'Its disk is full or can only be read. Nothing that was accepted is lost, and what is weighed waits on the tablet.',
  },
  damaged: {
    kind: 'database-damaged',
    detail: 'A part of it cannot be read: whoever runs the server looks at it with npm run check, or restores a backup.',
  },
}

/** What to answer where the database could not do what it was asked; `undefined` where it was the asking. */
export function ailmentProblem(error: unknown): ProblemError | undefined {
  const ailment = ailmentOf(error)
  if (!ailment) return undefined
  const { kind, detail } = ailments[ailment]
  return new ProblemError(kind, { detail }, 2)
}
