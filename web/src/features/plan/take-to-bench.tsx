import type { Run, RunSummary } from '@fleam/contract/runs'
import type { BestMixInput } from '@fleam/core/plan/best-mix'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { useNavigate } from 'react-router'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { runQuery } from '../../api/queries.ts'
import { SelectField } from '../../ui/fields.tsx'
import { lastBench } from '../../ui/last-bench.ts'
import { Warning } from '../../ui/notes.tsx'
import { useChange } from '../../ui/use-change.ts'

/** Takes the plan to the bench of an open run, where it says how thick the next slice is. */
export function TakeToBench({ input }: { input: BestMixInput }) {
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const open = useQuery({ queryKey: ['runs', 'open'], queryFn: () => get<{ entries: RunSummary[] }>('/runs?status=open&limit=50') })
  const [runId, setRunId] = useState(lastBench)
  const { change, trouble, busy } = useChange({
    send: ({ id, what }: { id: string; what: object }) =>
      send('POST', `/runs/${id}/bench-events`, { id: newId(), at: new Date().toISOString(), what }),
  })
  const runs = open.data?.entries ?? []
  const asked = useQuery({ ...runQuery(runId), enabled: runId !== '' })
  // the run that was on the bench last comes first, even before the list of open runs has it
  const isAskedOpen = asked.data?.status === 'open'
  const otherId = runs[0]?.id ?? ''
  const other = useQuery({ ...runQuery(otherId), enabled: !asked.isLoading && !isAskedOpen && otherId !== '' })
  const detail = isAskedOpen ? asked.data : asked.isLoading ? undefined : other.data
  const [tubs, setTubs] = useState<Record<string, string>>({})
  if (!detail) return <p className="field-hint no-print">Start a run, and this plan can be taken to its bench.</p>
  const tubOf = (type: BestMixInput['types'][number]) => tubs[`${detail.id} ${type.id}`] ?? likelyTub(detail, input, type)

  async function take() {
    if (!detail) return
    const plan = { ...input, name: detail.item.name, tubs: Object.fromEntries(input.types.map((type) => [type.id, tubOf(type)])) }
    const places = input.stations.map(({ cm, girthCm, widthCm, heightCm }) => ({
      cm,
      ...(girthCm === undefined ? { widthCm, heightCm } : { girthCm }),
    }))
    const what = { kind: 'plan', plan: { ...plan, stations: places } }
    if ((await change({ id: detail.id, what })) === undefined) return
    await queryClient.invalidateQueries({ queryKey: runQuery(detail.id).queryKey })
    navigate(`/bench/${detail.id}`)
  }

  return (
    <details className="take-to-bench no-print">
      <summary>Take it to the bench</summary>
      <div className="fields">
        <SelectField
          label="Run"
          value={detail.id}
          onChange={setRunId}
          options={[detail, ...runs.filter((run) => run.id !== detail.id)].map((run) => ({
            value: run.id,
            label: `Run ${run.number}, ${run.item.name}, ${run.cook.name}`,
          }))}
        />
        {input.types.map((type) => (
          <SelectField
            key={type.id}
            label={`${type.id.replace(/^\d+ /, '')} goes into`}
            value={tubOf(type)}
            onChange={(key) => setTubs({ ...tubs, [`${detail.id} ${type.id}`]: key })}
            options={detail.tubs.filter((tub) => tub.key !== null).map((tub) => ({ value: tub.key ?? '', label: tub.name }))}
          />
        ))}
      </div>
      {trouble && <Warning>{trouble}</Warning>}
      <Button variant="act" disabled={busy} onClick={take}>
        To the bench
      </Button>
    </details>
  )
}

/** The tub that a kind goes into, most likely: the one with the nearest target, or the next of the sheet's own order. */
function likelyTub(run: Run, input: BestMixInput, type: BestMixInput['types'][number]): string {
  const tubs = run.tubs.filter((tub) => tub.key !== null && tub.role !== 'waste')
  const near = tubs.find(
    (tub) => tub.targetTenths !== null && Math.abs(tub.targetTenths / 10 - type.targetGrams) <= type.targetGrams * 0.15,
  )
  if (near?.key) return near.key
  const place = input.types.indexOf(type)
  const others = tubs.filter((tub) => tub.targetTenths === null)
  return others[Math.min(place, others.length - 1)]?.key ?? tubs[0]?.key ?? ''
}
