import type { Item } from '@fleam/contract/prices'
import type { ByproductValue } from '@fleam/core/compare/value-in-parts'
import { useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Table from 'react-bootstrap/Table'
import { Link, useParams } from 'react-router'
import { useHasRole } from '../../api/queries.ts'
import { Empty, Word } from '../../ui/notes.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import { percentText, useUnits } from '../../ui/units.ts'
import { CompareTabs } from './compare-tabs.tsx'
import { entryOf, type Sources, sheetsFor } from './open-portion.ts'
import { ByproductChoice } from './parts-page.tsx'
import { TwoWays } from './two-ways.tsx'
import { type WayInParts, waysInParts } from './ways.ts'
import { WithSources } from './with-sources.tsx'
import { shortName, testsText } from './words.ts'
import { AddWay, WorthPanel } from './worth-panel.tsx'

/** One item, its ways of cutting side by side: every part, its price, the work, and what is left. */
export function Page() {
  const { itemId = '' } = useParams()
  return (
    <main className="page">
      <CompareTabs />
      <WithSources>
        {(sources) => {
          const item = sources.items.find((one) => one.id === itemId)
          return item ? (
            <ItemParts sources={sources} item={item} />
          ) : (
            <section className="sheet">
              <Empty isPage title="This item is not in the kitchen’s list." />
            </section>
          )
        }}
      </WithSources>
    </main>
  )
}

function ItemParts({ sources, item }: { sources: Sources; item: Item }) {
  const { price, money } = useUnits()
  const isLead = useHasRole('lead')
  const [byproducts, setByproducts] = useRemembered<ByproductValue>('fleam.byproducts', 'market')
  const [valuing, setValuing] = useState<string>()
  const ways = useMemo(() => waysInParts(sources, item, byproducts), [sources, item, byproducts])
  const order = (choice: ByproductValue) =>
    waysInParts(sources, item, choice)
      .map((way) => way.sheet.id)
      .join()
  const [best, second] = ways
  const changes = (['market', 'own', 'nothing'] as const).filter(
    (choice) => choice !== byproducts && order(choice).split(',')[0] !== best?.sheet.id,
  )
  const bought = item.latestQuote
  const valued = ways.find((way) => way.sheet.id === valuing)
  return (
    <>
      <section className="sheet">
        <div className="result-method parts-head">
          <div>
            <h1>{item.name}, in parts</h1>
            <p className="under-title">
              {bought ? `Bought at ${price(bought.price)}` : 'No price yet'} · <Link to="/compare/parts">all items</Link>
            </p>
          </div>
          <ByproductChoice value={byproducts} onChange={setByproducts} />
        </div>
        {best && second && (
          <Word isGood>
            <b>Best use today: {best.sheet.body.name}.</b> It leaves {money(best.value.gain)} of each,{' '}
            {money(best.value.gain - second.value.gain)} more than {second.sheet.body.name}.{' '}
            {changes.length === 0
              ? 'The order at the top is the same whatever by-products count for.'
              : `With by-products ${changes.map((choice) => byproductWords[choice]).join(' or ')} another way is best.`}
          </Word>
        )}
        <div className="ways">
          {ways.map((way, at) => (
            <WayColumn
              key={way.sheet.id}
              way={way}
              isBest={at === 0 && ways.length > 1}
              weeklyItems={sheetsFor(sources, item).reduce(
                (sum, sheet) => sum + (entryOf(sources, item.id, sheet.id)?.itemsPerWeek ?? 0),
                0,
              )}
              onValue={isLead ? () => setValuing(way.sheet.id) : undefined}
            />
          ))}
        </div>
        {isLead && <AddWay sources={sources} item={item} />}
      </section>
      {ways.length > 1 && <TwoWays ways={ways} settings={sources.settings} />}
      {valued && <WorthPanel key={valued.sheet.id} sources={sources} way={valued} onClose={() => setValuing(undefined)} />}
    </>
  )
}

const byproductWords: Record<ByproductValue, string> = { market: 'at market price', own: 'at own value', nothing: 'at nothing' }

function WayColumn({
  way,
  isBest,
  weeklyItems,
  onValue,
}: {
  way: WayInParts
  isBest: boolean
  weeklyItems: number
  onValue: (() => void) | undefined
}) {
  const { money, perWeight, grams } = useUnits()
  const { value, item } = way
  return (
    <article className={`way ${isBest ? 'way-best' : ''}`}>
      <h2>{way.sheet.body.name}</h2>
      <p className="field-hint">
        {testsText(way.expected.tests)} · {way.minutes.toFixed(1)} min{isBest && ' · best today'}
      </p>
      <Table className="figures">
        <tbody>
          {value.parts.map((part) => {
            const named = way.parts.find((one) => one.key === part.key)
            return (
              <tr key={part.key}>
                <th>
                  <span className={`role-dot role-${part.role}`} /> {named?.name}
                  <small>
                    {percentText(part.pct)}, {grams(Math.round(part.grams))}
                    {part.role !== 'waste' &&
                      (part.source === 'unknown'
                        ? ' · no value yet'
                        : part.source === 'nothing'
                          ? ' · at nothing'
                          : ` · ${part.source === 'market' ? '' : 'own '}${perWeight(part.valuePerKg ?? 0)}`)}
                  </small>
                </th>
                <td>{money(part.value)}</td>
              </tr>
            )
          })}
          <tr className="way-sum">
            <th>The parts, ready-cut</th>
            <td>{money(value.value)}</td>
          </tr>
          <tr>
            <th>{shortName(item.name)}, whole</th>
            <td>− {money(value.purchase)}</td>
          </tr>
          <tr>
            <th>Labour{value.consumables + value.disposal > 0 && ', wrap, haulage'}</th>
            <td>− {money(value.labour + value.consumables + value.disposal)}</td>
          </tr>
        </tbody>
      </Table>
      <p className="way-left">
        <b className={value.gain < 0 ? 'hot' : 'good'}>{money(value.gain)}</b>
        <small>
          left of each{item.latestQuote?.price.count ? ` · ${money(way.perCase)} a case` : ''} · {money(way.perWeek)} a week at{' '}
          {weeklyItems.toFixed(1)}
        </small>
      </p>
      {onValue && (
        <Button variant="plain" onClick={onValue} aria-label={`Say what the parts of ${way.sheet.body.name} are worth`}>
          What the parts are worth
        </Button>
      )}
    </article>
  )
}
