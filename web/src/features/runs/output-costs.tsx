import type { Run } from '@fleam/contract/runs'
import { totalsByTub } from '@fleam/core/runs/ledger'
import type { YieldTest } from '@fleam/core/runs/yield-test'
import { roleWords } from '../../ui/roles.ts'
import { percentText, useUnits } from '../../ui/units.ts'

/** Every output with its weight, cost and cost factors. */
export function OutputCosts({ run, test }: { run: Run; test: YieldTest }) {
  const { weight, money, fromPerKg, perUnit } = useUnits()
  const totals = totalsByTub(run.weighings)
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard
    <section className="table-scroll" aria-label="Cost of every output" tabIndex={0}>
      <table className="figures">
        <thead>
          <tr>
            <th>Output</th>
            <th>Weight</th>
            <th>Share</th>
            <th>Pieces</th>
            <th>Cost per {perUnit}</th>
            <th>Per portion</th>
            <th>Factor, {perUnit}</th>
            <th>Factor, portion</th>
          </tr>
        </thead>
        <tbody>
          {run.tubs.map((tub, index) => {
            const total = totals.get(tub.id) ?? { tenths: 0, count: 0 }
            const cost = test.outputs[index]
            const portioned = tub.targetTenths !== null
            const bears = tub.role !== 'waste'
            return (
              <tr key={tub.id}>
                <th scope="row">
                  <i className={`role-dot role-${tub.role}`} /> {tub.name} <small>{roleWords[tub.role]}</small>
                </th>
                <td>{weight(total.tenths)}</td>
                <td>{percentText((total.tenths / run.received.tenths) * 100)}</td>
                <td>{total.count}</td>
                <td>{bears && cost?.costPerKg != null ? money(fromPerKg(cost.costPerKg)) : '–'}</td>
                <td>{portioned && cost?.costPerPortion != null ? money(cost.costPerPortion) : '–'}</td>
                <td>{bears && cost?.costFactorPerKg != null ? cost.costFactorPerKg.toFixed(3) : '–'}</td>
                <td>{portioned && cost?.costFactorPerPortion != null ? cost.costFactorPerPortion.toFixed(4) : '–'}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </section>
  )
}
