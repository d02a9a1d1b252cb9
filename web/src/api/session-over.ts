/** Whether the server no longer knows who is signed in, while this page still shows what they were at. */
let isOver = false
const watchers = new Set<() => void>()

function set(next: boolean): void {
  if (next === isOver) return
  isOver = next
  for (const watcher of watchers) watcher()
}

/** The server has answered that nobody is signed in. */
export const sessionRanOut = () => set(true)
/** Somebody has signed in, or signed out. */
export const sessionIsSettled = () => set(false)
export const isSessionOver = () => isOver

export function watchSession(watcher: () => void): () => void {
  watchers.add(watcher)
  return () => watchers.delete(watcher)
}
