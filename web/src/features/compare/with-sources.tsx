import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useMemo } from 'react'
import { cutSheetsQuery, itemsQuery, useKitchen, waysQuery, yieldBookQuery } from '../../api/queries.ts'
import { Failed, Loading } from '../../ui/notes.tsx'
import type { Sources } from './open-portion.ts'

/** What comparisons are made from, once all of it is here. */
export function useSources(): { sources: Sources | undefined; error: unknown; refetch: () => void } {
  const { settings } = useKitchen()
  const [items, sheets, book, ways] = [useQuery(itemsQuery), useQuery(cutSheetsQuery), useQuery(yieldBookQuery), useQuery(waysQuery)]
  const sources = useMemo(
    () =>
      items.data && sheets.data && book.data && ways.data
        ? { items: items.data, sheets: sheets.data, book: book.data, ways: ways.data, settings }
        : undefined,
    [items.data, sheets.data, book.data, ways.data, settings],
  )
  return {
    sources,
    error: items.error ?? sheets.error ?? book.error ?? ways.error,
    refetch: () => {
      for (const query of [items, sheets, book, ways]) if (query.error) void query.refetch()
    },
  }
}

/** Shows what is made from the kitchen's prices and tests once they are here, and says where they cannot be had. */
export function WithSources({ children }: { children: (sources: Sources) => ReactNode }) {
  const { sources, error, refetch } = useSources()
  if (error) return <Failed error={error} retry={refetch} />
  return sources ? children(sources) : <Loading what="prices and tests" />
}
