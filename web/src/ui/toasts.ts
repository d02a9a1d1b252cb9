/** A word about what was done, with the way to take it back. */
export interface Said {
  id: number
  words: string
  undo: (() => Promise<unknown>) | undefined
}

let said: readonly Said[] = []
let lastId = 0
const listeners = new Set<() => void>()

function set(next: readonly Said[]): void {
  said = next
  for (const listener of listeners) listener()
}

export function say(words: string, undo?: () => Promise<unknown>): void {
  lastId += 1
  set([...said.slice(-2), { id: lastId, words, undo }])
}

export function unsay(id: number): void {
  set(said.filter((one) => one.id !== id))
}

export const readSaid = () => said

export function watchSaid(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
