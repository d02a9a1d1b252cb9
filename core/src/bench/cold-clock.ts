/** The product leaves the cold, or goes back; moments in milliseconds. */
export interface ColdMove {
  at: number
  isOut: boolean
}

export interface ColdClock {
  isOut: boolean
  /** Minutes out of the cold, all stretches together. */
  minutesOut: number
  minutesLeft: number
  state: 'within' | 'warning' | 'over'
}

/**
 * How long a product has been out of the cold, against the house's limit. Time out adds up; time back in the cold does
 * not take any of it away. Received product is out from `startedAt` until it is put back.
 *
 * @param limitMinutes house limit; `warningMinutes` before it the state is `warning`
 * @example coldClock(0, [], 20 * 60_000, { limitMinutes: 30, warningMinutes: 10 }).state === 'warning'
 */
export function coldClock(
  startedAt: number,
  moves: readonly ColdMove[],
  now: number,
  { limitMinutes, warningMinutes }: { limitMinutes: number; warningMinutes: number },
): ColdClock {
  let outSince: number | undefined = startedAt
  let total = 0
  for (const { at, isOut } of [...moves].sort((a, b) => a.at - b.at)) {
    if (!isOut && outSince !== undefined) total += Math.max(0, at - outSince)
    if (isOut) outSince ??= at
    else outSince = undefined
  }
  if (outSince !== undefined) total += Math.max(0, now - outSince)
  const minutesOut = total / 60_000
  const minutesLeft = limitMinutes - minutesOut
  const state = minutesLeft < 0 ? 'over' : minutesLeft <= warningMinutes ? 'warning' : 'within'
  return { isOut: outSince !== undefined, minutesOut, minutesLeft, state }
}
