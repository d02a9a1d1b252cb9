import { useQuery } from '@tanstack/react-query'
import ProgressBar from 'react-bootstrap/ProgressBar'
import { Link } from 'react-router'
import { cutSheetsQuery, dishNeedsQuery } from '../../api/queries.ts'
import { dayText } from '../../ui/days.ts'
import { useUnits } from '../../ui/units.ts'

/** Dishes that still need a second product: how much of it is there, and by when the rest must be. */
export function DishesShort() {
  const needs = useQuery(dishNeedsQuery)
  const sheets = useQuery(cutSheetsQuery)
  const { weight, money } = useUnits()
  const short = (needs.data ?? []).filter((need) => need.collectedTenths < need.need.tenths)
  if (short.length === 0) return null
  const nameOf = (animal: string, product: string) =>
    (sheets.data ?? [])
      .filter((sheet) => sheet.body.animal === animal)
      .flatMap((sheet) => sheet.body.outputs)
      .find((output) => output.key === product)?.name ?? product
  return (
    <section className="sheet">
      <h2>Dishes that wait</h2>
      <ul className="plain-list">
        {short.map((need) => (
          <li key={need.id}>
            <strong>{need.dish}</strong>
            <small>
              {' '}
              {nameOf(need.animal, need.product).toLowerCase()} by {dayText(need.dueOn)}
            </small>
            <ProgressBar>
              <ProgressBar
                isChild
                now={Math.max(0, need.collectedTenths)}
                max={need.need.tenths}
                aria-label={`${need.dish}: what is there`}
              />
            </ProgressBar>
            <p className="dish-short">
              {weight(Math.max(0, need.collectedTenths))} of {weight(need.need.tenths)} there,{' '}
              <b className="hot">{weight(need.need.tenths - need.collectedTenths)} short</b>
              {need.shortCost !== null && `, about ${money(need.shortCost)}`}
            </p>
          </li>
        ))}
      </ul>
      <Link to="/kitchen/dishes">All dishes</Link>
    </section>
  )
}
