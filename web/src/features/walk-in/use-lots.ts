import type { Lot } from '@fleam/contract/walk-in'
import { InputError } from '@fleam/core/input-error'
import type { Keeping } from '@fleam/core/walk-in/keeping'
import { happen, type LotHappening } from '@fleam/core/walk-in/lot'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo } from 'react'
import { newId } from '../../api/new-id.ts'
import { followOnsQuery, lotsQuery, thrownAwayQuery, useKitchen, useSession } from '../../api/queries.ts'
import type { LotLine, OutboxLine } from '../../outbox/outbox-line.ts'
import { outbox, useOutbox } from '../../outbox/tablet-outbox.ts'
import { today } from '../../ui/days.ts'
import { say } from '../../ui/toasts.ts'

const isWaiting = (line: OutboxLine): line is LotLine => line.kind === 'lot' && line.refusal === null

/** Lots as they stand on the server, with what this tablet has done to them and not sent yet. */
export function withWaitingMoves(lots: readonly Lot[], lines: readonly OutboxLine[], day: string, keeping: Keeping): Lot[] {
  const waiting = lines.filter(isWaiting)
  if (waiting.length === 0) return [...lots]
  return lots.map((lot) => {
    let stood = lot
    for (const { lotId, what } of waiting) {
      if (lotId !== lot.id || what.kind === 'undo') continue
      try {
        stood = { ...stood, ...happen(stood, what, day, keeping).after }
      } catch (error) {
        // it had been done already when this was read, or cannot be done: the server says which
        if (!(error instanceof InputError)) throw error
      }
    }
    return stood
  })
}

export function useLots() {
  const query = useQuery(lotsQuery)
  const { lines } = useOutbox()
  const { keeping } = useKitchen().settings.walkIn
  const day = today()
  const lots = useMemo(
    () => query.data && withWaitingMoves(query.data, lines, day, keeping).filter(({ leftTenths }) => leftTenths > 0),
    [query.data, lines, day, keeping],
  )
  return { lots, isPending: query.isPending, error: query.error, refetch: query.refetch }
}

/** Does things to lots: at once on the screen, in order on the server, said with the way to take it back. */
export function useMoves() {
  const queryClient = useQueryClient()
  const { person } = useSession()
  useEffect(
    () =>
      outbox.whenStored((_line, answer) => {
        if (!('lot' in answer)) return
        const { moves: _books, ...stored } = answer.lot
        queryClient.setQueryData(['lot', stored.id], answer.lot)
        // the line is gone from the outbox now: the list must have it, though it cannot be read again just yet
        queryClient.setQueryData(lotsQuery.queryKey, (known) => known?.map((lot) => (lot.id === stored.id ? stored : lot)))
        for (const { queryKey } of [lotsQuery, followOnsQuery, thrownAwayQuery]) void queryClient.invalidateQueries({ queryKey })
      }),
    [queryClient],
  )
  const post = (lot: Pick<Lot, 'id' | 'name'>, what: LotLine['what']) => {
    const id = newId()
    void outbox.post({
      id,
      kind: 'lot',
      lotId: lot.id,
      name: lot.name,
      what,
      at: new Date().toISOString(),
      person: { id: person.id, name: person.name },
    })
    return id
  }
  return {
    move(lot: Pick<Lot, 'id' | 'name'>, what: LotHappening, words: string) {
      const moveId = post(lot, what)
      say(words, what.kind === 'split' ? undefined : async () => void post(lot, { kind: 'undo', moveId }))
    },
    undo: (lot: Pick<Lot, 'id' | 'name'>, moveId: string) => void post(lot, { kind: 'undo', moveId }),
  }
}
