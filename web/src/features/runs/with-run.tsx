import type { Run } from '@fleam/contract/runs'
import type { ReactNode } from 'react'
import { useParams } from 'react-router'
import { Failed, Loading } from '../../ui/notes.tsx'
import { useRun } from './use-run.ts'

/** The run that the address names, once it is here. */
export function WithRun({ children }: { children: (run: Run) => ReactNode }) {
  const { id = '' } = useParams()
  const { run, error, refetch } = useRun(id)
  if (run) return children(run)
  if (!error) return <Loading what="the run" />
  return (
    <main className="page">
      <Failed error={error} retry={refetch} />
    </main>
  )
}
