import { type Kitchen, readSettings } from '@fleam/contract/kitchen'

/** A session that is used every day ends all the same after so many. */
export const sessionDays = 14
const hour = 3_600_000

/** When a session ends if nobody does anything from now on: after the hours that its kitchen has set, and within two weeks. */
export function endOfSession(startedAt: Date, settings: Kitchen['settings'], isOnTablet: boolean, now: Date): Date {
  const { tabletHours, otherHours } = readSettings(settings).signedOutAfter
  const idle = now.getTime() + (isOnTablet ? tabletHours : otherHours) * hour
  return new Date(Math.min(idle, startedAt.getTime() + sessionDays * 24 * hour))
}
