import type { Tub } from '@fleam/contract/runs'
import type { LiveReading } from '@fleam/contract/scales'
import { freshWatch, leastTenths, type SteadyWatch, type WeighingWay, watchReading, weightOnOffer } from '@fleam/core/scale/steady-weight'
import { useRef } from 'react'
import { useRemembered } from '../../../ui/remembered.ts'
import { useScale } from './use-scale.ts'

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
  /** After a change of tub or tare, the pan must first read nothing. */
  const awaitsZero = useRef(false)
  const now = useRef({ way, isHandsFree, inTubTenths, onTaken, tubId: tub?.id })
  if (way === 'into-tub' && now.current.tubId !== tub?.id) awaitsZero.current = true
  now.current = { way, isHandsFree, inTubTenths, onTaken, tubId: tub?.id }

  function onReading(reading: LiveReading): void {
    const { current } = now
    if (awaitsZero.current) {
      if (Math.abs(reading.tenths) >= leastTenths || reading.state !== 'steady') return
      awaitsZero.current = false
      watch.current = freshWatch
      return
    }
    const { watch: next, takenTenths } = watchReading(watch.current, reading, current.way, current.inTubTenths)
    if (takenTenths === undefined) watch.current = next
    else if (current.isHandsFree) {
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
    awaitsZero: awaitsZero.current,
    setHandsFree,
    setWay(next: WeighingWay) {
      watch.current = freshWatch
      awaitsZero.current = next === 'into-tub'
      setWay(next)
    },
    async tare() {
      awaitsZero.current = true
      await scale.tare()
    },
    /** What a tap would put in now; `undefined` while nothing steady and new lies on the pan. */
    offer(): number | undefined {
      return reading && !awaitsZero.current ? weightOnOffer(watch.current, reading, way, inTubTenths) : undefined
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
