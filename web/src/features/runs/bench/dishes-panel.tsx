import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { DishNeed } from '@fleam/contract/dishes'
import type { Run } from '@fleam/contract/runs'
import { gramsOf } from '@fleam/core/quantities/weight'
import { totalsByTub } from '@fleam/core/runs/ledger'
import { projectRun } from '@fleam/core/runs/projection'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { cutSheetsQuery, dishNeedsQuery } from '../../../api/queries.ts'
import { dayText } from '../../../ui/days.ts'
import { Empty, Failed, Loading } from '../../../ui/notes.tsx'
import { SidePanel } from '../../../ui/side-panel.tsx'
import { useUnits } from '../../../ui/units.ts'

/** What dishes wait for, what this run will bring of it, and where the rest could come from. */
export function DishesPanel({ run, onClose }: { run: Run; onClose: () => void }) {
  const needs = useQuery(dishNeedsQuery)
  const sheets = useQuery(cutSheetsQuery)
  return (
    <SidePanel title="Dishes that wait for this" onClose={onClose}>
      {needs.isPending && <Loading what="dishes" />}
      {needs.error && <Failed error={needs.error} retry={needs.refetch} />}
      {needs.data?.length === 0 && (
        <Empty title="No dish is waiting for a second product.">
          <p>
            A lead writes them down under <Link to="/kitchen/dishes">Kitchen, Dishes</Link>.
          </p>
        </Empty>
      )}
      <ul className="plain-list">
        {needs.data?.map((need) => (
          <Need key={need.id} need={need} run={run} sheets={sheets.data ?? []} />
        ))}
      </ul>
    </SidePanel>
  )
}

function Need({ need, run, sheets }: { need: DishNeed; run: Run; sheets: readonly CutSheet[] }) {
  const { weight } = useUnits()
  const own = need.animal === run.item.animal ? run.tubs.filter((tub) => tub.key === need.product) : []
  const projected = projectedTenths(run)
  const brings = own.reduce((sum, tub) => sum + (projected.get(tub.id) ?? 0), 0)
  const missing = need.need.tenths - need.collectedTenths - brings
  const name = own[0]?.name ?? need.product
  const sources = sheets
    .filter((sheet) => !sheet.retired && sheet.body.animal === need.animal && sheet.id !== run.cutSheet.id)
    .flatMap((sheet) =>
      sheet.body.outputs.filter((output) => output.key === need.product).map((output) => ({ sheet, pct: output.typicalPct })),
    )
    .sort((a, b) => b.pct - a.pct)
  return (
    <li>
      <b>{need.dish}</b>
      <small>
        {weight(need.need.tenths)} of {name.toLowerCase()} by {dayText(need.dueOn)} · {weight(need.collectedTenths)} there already
      </small>
      <p>
        This run will bring about <b>{weight(brings)}</b>.{' '}
        {missing <= 0 ? <span className="good">That is enough.</span> : <span className="hot">{weight(missing)} still missing.</span>}
      </p>
      {missing > 0 && <MoreFrom missing={missing} run={run} brings={brings} sources={sources} />}
    </li>
  )
}

interface MoreFromProps {
  missing: number
  run: Run
  brings: number
  sources: readonly { sheet: CutSheet; pct: number }[]
}

function MoreFrom({ missing, run, brings, sources }: MoreFromProps) {
  const perItem = brings / run.pieces
  const lines = [
    ...(perItem > 0 ? [`${Math.ceil(missing / perItem)} more on this sheet`] : []),
    ...sources.slice(0, 3).map(({ sheet, pct }) => {
      const grams = ((sheet.body.weightKg.low + sheet.body.weightKg.high) / 2) * 1000 * (pct / 100)
      return `${Math.ceil(gramsOf(missing) / grams)} × ${sheet.body.name}`
    }),
  ]
  return (
    <p>
      {lines.length > 0 ? `It could come from: ${lines.join('; or ')}.` : 'No cut sheet here brings it: buy it in, or change the dish.'}
    </p>
  )
}

function projectedTenths(run: Run): Map<string, number> {
  const totals = totalsByTub(run.weighings)
  const outputs = run.tubs.map((tub) => ({ id: tub.id, weighedTenths: totals.get(tub.id)?.tenths ?? 0, typicalPct: tub.typicalPct }))
  return new Map([...projectRun(gramsOf(run.received.tenths), outputs)].map(([id, grams]) => [id, Math.round(grams * 10)]))
}
