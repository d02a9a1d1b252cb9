import type { Session } from '@fleam/contract/people'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { sessionQuery } from '../../api/queries.ts'
import { outbox } from '../../outbox/tablet-outbox.ts'
import { counted } from '../../ui/counted.ts'
import { say } from '../../ui/toasts.ts'
import { useChange } from '../../ui/use-change.ts'

/** Going on in another of one's kitchens. What this tablet still keeps for the present one stands in the way: it would go to the other. */
export function useMove() {
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [waiting, setWaiting] = useState(0)
  const { change, busy, trouble } = useChange({ send: (kitchenId: string) => send<Session>('PUT', '/session/kitchen', { kitchenId }) })
  async function move(kitchenId: string): Promise<void> {
    const { length } = outbox.state().lines
    setWaiting(length)
    if (length > 0) return
    const session = await change(kitchenId)
    if (!session) return
    queryClient.clear()
    queryClient.setQueryData(sessionQuery.queryKey, session)
    await navigate('/')
    say(`You are in ${session.kitchen.name} now, as ${session.person.role}.`)
  }
  const kept = waiting > 0 ? `${counted(waiting, 'line')} kept on this tablet for this kitchen: send them or let them go first.` : undefined
  return { move, busy, trouble: kept ?? trouble }
}
