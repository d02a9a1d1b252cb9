import { createAsyncStoragePersister } from '@tanstack/query-async-storage-persister'
import type { QueryClient } from '@tanstack/react-query'
import { type PersistedClient, persistQueryClient } from '@tanstack/react-query-persist-client'
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
  'follow-on',
  'follow-on-sheets',
  'practised',
  'attempts',
  'usual-shapes',
  'eye',
  'exercises',
  'progress',
  'exercise-results',
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
    serialize: (client) => JSON.stringify(asLastSeen(client)),
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
      shouldDehydrateQuery: ({ state, queryKey }) => state.data != null && keptKeys.has(String(queryKey[0])),
    },
  })
  await Promise.race([restored.catch(() => undefined), new Promise((resolve) => setTimeout(resolve, patienceMs))])
  // shown at once, but never taken for what the server says now
  void queryClient.invalidateQueries({ refetchType: 'none' })
}

/** What was seen stays seen, though the server was away or the session had run out when it was asked again. */
function asLastSeen(client: PersistedClient): PersistedClient {
  const queries = client.clientState.queries.map((query) => ({
    ...query,
    state: { ...query.state, status: 'success' as const, error: null, fetchFailureCount: 0, fetchFailureReason: null },
  }))
  return { ...client, clientState: { ...client.clientState, queries } }
}
