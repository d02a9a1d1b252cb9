import type { LiveReading, TakenLoad } from '@fleam/contract/scales'
import { leastTenths } from '@fleam/core/scale/scale-reading'
import { steadyWeight, type WeighingWay } from '@fleam/core/scale/steady-weight'

/** A weight that the scale gave, and the load that it came from. */
export interface ScaleWeight {
  tenths: number
  load: TakenLoad
}

/** How the scale is used just now. */
export interface HandsNow {
  way: WeighingWay
  isHandsFree: boolean
  tubId: string | undefined
  /** What the chosen tub holds already, by the ledger. */
  inTubTenths: number
  /** A weight that goes into the chosen tub by itself. */
  onTaken: (weight: ScaleWeight) => void
}

/**
 * What must come first: after a tare the pan reads nothing; a tub that product goes into is tared, so that its own weight does
 * not go in with it.
 */
export type Awaited = 'nothing' | 'zero' | 'tare'

/** A pan that swings for longer than this is being handled, not waited for. */
const patienceMs = 2000

/**
 * The scale as a cook uses it: steady weights only, by the piece, into the tub or the tub at the end; by a tap, or hands-free,
 * each load once.
 */
export interface WeighingHands {
  /** Another tub, another way, more in the tub: said before the next reading. */
  become(next: HandsNow): void
  read(reading: LiveReading): void
  awaits(): Awaited
  /** Starts a way anew. */
  startWay(way: WeighingWay): void
  /** The scale was asked to tare. */
  tared(): void
  /** What a tap puts in now, marked as dealt with; `undefined` while nothing steady and new lies on the pan. */
  take(): ScaleWeight | undefined
  /** A tap that came while something new on the pan still swings: its weight is taken once it is steady. */
  onceSteady(take: (weight: ScaleWeight) => void): void
}

export function weighingHands(first: HandsNow, clock: () => number = Date.now): WeighingHands {
  let now = first
  let awaits: Awaited = first.way === 'into-tub' ? 'tare' : 'nothing'
  let latest: LiveReading | undefined
  let lastTareTenths = 0
  /** The load that this tablet has dealt with: the server, which tells everyone, hears of it a moment later. */
  let dealtWith: string | undefined
  /** A tap that came while the pan still swung: it is for the weight that the pan comes to rest at. */
  let early: { until: number; take: (weight: ScaleWeight) => void } | undefined

  function weightIn(reading: LiveReading, by: 'hands-free' | 'tap'): ScaleWeight | undefined {
    const { id } = reading.load
    if (awaits !== 'nothing' || id === null || id === dealtWith) return undefined
    const tenths = steadyWeight(reading, reading.load, now.way, now.inTubTenths, by)
    return tenths === undefined ? undefined : { tenths, load: { id, tenths: reading.tenths } }
  }

  /** @returns whether what is awaited has come */
  function waitFor(reading: LiveReading, isTaredAnew: boolean): boolean {
    const isAtZero = Math.abs(reading.tenths) < leastTenths && reading.state === 'steady'
    // a tare that the scale has just taken is the tub's: what lies on it from now on is product, however soon it comes
    if (!(awaits === 'zero' && (isTaredAnew || isAtZero))) return false
    awaits = 'nothing'
    return isTaredAnew
  }

  return {
    become(next) {
      if (next.way === 'into-tub' && next.tubId !== now.tubId) awaits = lastTareTenths > 0 ? 'zero' : 'tare'
      now = next
    },
    read(reading) {
      latest = reading
      const isTaredAnew = reading.tareTenths > 0 && reading.tareTenths !== lastTareTenths
      lastTareTenths = reading.tareTenths
      if (awaits !== 'nothing' && !waitFor(reading, isTaredAnew)) return
      const tap = early && clock() < early.until ? early : undefined
      const weight = weightIn(reading, tap ? 'tap' : 'hands-free')
      if (weight || reading.tenths < leastTenths) early = undefined
      if (weight && tap) {
        dealtWith = weight.load.id
        tap.take(weight)
      } else if (now.isHandsFree && reading.state === 'steady' && reading.load.id !== null) {
        // a tub at the end that holds nothing new is dealt with too: another tub that is chosen now must not get it
        if (weight || now.way === 'tub-at-end') dealtWith = reading.load.id
        if (weight) now.onTaken(weight)
      }
    },
    awaits: () => awaits,
    startWay(way) {
      awaits = way === 'into-tub' ? 'tare' : 'nothing'
    },
    tared() {
      awaits = 'zero'
    },
    take() {
      const weight = latest && weightIn(latest, 'tap')
      if (weight) dealtWith = weight.load.id
      return weight
    },
    onceSteady(take) {
      if (!latest || now.way === 'into-tub' || awaits !== 'nothing' || latest.load.id === dealtWith) return
      const isNew = latest.load.takenTenths === 0 || latest.load.wasThere
      if (latest.state === 'moving' && latest.tenths >= leastTenths && isNew) early = { until: clock() + patienceMs, take }
    },
  }
}
