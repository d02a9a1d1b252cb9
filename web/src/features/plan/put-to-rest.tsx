import type { RunSummary } from '@fleam/contract/runs'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { SelectField } from '../../ui/fields.tsx'
import { lastBench } from '../../ui/last-bench.ts'
import { Warning } from '../../ui/notes.tsx'
import { useChange } from '../../ui/use-change.ts'

/** Writes on the Board when the log of a run can be cut. */
export function PutToRest({ hoursLow, hoursHigh }: { hoursLow: number; hoursHigh: number }) {
  const open = useQuery({ queryKey: ['runs', 'open'], queryFn: () => get<{ entries: RunSummary[] }>('/runs?status=open&limit=50') })
  const [runId, setRunId] = useState(lastBench)
  const { change, trouble, busy } = useChange({
    send: ({ id, item }: RunSummary) => {
      const what = { kind: 'rest', what: `${item.name}, bonded pair`.slice(0, 80), hoursLow, hoursHigh }
      return send('POST', `/runs/${id}/bench-events`, { id: newId(), at: new Date().toISOString(), what })
    },
    refresh: [['rests']],
    said: () => `On the Board: it can be cut in ${hoursLow} h.`,
  })
  const runs = open.data?.entries ?? []
  const chosen = runs.find((run) => run.id === runId) ?? runs[0]
  if (!chosen) return <p className="field-hint">Start a run, and the hours of rest can be put on the Board.</p>

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
      <Button variant="act" disabled={busy} onClick={() => change(chosen)}>
        It rests from now
      </Button>
    </details>
  )
}
