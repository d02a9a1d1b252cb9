import type { FollowOn } from '@fleam/contract/follow-ons'
import { Link } from 'react-router'
import { momentText } from '../../ui/days.ts'
import { useUnits } from '../../ui/units.ts'
import { amountText } from '../walk-in/amounts.ts'

/** A follow-on that is under way, and when its waiting is over. */
export function OpenTile({ followOn }: { followOn: FollowOn }) {
  const units = useUnits()
  const isDue = followOn.dueAt !== null && Date.now() >= new Date(followOn.dueAt).getTime()
  return (
    <Link className="run-tile" to={`/walk-in/follow-ons/${followOn.id}`}>
      <strong>{followOn.name}</strong>
      <span>
        Follow-on {followOn.number} · {followOn.by.name} · of{' '}
        {followOn.inputs.map(({ lot, tenths }) => `${amountText(units, lot.unit, tenths)} ${lot.name.toLowerCase()}`).join(', ')}
      </span>
      <b className={isDue ? 'good' : ''}>
        {followOn.dueAt === null ? 'Go on' : isDue ? `Due since ${momentText(followOn.dueAt)}` : `Due ${momentText(followOn.dueAt)}`}
      </b>
    </Link>
  )
}
