import type { Run } from '@fleam/contract/runs'
import { liveFigures } from '@fleam/core/runs/live-figures'
import { expectMinutes } from '@fleam/core/yield-book/expected-minutes'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useMemo } from 'react'
import Button from 'react-bootstrap/Button'
import { Keyboard, ListUl } from 'react-bootstrap-icons'
import { useKitchen, yieldBookQuery } from '../../../api/queries.ts'
import type { LiveState } from '../../../live/live-run.ts'
import { percentText, useUnits } from '../../../ui/units.ts'
import { BalanceBar } from '../balance-bar.tsx'

interface BalancePanelProps {
  run: Run
  /** Minutes of work so far, of all people together. */
  minutes: number
  live: LiveState
  cold: ReactNode
  isSorting: boolean
  onSorting: () => void
  onFinish: () => void
  onWeighings: () => void
  onKeys: () => void
}

/** Where the weight is and what a portion will cost, live. */
export function BalancePanel({ run, minutes, live, cold, isSorting, onSorting, onFinish, onWeighings, onKeys }: BalancePanelProps) {
  const { weight, money } = useUnits()
  const { settings } = useKitchen()
  const book = useQuery(yieldBookQuery)
  const tested = book.data?.find((entry) => entry.itemId === run.item.id && entry.cutSheetId === run.cutSheet.id)
  const { yields, balance, makeCost, readyCut } = useMemo(
    () => liveFigures(run, expectMinutes(run.sheet.minutes, tested?.minutes, run.pieces, settings.cutting.priorTests).mean * run.pieces),
    [run, tested, settings],
  )
  const tooMuch = balance.state === 'more-than-received'
  return (
    <section className="balance sheet" aria-label="Balance">
      <div className="balance-figures">
        <Figure name="Received" value={weight(run.received.tenths)} />
        <Figure name="On plates" value={percentText(yields.mainPct, 0)} />
        <Figure name="Usable" value={percentText(yields.usablePct, 0)} />
        <Figure
          name={tooMuch ? 'Too much weighed' : 'Still on the board'}
          value={weight(Math.round(Math.abs(balance.unaccountedGrams) * 10))}
          isHot={tooMuch}
        />
        <Figure name="Knife time" value={`${minutes < 10 ? minutes.toFixed(1) : Math.round(minutes)} min`} />
        {live === 'away' && <span className="hot">Others’ weighings come when the server is back</span>}
        <span className="balance-cost">
          {makeCost !== undefined && (
            <>
              A portion, if it ends as expected <b>{money(makeCost)}</b>
            </>
          )}
          {readyCut !== undefined && (
            <>
              {' '}
              · ready-cut <b>{money(readyCut)}</b>
            </>
          )}
        </span>
      </div>
      <BalanceBar run={run} />
      <div className="balance-actions">
        {cold}
        <Button variant="plain" aria-pressed={isSorting} onClick={onSorting}>
          {isSorting ? 'Cutting view' : 'Sorting view'}
        </Button>
        <Button variant="plain" onClick={onWeighings}>
          <ListUl aria-hidden /> Weighings
        </Button>
        <Button variant="plain" onClick={onKeys}>
          <Keyboard aria-hidden /> Keys
        </Button>
        <Button variant="ink" onClick={onFinish}>
          Finish and cost
        </Button>
      </div>
    </section>
  )
}

function Figure({ name, value, isHot = false }: { name: string; value: string; isHot?: boolean }) {
  return (
    <span className={isHot ? 'balance-figure hot' : 'balance-figure'}>
      {name} <b>{value}</b>
    </span>
  )
}
