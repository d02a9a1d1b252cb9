import { type DehydratedState, dehydrate, hydrate, type QueryClient } from '@tanstack/react-query'
import Dexie, { type EntityTable } from 'dexie'

/** What the bench needs to open without a server. Everything else is fetched anew. */
const keptKeys = new Set(['session', 'run', 'runs', 'cut-sheets', 'items', 'suppliers', 'dish-needs', 'yield-book', 'ways'])
const weekMs = 7 * 86_400_000
const gatherMs = 500

declare const __BUILT_AT__: string

interface KeptPages {
  id: 'all'
  /** Which build kept it: another may know other shapes. */
  builtAt: string
  at: number
  state: DehydratedState
}

const database = new Dexie('fleam-kept') as Dexie & { pages: EntityTable<KeptPages, 'id'> }
database.version(1).stores({ pages: 'id' })

/** Brings back what was seen last on this tablet, then goes on keeping what is seen. */
export async function openKeptPages(queryClient: QueryClient): Promise<void> {
  const kept = await database.pages.get('all').catch(() => undefined)
  if (kept?.builtAt === __BUILT_AT__ && Date.now() - kept.at < weekMs) {
    hydrate(queryClient, kept.state)
    // shown at once, but never taken for what the server says now
    void queryClient.invalidateQueries({ refetchType: 'none' })
  }
  let waiting: ReturnType<typeof setTimeout> | undefined
  const keep = () => {
    clearTimeout(waiting)
    waiting = undefined
    const state = dehydrate(queryClient, {
      shouldDehydrateQuery: (query) =>
        query.state.status === 'success' && query.state.data != null && keptKeys.has(String(query.queryKey[0])),
    })
    void database.pages.put({ id: 'all', builtAt: __BUILT_AT__, at: Date.now(), state }).catch(() => undefined)
  }
  queryClient.getQueryCache().subscribe(({ type }) => {
    if (type === 'updated' || type === 'removed') waiting ??= setTimeout(keep, gatherMs)
  })
  addEventListener('pagehide', keep)
}
