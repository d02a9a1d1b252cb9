import type { Tub } from '@fleam/contract/runs'
import type { LiveReading, TakenLoad } from '@fleam/contract/scales'
import { leastTenths } from '@fleam/core/scale/scale-reading'
import { steadyWeight, type WeighingWay } from '@fleam/core/scale/steady-weight'
import { useRef } from 'react'
import { useRemembered } from '../../ui/remembered.ts'
import { useScale } from './use-scale.ts'

/** A pan that swings for longer than this is being handled, not waited for. */
const patienceMs = 2000

/** A weight that the scale gave, and the load that it came from. */
export interface ScaleWeight {
  tenths: number
  load: TakenLoad
}

interface Hands {
  tub: Tub | undefined
  inTubTenths: number
  /** A weight that goes into the chosen tub by itself. */
  onTaken: (weight: ScaleWeight) => void
}

/**
 * The scale as a cook uses it: steady weights only, by the piece, into the tub or the tub at the end; by a tap, or
 * hands-free, each load once, also after the page was left and opened again and where other tablets use the same scale.
 */
export function useWeighingHands({ tub, inTubTenths, onTaken }: Hands) {
  const [way, setWay] = useRemembered<WeighingWay>('fleam.way', 'piece')
  const [isHandsFree, setHandsFree] = useRemembered('fleam.hands-free', false)
  /** The load that this tablet has dealt with: the server, which tells everyone, hears of it a moment later. */
  const dealtWith = useRef<string>(undefined)
  /**
   * What must come first: after a tare the pan reads nothing; a tub that product goes into is tared, so that its own weight
   * does not go in with it.
   */
  const awaits = useRef<'nothing' | 'zero' | 'tare'>(way === 'into-tub' ? 'tare' : 'nothing')
  const lastTareTenths = useRef(0)
  /** A tap that came while the pan still swung: it is for the weight that the pan comes to rest at. */
  const early = useRef<{ until: number; take: (weight: ScaleWeight) => void }>(undefined)
  const now = useRef({ way, isHandsFree, inTubTenths, onTaken, tubId: tub?.id })
  if (way === 'into-tub' && now.current.tubId !== tub?.id) awaits.current = lastTareTenths.current > 0 ? 'zero' : 'tare'
  now.current = { way, isHandsFree, inTubTenths, onTaken, tubId: tub?.id }

  function weightIn(reading: LiveReading, by: 'hands-free' | 'tap'): ScaleWeight | undefined {
    const { id } = reading.load
    if (awaits.current !== 'nothing' || id === null || id === dealtWith.current) return undefined
    const tenths = steadyWeight(reading, reading.load, now.current.way, now.current.inTubTenths, by)
    return tenths === undefined ? undefined : { tenths, load: { id, tenths: reading.tenths } }
  }

  function onReading(reading: LiveReading): void {
    const isTaredAnew = reading.tareTenths > 0 && reading.tareTenths !== lastTareTenths.current
    lastTareTenths.current = reading.tareTenths
    const isSteady = reading.state === 'steady'
    if (awaits.current !== 'nothing') {
      const isAtZero = Math.abs(reading.tenths) < leastTenths && isSteady
      // a tare that the scale has just taken is the tub's: what lies on it from now on is product, however soon it comes
      if (!(awaits.current === 'zero' && (isTaredAnew || isAtZero))) return
      awaits.current = 'nothing'
      if (!isTaredAnew) return
    }
    const tap = early.current && Date.now() < early.current.until ? early.current : undefined
    const weight = weightIn(reading, tap ? 'tap' : 'hands-free')
    if (weight || reading.tenths < leastTenths) early.current = undefined
    if (weight && tap) {
      dealtWith.current = weight.load.id
      tap.take(weight)
    } else if (now.current.isHandsFree && isSteady && reading.load.id !== null && awaits.current === 'nothing') {
      // a tub at the end that holds nothing new is dealt with too: another tub that is chosen now must not get it
      if (weight || now.current.way === 'tub-at-end') dealtWith.current = reading.load.id
      if (weight) now.current.onTaken(weight)
    }
  }

  const scale = useScale(onReading)
  const { latest } = scale

  return {
    ...scale,
    way,
    isHandsFree,
    awaits: () => awaits.current,
    setHandsFree,
    setWay(next: WeighingWay) {
      awaits.current = next === 'into-tub' ? 'tare' : 'nothing'
      setWay(next)
    },
    async tare() {
      awaits.current = 'zero'
      await scale.tare()
    },
    /** What a tap puts in now, marked as dealt with; `undefined` while nothing steady and new lies on the pan. */
    take(): ScaleWeight | undefined {
      const reading = latest.get()
      const weight = reading && weightIn(reading, 'tap')
      if (weight) dealtWith.current = weight.load.id
      return weight
    },
    /** A tap that came while something new on the pan still swings: its weight is taken once it is steady. */
    onceSteady(take: (weight: ScaleWeight) => void): void {
      const reading = latest.get()
      if (!reading || way === 'into-tub' || awaits.current !== 'nothing' || reading.load.id === dealtWith.current) return
      const isNew = reading.load.takenTenths === 0 || reading.load.wasThere
      const isSwinging = reading.state === 'moving' && reading.tenths >= leastTenths && isNew
      if (isSwinging) early.current = { until: Date.now() + patienceMs, take }
    },
  }
}
