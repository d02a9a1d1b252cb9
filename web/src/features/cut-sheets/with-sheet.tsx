import type { CutSheet } from '@fleam/contract/cut-sheets'
import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { useParams } from 'react-router'
import { get } from '../../api/http.ts'
import { Failed, Loading } from '../../ui/notes.tsx'

/** The cut sheet that the address names, once it is here. */
export function WithSheet({ children }: { children: (sheet: CutSheet) => ReactNode }) {
  const { id = '' } = useParams()
  const { data, error, refetch } = useQuery({ queryKey: ['cut-sheets', id], queryFn: () => get<CutSheet>(`/cut-sheets/${id}`) })
  if (error) {
    return (
      <main className="page">
        <Failed error={error} retry={refetch} />
      </main>
    )
  }
  return data ? children(data) : <Loading what="the cut sheet" />
}

/** Number of the first of a sheet's steps: 2 where setting the station comes before it. */
export const firstNumber = ({ station }: CutSheet['body']) => (station.length > 0 ? 2 : 1)
