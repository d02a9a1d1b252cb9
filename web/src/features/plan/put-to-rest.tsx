import type { RunSummary } from '@fleam/contract/runs'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { SelectField } from '../../ui/fields.tsx'
import { lastBench } from '../../ui/last-bench.ts'
import { Warning, Word } from '../../ui/notes.tsx'
import { messageOf } from '../../ui/submission.ts'

/** Writes on the Board when the log of a run can be cut. */
export function PutToRest({ hoursLow, hoursHigh }: { hoursLow: number; hoursHigh: number }) {
  const queryClient = useQueryClient()
  const open = useQuery({ queryKey: ['runs', 'open'], queryFn: () => get<{ entries: RunSummary[] }>('/runs?status=open&limit=50') })
  const [runId, setRunId] = useState(lastBench)
  const [said, setSaid] = useState<string>()
  const [trouble, setTrouble] = useState<string>()
  const runs = open.data?.entries ?? []
  const chosen = runs.find((run) => run.id === runId) ?? runs[0]
  if (!chosen) return <p className="field-hint">Start a run, and the hours of rest can be put on the Board.</p>

  async function put() {
    if (!chosen) return
    try {
      const what = { kind: 'rest', what: `${chosen.item.name}, bonded pair`.slice(0, 80), hoursLow, hoursHigh }
      await send('POST', `/runs/${chosen.id}/bench-events`, { id: newId(), at: new Date().toISOString(), what })
      await queryClient.invalidateQueries({ queryKey: ['rests'] })
      setSaid(`On the Board: it can be cut in ${hoursLow} h.`)
      setTrouble(undefined)
    } catch (error) {
      setTrouble(messageOf(error))
    }
  }

  return (
    <details className="take-to-bench">
      <summary>Bonded now: put its rest on the Board</summary>
      <SelectField
        label="Run"
        value={chosen.id}
        onChange={setRunId}
        options={runs.map((run) => ({ value: run.id, label: `Run ${run.number}, ${run.item.name}` }))}
      />
      {trouble && <Warning>{trouble}</Warning>}
      {said && <Word isGood>{said}</Word>}
      <Button variant="act" onClick={put}>
        It rests from now
      </Button>
    </details>
  )
}
