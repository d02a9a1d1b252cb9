import type { Run } from '@fleam/contract/runs'
import { itemYields } from '@fleam/core/bench/item-yields'
import { percentText, useUnits } from '../../ui/units.ts'

/** What each item of the run gave, tub by tub: which bird was the poor one. */
export function ItemYields({ run }: { run: Run }) {
  const { grams } = useUnits()
  const items = itemYields(run.weighings)
  if (items.length === 0) return null
  const tubs = run.tubs.filter((tub) => items.some((item) => item.gramsByTub.has(tub.id)))
  const each = run.received.tenths / 10 / run.pieces
  return (
    <section>
      <h2>Item by item</h2>
      <div className="wide-table">
        <table className="item-yields">
          <thead>
            <tr>
              <th scope="col">Item</th>
              {tubs.map((tub) => (
                <th scope="col" key={tub.id}>
                  {tub.name}
                </th>
              ))}
              <th scope="col">All</th>
              <th scope="col">of the mean item</th>
            </tr>
          </thead>
          <tbody>
            {items.map((item) => (
              <tr key={item.item}>
                <th scope="row">{item.item}</th>
                {tubs.map((tub) => (
                  <td key={tub.id}>{item.gramsByTub.has(tub.id) ? grams(item.gramsByTub.get(tub.id) ?? 0) : '–'}</td>
                ))}
                <td>{grams(item.grams)}</td>
                <td>{percentText((item.grams / each) * 100)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
