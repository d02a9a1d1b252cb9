import { createEmptyCard, fsrs, Rating, type Card as SpacedCard } from 'ts-fsrs'

/** How a card was answered the first time it was shown. `at` in milliseconds. */
export interface Answer {
  card: string
  isRight: boolean
  at: number
}

/** How well somebody knows a card. */
export interface Standing {
  card: string
  answers: number
  wrong: number
  /** Whether the last answer was right. */
  isHeld: boolean
  /** When it is best asked again, in milliseconds. */
  dueAt: number
  /** After so many days there are nine chances in ten that it is still known. */
  holdsDays: number
}

const spacing = fsrs({ request_retention: 0.9, enable_fuzz: false, enable_short_term: false })
const hour = 3_600_000
/** Answers that follow sooner are of the same sitting. */
const sittingMs = 8 * hour
const knownDays = 7

/**
 * How every card stands after some answers, by the free spaced repetition scheduler (FSRS). Only the first answer of a sitting tells whether
 * something was still known: what follows within eight hours moves nothing.
 *
 * @param answers in any order
 * @example standingsOf([{ card: 'a', isRight: true, at: 0 }]).get('a').dueAt > 0
 */
export function standingsOf(answers: readonly Answer[]): Map<string, Standing> {
  const spaced = new Map<string, { card: SpacedCard; lastAt: number; answers: number; wrong: number; isHeld: boolean }>()
  for (const { card, isRight, at } of [...answers].sort((a, b) => a.at - b.at)) {
    const known = spaced.get(card)
    if (known && at - known.lastAt < sittingMs) continue
    const before: SpacedCard = known?.card ?? createEmptyCard(new Date(at))
    const { card: after } = spacing.next(before, new Date(at), isRight ? Rating.Good : Rating.Again)
    spaced.set(card, {
      ...{ card: after, lastAt: at, isHeld: isRight },
      ...{ answers: (known?.answers ?? 0) + 1, wrong: (known?.wrong ?? 0) + (isRight ? 0 : 1) },
    })
  }
  return new Map(
    Array.from(spaced, ([card, { card: after, answers: asked, wrong, isHeld }]) => [
      card,
      { card, answers: asked, wrong, isHeld, dueAt: after.due.getTime(), holdsDays: after.stability },
    ]),
  )
}

/**
 * Whether a card counts as known: it was when last asked, and holds for a week.
 *
 * @example isKnown({ card: 'a', answers: 1, wrong: 0, isHeld: true, dueAt: 0, holdsDays: 9 }) === true
 */
export const isKnown = ({ isHeld, holdsDays }: Pick<Standing, 'isHeld' | 'holdsDays'>): boolean => isHeld && holdsDays >= knownDays

export interface Sitting<Entry> {
  /** What has come due, the longest overdue first. */
  due: Entry[]
  /** What was never asked, in the order given. */
  fresh: Entry[]
  /** When the next card comes due, in milliseconds; `null` where none waits. */
  nextAt: number | null
}

/**
 * What is asked at a sitting: first what has come due, then new cards up to the number still meant for the day.
 *
 * @example sittingOf([{ id: 'a' }, { id: 'b' }], [], 0, { most: 20, fresh: 1 }).fresh // [{ id: 'a' }]
 */
export function sittingOf<Entry extends { id: string }>(
  cards: readonly Entry[],
  answers: readonly Answer[],
  now: number,
  limits: { most: number; fresh: number },
): Sitting<Entry> {
  const standings = standingsOf(answers)
  const dueAt = ({ id }: Entry) => standings.get(id)?.dueAt ?? 0
  const asked = cards.filter(({ id }) => standings.has(id))
  const due = asked.filter((card) => dueAt(card) <= now).sort((a, b) => dueAt(a) - dueAt(b))
  const firstAnswers = new Map<string, number>()
  for (const { card, at } of answers) firstAnswers.set(card, Math.min(at, firstAnswers.get(card) ?? at))
  const freshLately = [...firstAnswers.values()].filter((at) => now - at < 2 * sittingMs).length
  const waiting = asked.map(dueAt).filter((at) => at > now)
  const room = Math.max(0, Math.min(limits.fresh - freshLately, limits.most - due.length))
  return {
    due: due.slice(0, limits.most),
    fresh: cards.filter(({ id }) => !standings.has(id)).slice(0, room),
    nextAt: waiting.length > 0 ? Math.min(...waiting) : null,
  }
}
