/** Lets so many in at once. Those who wait come in by turns of their owners, and leave the line when their signal says so. */
export interface Turns {
  /**
   * @returns what is called when the work is over
   * @throws whatever `refuse` makes, where the owner has too much waiting already
   */
  take(owner: string, signal?: AbortSignal): Promise<() => void>
}

export interface TurnsOptions {
  atOnce: number
  /** What one owner may have waiting. */
  mostWaiting: number
  refuse: () => Error
}

export function takeTurns({ atOnce, mostWaiting, refuse }: TurnsOptions): Turns {
  const lines = new Map<string, { enter: () => void }[]>()
  let inside = 0

  function next(): void {
    const [owner, line] = lines.entries().next().value ?? []
    if (inside >= atOnce || owner === undefined || !line) return
    // whoever was let in goes behind all others
    lines.delete(owner)
    const first = line.shift()
    if (line.length > 0) lines.set(owner, line)
    inside += 1
    first?.enter()
  }

  return {
    async take(owner, signal) {
      signal?.throwIfAborted()
      const line = lines.get(owner) ?? []
      if (line.length >= mostWaiting) throw refuse()
      await new Promise<void>((enter, turnAway) => {
        const waiting = { enter }
        lines.set(owner, line)
        line.push(waiting)
        signal?.addEventListener('abort', () => {
          const at = line.indexOf(waiting)
          if (at < 0) return
          line.splice(at, 1)
          if (line.length === 0 && lines.get(owner) === line) lines.delete(owner)
          turnAway(signal.reason)
        })
        next()
      })
      return () => {
        inside -= 1
        next()
      }
    },
  }
}
