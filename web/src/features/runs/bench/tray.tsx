import type { Run, Tub } from '@fleam/contract/runs'
import { portionState } from '@fleam/core/portions/portion-state'
import { type LedgerLine, readLedger } from '@fleam/core/runs/ledger'
import { memo, type ReactNode } from 'react'
import { roleWords } from '../../../ui/roles.ts'
import { useUnits } from '../../../ui/units.ts'

interface TrayProps {
  run: Run
  selectedId: string | undefined
  flash: { tubId: string; at: number } | undefined
  onTub: (tub: Tub) => void
  children?: ReactNode
}

/** The tubs in their steel tray; a tap puts the typed weight in. */
export function Tray({ run, selectedId, flash, onTub, children }: TrayProps) {
  const { byTub, totals } = readLedger(run.weighings)
  return (
    <div className="tray">
      <section className="tray-tubs" aria-label="Tubs">
        {run.tubs.map((tub, index) => (
          <TubTile
            key={flash?.tubId === tub.id ? `${tub.id} ${flash.at}` : tub.id}
            tub={tub}
            number={index + 1}
            lines={byTub.get(tub.id) ?? noLines}
            totalTenths={totals.get(tub.id)?.tenths ?? 0}
            expectedTenths={(run.received.tenths * tub.typicalPct) / 100}
            isSelected={tub.id === selectedId}
            isFlashing={flash?.tubId === tub.id}
            onTap={() => onTub(tub)}
          />
        ))}
      </section>
      {children}
    </div>
  )
}

const noLines: readonly LedgerLine[] = []

interface TubTileProps {
  tub: Tub
  number: number
  lines: readonly LedgerLine[]
  totalTenths: number
  expectedTenths: number
  isSelected: boolean
  isFlashing: boolean
  onTap: () => void
}

function TubTile({ tub, number, lines, totalTenths, expectedTenths, isSelected, isFlashing, onTap }: TubTileProps) {
  const { weightParts } = useUnits()
  const total = weightParts(totalTenths)
  const expectedCount = tub.targetTenths ? Math.round(expectedTenths / tub.targetTenths) : 0
  const counted = tub.targetTenths ? `${lines.length} of about ${expectedCount}` : lines.length > 1 ? `${lines.length} weighings` : ''
  return (
    <button
      type="button"
      className={`tub role-${tub.role} ${isSelected ? 'tub-selected' : ''} ${isFlashing ? 'tub-flash' : ''}`}
      aria-pressed={isSelected}
      data-tub={tub.id}
      onClick={onTap}
    >
      <span className="tub-name">{tub.name}</span>
      {number <= 9 && <kbd aria-label={`Alt and ${number}`}>{number}</kbd>}
      <span className="tub-role">
        {roleWords[tub.role]}
        {tub.destination && ` · ${tub.destination}`}
      </span>
      <span className="tub-middle">
        {tub.targetTenths !== null && <PortionBars tub={tub} lines={lines} />}
        <span className="tub-count">{counted}</span>
      </span>
      <span className="tub-foot">
        <span className={lines.length === 0 ? 'tub-weight tub-none' : 'tub-weight'}>
          {total.figure}
          <small>{total.unit}</small>
        </span>
      </span>
    </button>
  )
}

/** One bar a portion, as tall as it weighs; under and over have a mark of their own beside the colour. */
const PortionBars = memo(function PortionBars({ tub, lines }: { tub: Tub; lines: readonly LedgerLine[] }) {
  const weights = lines.map((line) => line.tenths)
  const target = tub.targetTenths ?? 1
  const tolerance = tub.toleranceTenths ?? 0
  const shown = weights.slice(-24)
  const count = (state: string) => weights.filter((tenths) => portionState(tenths, target, tolerance) === state).length
  return (
    <span className="portion-bars" role="img" aria-label={`${count('under')} under, ${count('within')} within, ${count('over')} over`}>
      {shown.map((tenths, index) => {
        const state = portionState(tenths, target, tolerance)
        const height = Math.min(100, Math.max(20, 60 + ((tenths - target) / (tolerance || 1)) * 12))
        return <i key={index} className={`portion-${state}`} style={{ height: `${height}%` }} />
      })}
    </span>
  )
})
