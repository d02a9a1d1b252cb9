import type { Tub } from '@fleam/contract/runs'
import type { LiveReading } from '@fleam/contract/scales'
import { freshWatch, leastTenths, type SteadyWatch, type WeighingWay, watchReading, weightOnOffer } from '@fleam/core/scale/steady-weight'
import { useRef } from 'react'
import { useRemembered } from '../../../ui/remembered.ts'
import { useScale } from './use-scale.ts'

/** A pan that swings for longer than this is being handled, not waited for. */
const patienceMs = 2000

interface Hands {
  tub: Tub | undefined
  inTubTenths: number
  /** A weight that goes into the chosen tub by itself. */
  onTaken: (tenths: number) => void
}

/**
 * The scale as a cook uses it: steady weights only, by the piece, into the tub or the tub at the end; by a tap, or
 * hands-free, each load once.
 */
export function useWeighingHands({ tub, inTubTenths, onTaken }: Hands) {
  const [way, setWay] = useRemembered<WeighingWay>('fleam.way', 'piece')
  const [isHandsFree, setHandsFree] = useRemembered('fleam.hands-free', false)
  const watch = useRef<SteadyWatch>(freshWatch)
  /**
   * What must come first: after a tare the pan reads nothing; a tub that product goes into is tared, so that its own weight
   * does not go in with it.
   */
  const awaits = useRef<'nothing' | 'zero' | 'tare'>(way === 'into-tub' ? 'tare' : 'nothing')
  const lastTareTenths = useRef(0)
  /** A tap that came while the pan still swung: it is for the weight that the pan comes to rest at. */
  const early = useRef<{ until: number; take: (tenths: number) => void }>(undefined)
  const now = useRef({ way, isHandsFree, inTubTenths, onTaken, tubId: tub?.id })
  if (way === 'into-tub' && now.current.tubId !== tub?.id) awaits.current = lastTareTenths.current > 0 ? 'zero' : 'tare'
  now.current = { way, isHandsFree, inTubTenths, onTaken, tubId: tub?.id }

  function onReading(reading: LiveReading): void {
    const { current } = now
    const isTaredAnew = reading.tareTenths > 0 && reading.tareTenths !== lastTareTenths.current
    lastTareTenths.current = reading.tareTenths
    if (awaits.current !== 'nothing') {
      const isAtZero = Math.abs(reading.tenths) < leastTenths && reading.state === 'steady'
      // a tare that the scale has just taken is the tub's: what lies on it from now on is product, however soon it comes
      if (!(awaits.current === 'zero' && (isTaredAnew || isAtZero))) return
      awaits.current = 'nothing'
      watch.current = freshWatch
      if (!isTaredAnew) return
    }
    const { watch: next, takenTenths } = watchReading(watch.current, reading, current.way, current.inTubTenths)
    const tap = early.current
    if (takenTenths !== undefined || reading.tenths < leastTenths) early.current = undefined
    if (takenTenths === undefined) watch.current = next
    else if (tap && Date.now() < tap.until) {
      watch.current = next
      tap.take(takenTenths)
    } else if (current.isHandsFree) {
      watch.current = next
      current.onTaken(takenTenths)
    }
  }

  const scale = useScale(onReading)
  const reading = scale.state.kind === 'reading' ? scale.state.reading : undefined

  return {
    ...scale,
    reading,
    way,
    isHandsFree,
    awaits: awaits.current,
    setHandsFree,
    setWay(next: WeighingWay) {
      watch.current = freshWatch
      awaits.current = next === 'into-tub' ? 'tare' : 'nothing'
      setWay(next)
    },
    async tare() {
      awaits.current = 'zero'
      await scale.tare()
    },
    /** What a tap would put in now; `undefined` while nothing steady and new lies on the pan. */
    offer(): number | undefined {
      return reading && awaits.current === 'nothing' ? weightOnOffer(watch.current, reading, way, inTubTenths) : undefined
    },
    /** A tap that came while something new on the pan still swings: its weight is taken once it is steady. */
    onceSteady(take: (tenths: number) => void): void {
      const isSwinging = reading?.state === 'moving' && reading.tenths >= leastTenths && !watch.current.isWaitingForClear
      if (isSwinging && awaits.current === 'nothing' && way !== 'into-tub') early.current = { until: Date.now() + patienceMs, take }
    },
    /** Marks what lies on the pan as put in. */
    take(): void {
      if (reading) watch.current = watchReading(watch.current, reading, way, inTubTenths).watch
    },
    /** Puts in by itself what lies there now, once a refusal has been seen to. */
    forget(): void {
      watch.current = freshWatch
    },
  }
}
