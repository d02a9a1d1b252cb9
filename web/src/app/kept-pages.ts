import { createAsyncStoragePersister } from '@tanstack/query-async-storage-persister'
import type { QueryClient } from '@tanstack/react-query'
import { persistQueryClient } from '@tanstack/react-query-persist-client'
import { createStore, del, get, set } from 'idb-keyval'

/** What the bench needs to open without a server. Everything else is fetched anew. */
const keptKeys = new Set([
  'session',
  'run',
  'runs',
  'cut-sheets',
  'items',
  'suppliers',
  'dish-needs',
  'yield-book',
  'ways',
  'lots',
  'lot',
  'follow-ons',
])
const weekMs = 7 * 86_400_000
const gatherMs = 1000
/** A browser whose store never opens must still show the pages. */
const patienceMs = 1500

declare const __BUILT_AT__: string

/** Brings back what was seen last on this tablet, then goes on keeping what is seen. */
export async function openKeptPages(queryClient: QueryClient): Promise<void> {
  const store = createStore('fleam-pages', 'kept')
  const persister = createAsyncStoragePersister({
    key: 'queries',
    throttleTime: gatherMs,
    storage: {
      getItem: (key) => get<string>(key, store),
      setItem: (key, value) => set(key, value, store),
      removeItem: (key) => del(key, store),
    },
  })
  const [, restored] = persistQueryClient({
    queryClient,
    persister,
    maxAge: weekMs,
    // another build may know other shapes
    buster: __BUILT_AT__,
    dehydrateOptions: {
      shouldDehydrateQuery: ({ state, queryKey }) => state.status === 'success' && state.data != null && keptKeys.has(String(queryKey[0])),
    },
  })
  await Promise.race([restored.catch(() => undefined), new Promise((resolve) => setTimeout(resolve, patienceMs))])
  // shown at once, but never taken for what the server says now
  void queryClient.invalidateQueries({ refetchType: 'none' })
}
