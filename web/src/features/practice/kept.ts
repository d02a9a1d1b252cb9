import { useCallback, useEffect, useState } from 'react'
import { ProblemFailure, send } from '../../api/http.ts'

/** What waits on this tablet, and how to add to it. */
export interface Kept<Line> {
  add: (line: Line) => void
  waiting: readonly Line[]
  /** Why the server did not take one: it is let go. */
  trouble: string | undefined
}

const againMs = 5000

function readKept<Line>(key: string): Line[] {
  try {
    return JSON.parse(localStorage.getItem(key) ?? '[]') as Line[]
  } catch {
    return []
  }
}

/** Changes what is kept as it is now: another page of this tablet may have added or sent some meanwhile. */
function changeKept<Line>(key: string, make: (lines: Line[]) => Line[]): Line[] {
  const next = make(readKept<Line>(key))
  localStorage.setItem(key, JSON.stringify(next))
  return next
}

/** Keeps a line and sends it once; if it does not arrive, the page that shows such lines goes on trying. */
export async function keepAndSend<Line extends { id: string }>(key: string, path: string, line: Line): Promise<void> {
  changeKept<Line>(key, (lines) => [...lines, line])
  const arrived = await send('POST', path, line).then(
    () => true,
    () => false,
  )
  if (arrived) changeKept<Line>(key, (lines) => lines.filter(({ id }) => id !== line.id))
}

/**
 * Keeps lines on this tablet until the server has them, one after the other in their order. Each carries its own id, so that one that arrives twice
 * counts once.
 *
 * @param key under which they are kept; one for each person
 * @param onAnswer must stay the same from one turn to the next
 */
export function useKept<Line extends { id: string }, Answer>(
  key: string,
  pathOf: (line: Line) => string,
  onAnswer: (answer: Answer, line: Line) => void,
): Kept<Line> {
  const [waiting, setWaiting] = useState(() => readKept<Line>(key))
  const [trouble, setTrouble] = useState<string>()
  const change = useCallback((make: (lines: Line[]) => Line[]) => setWaiting(changeKept(key, make)), [key])
  const [first] = waiting
  useEffect(() => {
    if (!first) return
    let isOver = false
    const tryIt = async () => {
      try {
        const answer = await send<Answer>('POST', pathOf(first), first)
        if (!isOver) onAnswer(answer, first)
      } catch (error) {
        // what is refused is let go with its reason; what did not arrive is tried again
        if (!(error instanceof ProblemFailure) || error.problem.status >= 500 || [401, 429].includes(error.problem.status)) return
        setTrouble(error.message)
      }
      if (!isOver) change((lines) => lines.filter(({ id }) => id !== first.id))
    }
    void tryIt()
    const timer = setInterval(() => void tryIt(), againMs)
    return () => {
      isOver = true
      clearInterval(timer)
    }
  }, [first, pathOf, onAnswer, change])
  return { add: (line) => change((lines) => [...lines, line]), waiting, trouble }
}
