import type { TrainedEye } from '@fleam/contract/practice'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'
import { say } from '../../ui/toasts.ts'
import { keepAndSend, useKept } from './kept.ts'
import { offText } from './off-text.ts'
import { eyeQuery } from './queries.ts'

/** A guess that the server does not have yet. */
interface Guess {
  id: string
  said: number
  weighed: number
  what: string
  at: string
}

const toEye = () => '/practice/eye'
const keyOf = (personId: string) => `fleam.guesses.${personId}`

/** Guesses of one person, kept on this tablet until the server has them. */
export function useGuesses(personId: string) {
  const queryClient = useQueryClient()
  const take = useCallback((eye: TrainedEye) => queryClient.setQueryData(eyeQuery(personId).queryKey, eye), [queryClient, personId])
  return useKept<Guess, TrainedEye>(keyOf(personId), toEye, take)
}

/** A guess at the bench: told how far off it was, and kept. `written` is how the kitchen writes what was said. */
export function tellGuess(personId: string, guess: Guess, written: string): Promise<void> {
  say(`You said ${written}: ${offText(guess)}.`)
  return keepAndSend(keyOf(personId), toEye(), guess)
}
