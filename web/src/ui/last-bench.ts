const key = 'fleam.last-bench'

/** The run whose bench was open last on this tablet; empty where none was. */
export function lastBench(): string {
  return localStorage.getItem(key) ?? ''
}

export function rememberBench(runId: string): void {
  localStorage.setItem(key, runId)
}
