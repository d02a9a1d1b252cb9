import { flushSync } from 'react-dom'
import { useHotkeys } from 'react-hotkeys-hook'

interface BenchKeys {
  /** A panel is open: keys are for it. */
  isAsleep: boolean
  /** What has been typed so far. */
  entry: string
  onType: (entry: string) => void
  /** Into the tub at this place, or into the chosen one. */
  onPut: (place?: number) => void
  /** The last piece to the tub at this place. */
  onMove: (place: number) => void
  onTakeBack: () => void
  onLeave: () => void
  /** Another tub is chosen. */
  onTub: (by: 1 | -1) => void
  /** Another step. */
  onStep: (by: 1 | -1) => void
  onHelp: () => void
}

/** The whole bench by the keyboard: figures, units, tubs, steps, back. */
export function useBenchKeys(keys: BenchKeys): void {
  const { isAsleep, entry, onType, onPut } = keys
  function press(event: KeyboardEvent) {
    if (isAsleep || event.ctrlKey || event.metaKey || isControl(event)) return
    const digit = /^Digit([1-9])$/.exec(event.code)?.[1]
    if (event.altKey && digit) {
      if (event.shiftKey) keys.onMove(Number(digit) - 1)
      else onPut(Number(digit) - 1)
    } else if (event.altKey) return
    else if (/^[0-9.,a-z]$/i.test(event.key)) onType(entry + event.key.toLowerCase())
    else if (event.key === ' ' && entry !== '') onType(`${entry} `)
    else if (event.key === ' ' || event.key === 'Enter') onPut()
    else if (event.key === 'Backspace' && entry !== '') onType(entry.slice(0, -1))
    else if (event.key === 'Backspace') keys.onTakeBack()
    else if (event.key === 'Escape') keys.onLeave()
    else if (event.key === 'ArrowRight' || event.key === 'ArrowDown') keys.onTub(1)
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowUp') keys.onTub(-1)
    else if (event.key === 'PageDown') keys.onStep(1)
    else if (event.key === 'PageUp') keys.onStep(-1)
    else if (event.key === '?') keys.onHelp()
    else return
    event.preventDefault()
  }

  // keys can come faster than the page is drawn: each must see what the one before has typed
  useHotkeys('*', (event) => flushSync(() => press(event)), { ignoreModifiers: true })
}

/** Keys pressed on a button, link or field do what they do there. */
function isControl(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement
  if (target.closest('input, select, textarea')) return true
  return target.closest('button, a') !== null && (event.key === 'Enter' || event.key === ' ')
}
