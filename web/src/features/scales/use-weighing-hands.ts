import type { WeighingWay } from '@fleam/core/scale/steady-weight'
import { useState } from 'react'
import { useRemembered } from '../../ui/remembered.ts'
import { useScale } from './use-scale.ts'
import { type HandsNow, weighingHands } from './weighing-hands.ts'

interface Hands extends Pick<HandsNow, 'inTubTenths' | 'onTaken'> {
  tub: { id: string } | undefined
}

/** The scale of this bench in the hands of who works at it. */
export function useWeighingHands({ tub, inTubTenths, onTaken }: Hands) {
  const [way, setWay] = useRemembered<WeighingWay>('fleam.way', 'piece')
  const [isHandsFree, setHandsFree] = useRemembered('fleam.hands-free', false)
  const now = { way, isHandsFree, inTubTenths, onTaken, tubId: tub?.id }
  const [hands] = useState(() => weighingHands(now))
  hands.become(now)
  const scale = useScale(hands.read)
  return {
    ...scale,
    way,
    isHandsFree,
    awaits: hands.awaits,
    setHandsFree,
    setWay(next: WeighingWay) {
      hands.startWay(next)
      setWay(next)
    },
    async tare() {
      hands.tared()
      await scale.tare()
    },
    take: hands.take,
    onceSteady: hands.onceSteady,
  }
}
