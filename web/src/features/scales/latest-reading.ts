import type { LiveReading } from '@fleam/contract/scales'
import { useSyncExternalStore } from 'react'

/** What the scale read last. It changes many times a second: only what shows it watches it, the bench around it does not. */
export interface LatestReading {
  get(): LiveReading | undefined
  set(reading: LiveReading | undefined): void
  watch(watcher: () => void): () => void
}

export function latestReading(): LatestReading {
  let latest: LiveReading | undefined
  const watchers = new Set<() => void>()
  return {
    get: () => latest,
    set(reading) {
      latest = reading
      for (const watcher of watchers) watcher()
    },
    watch(watcher) {
      watchers.add(watcher)
      return () => watchers.delete(watcher)
    },
  }
}

export function useLatestReading({ watch, get }: LatestReading): LiveReading | undefined {
  return useSyncExternalStore(watch, get)
}
