import type { CutList, CuttingPlan } from '@fleam/contract/plan'
import type { Run, RunSummary } from '@fleam/contract/runs'
import type { BestMixInput } from '@fleam/core/plan/best-mix'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { useNavigate } from 'react-router'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { cutSheetsQuery, runQuery } from '../../api/queries.ts'
import { SelectField } from '../../ui/fields.tsx'
import { lastBench } from '../../ui/last-bench.ts'
import { Warning } from '../../ui/notes.tsx'
import { useChange } from '../../ui/use-change.ts'
import { fitsKind, type PlanKind } from './fitting-cuts.ts'

/** A kind of piece that a plan makes: it goes into a tub of the run. */
interface PlannedKind {
  id: string
  label: string
  targetGrams: number
}

interface TakeToBenchProps {
  kind: PlanKind
  kinds: readonly PlannedKind[]
  /** The plan as the bench takes it, once it is known which kind goes into which tub. */
  planFor: (name: string, tubs: Record<string, string>) => CuttingPlan | CutList
}

/** Takes the plan to the bench of an open run, and to one of its items, where it says how thick the next slice is. */
export function TakeToBench({ kind, kinds, planFor }: TakeToBenchProps) {
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const open = useQuery({ queryKey: ['runs', 'open'], queryFn: () => get<{ entries: RunSummary[] }>('/runs?status=open&limit=50') })
  const [runId, setRunId] = useState(lastBench)
  const { change, trouble, busy } = useChange({
    send: ({ id, what }: { id: string; what: object }) =>
      send('POST', `/runs/${id}/bench-events`, { id: newId(), at: new Date().toISOString(), what }),
  })
  const sheets = useQuery(cutSheetsQuery)
  const runs = (open.data?.entries ?? []).filter(({ cutSheet }) => {
    const body = sheets.data?.find(({ id }) => id === cutSheet.id)?.body
    return body && fitsKind(kind, body)
  })
  const asked = useQuery({ ...runQuery(runId), enabled: runId !== '' })
  // the run that was on the bench last comes first, even before the list of open runs has it
  const isAskedOpen = asked.data?.status === 'open' && fitsKind(kind, asked.data.sheet)
  const otherId = runs[0]?.id ?? ''
  const other = useQuery({ ...runQuery(otherId), enabled: !asked.isLoading && !isAskedOpen && otherId !== '' })
  const detail = isAskedOpen ? asked.data : asked.isLoading ? undefined : other.data
  const [tubs, setTubs] = useState<Record<string, string>>({})
  const [piece, setPiece] = useState('1')
  if (!detail) return <p className="field-hint no-print">Start a run of such a piece, and this plan can be taken to its bench.</p>
  const tubOf = (planned: PlannedKind) => tubs[`${detail.id} ${planned.id}`] ?? likelyTub(detail, kinds, planned)

  async function take() {
    if (!detail) return
    const plan = planFor(detail.item.name, Object.fromEntries(kinds.map((planned) => [planned.id, tubOf(planned)])))
    const what = { kind: 'plan', plan, piece: detail.byPiece ? Number(piece) : null }
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
        {detail.byPiece && (
          <SelectField
            label="Piece that was measured"
            value={piece}
            onChange={setPiece}
            options={Array.from({ length: detail.pieces }, (_, index) => ({ value: String(index + 1), label: `piece ${index + 1}` }))}
          />
        )}
        {kinds.map((planned) => (
          <SelectField
            key={planned.id}
            label={planned.label}
            value={tubOf(planned)}
            onChange={(key) => setTubs({ ...tubs, [`${detail.id} ${planned.id}`]: key })}
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

/** A best mix as it is taken to the bench: each kind with its tub. */
export function TakeMixToBench({ kind, input }: { kind: PlanKind; input: BestMixInput }) {
  const kinds = input.types.map(({ id, targetGrams }) => ({ id, label: `${id.replace(/^\d+ /, '')} goes into`, targetGrams }))
  const stations = input.stations.map(({ cm, girthCm, widthCm, heightCm }) => ({
    cm,
    ...(girthCm === undefined ? { widthCm, heightCm } : { girthCm }),
  }))
  return <TakeToBench kind={kind} kinds={kinds} planFor={(name, tubs) => ({ ...input, types: [...input.types], stations, name, tubs })} />
}

interface TakeListProps {
  kind: PlanKind
  /** What its pieces are called. */
  what: string
  pieces: CutList['pieces']
}

/** Cuts that lie fixed, as they are taken to the bench: all go into one tub. */
export function TakeListToBench({ kind, what, pieces }: TakeListProps) {
  const grams = pieces.reduce((sum, piece) => sum + piece.grams, 0)
  const kinds = [{ id: what, label: `${what} go into`, targetGrams: grams / pieces.length }]
  return <TakeToBench kind={kind} kinds={kinds} planFor={(name, tubs) => ({ name, grams, pieces, tub: tubs[what] ?? '' })} />
}

/** The tub that a kind goes into, most likely: the one with the nearest target, or the next of the sheet's own order. */
function likelyTub(run: Run, kinds: readonly PlannedKind[], kind: PlannedKind): string {
  const tubs = run.tubs.filter((tub) => tub.key !== null && tub.role !== 'waste')
  const near = tubs.find(
    (tub) => tub.targetTenths !== null && Math.abs(tub.targetTenths / 10 - kind.targetGrams) <= kind.targetGrams * 0.15,
  )
  if (near?.key) return near.key
  const place = kinds.indexOf(kind)
  const others = tubs.filter((tub) => tub.targetTenths === null)
  return others[Math.min(place, others.length - 1)]?.key ?? tubs[0]?.key ?? ''
}
