import type { PriceMove } from '@fleam/contract/prices'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { priceMovesQuery, useKitchen } from '../../api/queries.ts'
import { dayText } from '../../ui/days.ts'
import { useRemembered } from '../../ui/remembered.ts'
import { percentText, useUnits } from '../../ui/units.ts'
import type { Sources } from './open-portion.ts'
import { effectsOf } from './price-effects.ts'
import { useSources } from './with-sources.tsx'

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
        <Button variant="plain" onClick={() => setAll(true)}>
          Show {unseen.length - shown.length} more
        </Button>
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
        <Button variant="bare" className="move-seen" aria-label={`${move.itemName}: seen`} onClick={onSeen}>
          Seen
        </Button>
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
