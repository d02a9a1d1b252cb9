import type { PriceMove } from '@fleam/contract/prices'
import { makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { inputOfCase, quoteInput, valueInput } from '@fleam/core/compare/portion-case'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { priceMovesQuery, useKitchen } from '../../api/queries.ts'
import { useRemembered } from '../../ui/remembered.ts'
import { dayText, percentText, useUnits } from '../../ui/units.ts'
import { linkTo } from './body-link.ts'
import { firstBody, openPortion, partsOf, type Sources, sheetsFor } from './open-portion.ts'
import { useSources } from './use-sources.ts'
import { shortName } from './words.ts'

const shownFirst = 4

/** Prices that moved by more than the kitchen's limit, with what each does to the costs that stand on it. */
export function MovedPrices() {
  const { settings } = useKitchen()
  const moves = useQuery(priceMovesQuery)
  const { sources } = useSources()
  const [seen, setSeen] = useRemembered<string[]>('fleam.seen-moves', [])
  const [isAll, setAll] = useState(false)
  const unseen = (moves.data ?? []).filter((move) => !seen.includes(move.after.id))
  const shown = isAll ? unseen : unseen.slice(0, shownFirst)
  if (shown.length === 0) return null
  return (
    <section className="sheet">
      <h2>Prices that moved by more than {percentText(settings.limits.priceMovePct, 0)}</h2>
      <ul className="price-moves">
        {shown.map((move) => (
          <MovedPrice key={move.after.id} move={move} sources={sources} onSeen={() => setSeen([...seen.slice(-200), move.after.id])} />
        ))}
      </ul>
      {unseen.length > shown.length && (
        <button type="button" className="btn btn-plain" onClick={() => setAll(true)}>
          Show {unseen.length - shown.length} more
        </button>
      )}
    </section>
  )
}

function MovedPrice({ move, sources, onSeen }: { move: PriceMove; sources: Sources | undefined; onSeen: () => void }) {
  const { price } = useUnits()
  return (
    <li>
      <span className="move-head">
        <strong>{move.itemName}</strong>
        <b className={move.movePct > 0 ? 'hot' : 'good'}>
          {move.movePct > 0 ? '+' : ''}
          {percentText(move.movePct)}
        </b>
        <button type="button" className="move-seen" aria-label={`${move.itemName}: seen`} onClick={onSeen}>
          Seen
        </button>
      </span>
      <small>
        {price(move.before.price)} → {price(move.after.price)} on {dayText(move.after.quotedOn)}
        {move.after.supplier && ` · ${move.after.supplier.name}`}
      </small>
      {sources && <WhatItDoes move={move} sources={sources} />}
    </li>
  )
}

/** Every portion whose cost stands on the price, before and after. */
function WhatItDoes({ move, sources }: { move: PriceMove; sources: Sources }) {
  const { money } = useUnits()
  const weekText = (perWeek: number) =>
    Math.abs(perWeek) < 0.005 ? 'none cut of late' : `${money(Math.abs(perWeek))} a week ${perWeek > 0 ? 'dearer' : 'cheaper'}`
  const effects = effectsOf(move, sources)
  if (effects.length === 0) return <small>No portion’s cost stands on it.</small>
  return (
    <>
      {effects.map(({ name, link, before, after, perWeek, turned }) => (
        <span key={name} className="move-effect">
          <Link to={link}>{name}</Link> {money(before)} → <b>{money(after)}</b> a portion, {weekText(perWeek)}
          {turned && <em>. {turned}</em>}
        </span>
      ))}
    </>
  )
}

function effectsOf({ itemId, movePct }: PriceMove, sources: Sources) {
  const before = (amount: number) => amount / (1 + movePct / 100)
  return sources.items
    .filter((item) => item.kind === 'whole')
    .flatMap((item) => sheetsFor(sources, item).map((sheet) => ({ item, sheet })))
    .flatMap(({ item, sheet }) => {
      const body = firstBody(sources, item, sheet)
      const open = body && openPortion(sources, body)
      const quote = open && 'quotes' in open ? open.quotes[0] : undefined
      if (!body || !open || 'missing' in open || !quote) return []
      const { inputs } = open.portionCase
      const standing = [
        ...(item.id === itemId ? ['itemPrice'] : []),
        ...(quote.id === itemId ? [quoteInput(itemId, 'amount')] : []),
        ...partsOf(sources, item, sheet, open.expected).flatMap((part) =>
          part.readyCut?.id === itemId && valueInput(part.key) in inputs ? [valueInput(part.key)] : [],
        ),
      ]
      const at = (given: typeof inputs) => makeOrBuy(inputOfCase(open.portionCase, given, quote.id, body.idleHands))
      const [was, is] = [at({ ...inputs, ...Object.fromEntries(standing.map((name) => [name, before(inputs[name] ?? 0)])) }), at(inputs)]
      const side = quote.id === itemId ? ('buy' as const) : ('make' as const)
      const move = is[side].costPerPortion - was[side].costPerPortion
      if (Math.abs(move) < 0.005) return []
      const hasTurned = was.savingPerPortion >= 0 !== is.savingPerPortion >= 0
      return [
        {
          name: `${shortName(item.name)}: ${open.output.name}${side === 'buy' ? ', ready-cut' : ''}`,
          link: linkTo(body),
          before: was[side].costPerPortion,
          after: is[side].costPerPortion,
          perWeek: move * (inputs.portionsPerWeek ?? 0),
          turned: hasTurned
            ? is.savingPerPortion >= 0
              ? 'Cutting here is the cheaper one now'
              : 'Ready-cut is the cheaper one now'
            : undefined,
        },
      ]
    })
}
