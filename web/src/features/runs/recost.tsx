import type { Run } from '@fleam/contract/runs'
import type { JointCostMethod } from '@fleam/core/runs/joint-cost'
import { portionTub, sharedTestOfRun } from '@fleam/core/runs/run-record'
import { useState } from 'react'
import { numberOf, TextField } from '../../ui/fields.tsx'
import { useUnits } from '../../ui/units.ts'

/** A new price tried out: by the cost factor, as people do on paper, beside the full cost. */
export function Recost({ run, method }: { run: Run; method: JointCostMethod }) {
  const { money, currency } = useUnits()
  const [text, setText] = useState(String(run.quote.price.amount))
  const tub = portionTub(run.tubs)
  const amount = numberOf(text)
  if (!tub) return null
  const before = sharedTestOfRun(run, method).test
  const factor = before.outputs.find((output) => output.id === tub.id)?.costFactorPerPortion
  if (factor == null) return null
  const valid = amount >= 0
  const at = valid ? sharedTestOfRun({ ...run, quote: { ...run.quote, price: { ...run.quote.price, amount } } }, method).test : undefined
  const full = at?.outputs.find((output) => output.id === tub.id)?.costPerPortion
  const quick = at ? at.cost.purchasePerKg * factor : undefined
  return (
    <section className="sheet">
      <h2>If the price moves</h2>
      <TextField
        label={`${run.item.name}, ${currency} per ${run.quote.price.per}`}
        value={text}
        onChange={setText}
        inputMode="decimal"
        error={valid ? undefined : 'Type a price such as 32.50.'}
      />
      {full != null && quick !== undefined && (
        <dl className="facts">
          <div>
            <dt>Full cost of a portion</dt>
            <dd>{money(full)}</dd>
          </div>
          <div>
            <dt>By cost factor {factor.toFixed(4)}</dt>
            <dd>
              {money(quick)}{' '}
              <small>
                {Math.abs(quick - full) < 0.005
                  ? 'the same'
                  : `${money(Math.abs(quick - full))} ${quick > full ? 'too much' : 'too little'}: labour and credits stay`}
              </small>
            </dd>
          </div>
        </dl>
      )}
    </section>
  )
}
