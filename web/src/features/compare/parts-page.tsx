import type { ByproductValue } from '@fleam/core/compare/value-in-parts'
import { useMemo } from 'react'
import Table from 'react-bootstrap/Table'
import { Link } from 'react-router'
import { Choice } from '../../ui/fields.tsx'
import { Empty } from '../../ui/notes.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import { useUnits } from '../../ui/units.ts'
import { CompareTabs } from './compare-tabs.tsx'
import type { Sources } from './open-portion.ts'
import { type WayInParts, waysInParts } from './ways.ts'
import { WithSources } from './with-sources.tsx'
import { testsText } from './words.ts'

/** Everything bought whole, in each way it is cut: what the parts would cost bought one by one. */
export function Page() {
  return (
    <main className="page">
      <CompareTabs />
      <WithSources>{(sources) => <AllWays sources={sources} />}</WithSources>
    </main>
  )
}

function AllWays({ sources }: { sources: Sources }) {
  const [byproducts, setByproducts] = useRemembered<ByproductValue>('fleam.byproducts', 'market')
  const items = useMemo(
    () =>
      sources.items
        .filter((item) => item.kind === 'whole')
        .map((item) => ({ item, ways: waysInParts(sources, item, byproducts) }))
        .filter(({ ways }) => ways.length > 0),
    [sources, byproducts],
  )
  return (
    <section className="sheet">
      <div className="result-method parts-head">
        <div>
          <h1>Value in parts</h1>
          <p className="under-title">What the parts would cost ready-cut, beside what the whole costs with its cutting; tax left out.</p>
        </div>
        <ByproductChoice value={byproducts} onChange={setByproducts} />
      </div>
      {items.length === 0 ? (
        <Empty title="Nothing has been cut yet that has a price.">
          <p>Finish a run of something bought whole, and its parts are valued here.</p>
        </Empty>
      ) : (
        <div className="table-scroll">
          <Table className="figures parts-table">
            <thead>
              <tr>
                <th>Bought whole, cut as</th>
                <th>parts ready-cut</th>
                <th>whole, cut here</th>
                <th>left of an item</th>
                <th>of a case</th>
                <th>of a week</th>
                <th>minutes</th>
              </tr>
            </thead>
            {items.map(({ item, ways }) => (
              <tbody key={item.id}>
                <tr className="parts-item">
                  <th colSpan={7}>
                    <Link to={`/compare/parts/${item.id}`}>{item.name}</Link>
                  </th>
                </tr>
                {ways.map((way, at) => (
                  <WayRow key={way.sheet.id} way={way} isBest={at === 0 && ways.length > 1} />
                ))}
              </tbody>
            ))}
          </Table>
        </div>
      )}
    </section>
  )
}

export function ByproductChoice({ value, onChange }: { value: ByproductValue; onChange: (value: ByproductValue) => void }) {
  return (
    <Choice
      label="What by-products count for"
      value={value}
      onChange={onChange}
      options={[
        { value: 'market', label: 'By-products at market' },
        { value: 'own', label: 'at own value' },
        { value: 'nothing', label: 'at nothing' },
      ]}
    />
  )
}

function WayRow({ way, isBest }: { way: WayInParts; isBest: boolean }) {
  const { money } = useUnits()
  const { value } = way
  const unknown = value.parts.filter((part) => part.source === 'unknown').length
  return (
    <tr>
      <th>
        {way.sheet.body.name}
        {isBest && <mark>best</mark>}
        <small>
          {testsText(way.expected.tests)}
          {unknown > 0 && ` · ${unknown} ${unknown === 1 ? 'part' : 'parts'} without a value`}
        </small>
      </th>
      <td>{money(value.value)}</td>
      <td>{money(value.cost)}</td>
      <td className={value.gain < 0 ? 'hot' : 'good'}>{money(value.gain)}</td>
      <td>{money(way.perCase)}</td>
      <td>{money(way.perWeek)}</td>
      <td>{way.minutes.toFixed(1)}</td>
    </tr>
  )
}
