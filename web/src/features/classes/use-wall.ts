import type { Run } from '@fleam/contract/runs'
import { useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { runQuery } from '../../api/queries.ts'
import { followRun, type LiveState } from '../../live/live-run.ts'
import { addToRun } from '../../live/use-live.ts'
import { resultsQuery } from './queries.ts'

/** The results of an exercise with the run of every student as it stands this second. */
export function useWall(exerciseId: string) {
  const queryClient = useQueryClient()
  const results = useQuery(resultsQuery(exerciseId))
  const runIds = (results.data?.results ?? []).flatMap(({ runId }) => (runId === null ? [] : [runId]))
  const runs = useQueries({ queries: runIds.map((runId) => runQuery(runId)) })
  const [state, setState] = useState<LiveState>('connecting')
  const known = useRef(new Set<string>())
  known.current = new Set(runIds)
  useEffect(() => {
    const readAgain = () => void queryClient.invalidateQueries({ queryKey: resultsQuery(exerciseId).queryKey })
    return followRun(
      undefined,
      {
        onState: setState,
        onReady() {
          readAgain()
          for (const runId of known.current) void queryClient.invalidateQueries({ queryKey: runQuery(runId).queryKey })
        },
        onWeighing(weighing, runId) {
          if (known.current.has(runId)) addToRun(queryClient, runId, { weighings: [weighing] })
        },
        onEvent(event, runId) {
          if (event.what.kind !== 'changed') {
            if (known.current.has(runId)) addToRun(queryClient, runId, { event })
            return
          }
          // one that has just begun is not known yet
          if (event.what.what === 'status') readAgain()
          if (known.current.has(runId)) void queryClient.invalidateQueries({ queryKey: runQuery(runId).queryKey })
        },
      },
      (path) => new EventSource(path),
    )
  }, [exerciseId, queryClient])
  const byId = new Map<string, Run>(runs.flatMap(({ data }) => (data ? [[data.id, data] as const] : [])))
  return { results, runs: byId, state }
}
