import { useSyncExternalStore } from 'react'

/** A form with something typed that is not kept yet. */
export interface Unsaved {
  /** Whether a reload finds it again. */
  isDraftKept: boolean
  /** Lets go of what was typed. */
  discard: () => void
}

const unsaved = new Set<Unsaved>()
const listeners = new Set<() => void>()
let waiting: (() => void) | undefined

function tell(): void {
  for (const listener of listeners) listener()
}

export function markUnsaved(form: Unsaved): void {
  unsaved.add(form)
}

export function markKept(form: Unsaved): void {
  unsaved.delete(form)
}

export function isAnythingUnsaved(): boolean {
  return unsaved.size > 0
}

/** Does what would lose something typed, at once where nothing is, else when the person has said so. */
export function askBeforeLeaving(leave: () => void): void {
  if (unsaved.size === 0) leave()
  else {
    waiting = leave
    tell()
  }
}

/** The question that waits for its answer. */
export function useLeaveQuestion() {
  const leave = useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => waiting,
  )
  const answer = (isLeaving: boolean) => {
    waiting = undefined
    if (isLeaving) {
      for (const form of unsaved) form.discard()
      unsaved.clear()
      leave?.()
    }
    tell()
  }
  return { isAsked: leave !== undefined, answer }
}

// a reload or a closed tab loses what no draft keeps: the browser asks in its own words
addEventListener('beforeunload', (event) => {
  if ([...unsaved].some((form) => !form.isDraftKept)) event.preventDefault()
})
