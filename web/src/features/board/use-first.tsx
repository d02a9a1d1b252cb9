import { daysBetween } from '@fleam/core/walk-in/use-by'
import { Link } from 'react-router'
import { dayText, today } from '../../ui/days.ts'
import { useUnits } from '../../ui/units.ts'
import { amountText, portionsText } from '../walk-in/amounts.ts'
import { useLots } from '../walk-in/use-lots.ts'

const mostShown = 6

/** What must be used today or tomorrow, oldest first, and what is past its date. */
export function UseFirst() {
  const { lots } = useLots()
  const units = useUnits()
  const now = today()
  const soon = (lots ?? []).filter((lot) => lot.state !== 'frozen' && daysBetween(now, lot.useBy) <= 1)
  if (soon.length === 0) return null
  return (
    <section className="sheet">
      <h2>Use first</h2>
      <ul className="plain-list">
        {soon.slice(0, mostShown).map((lot) => {
          const days = daysBetween(now, lot.useBy)
          return (
            <li key={lot.id}>
              <Link to={`/walk-in/${lot.id}`}>{lot.name}</Link>{' '}
              <span>
                {lot.run && `${lot.run.item}: `}
                {amountText(units, lot.unit, lot.leftTenths)}
                {lot.leftPortions !== null && `, ${portionsText(lot.leftPortions)}`} · {lot.place}
              </span>
              <small className={days <= 0 ? 'hot' : ''}>
                {' '}
                {days < 0 ? `past its date, ${dayText(lot.useBy)}` : days === 0 ? 'use today' : 'use by tomorrow'}
              </small>
            </li>
          )
        })}
      </ul>
      <Link to="/walk-in">{soon.length > mostShown ? `All ${soon.length} in the walk-in` : 'The walk-in'}</Link>
    </section>
  )
}
