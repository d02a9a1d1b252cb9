import type { Run, Weighing } from '@fleam/contract/runs'
import { standing } from '@fleam/core/runs/ledger'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { useHasRole } from '../../../api/queries.ts'
import { timeText } from '../../../ui/days.ts'
import { Empty } from '../../../ui/notes.tsx'
import { SidePanel } from '../../../ui/side-panel.tsx'
import { useUnits } from '../../../ui/units.ts'

interface WeighingListProps {
  run: Run
  onClose: () => void
  onTakeBack: (line: Weighing) => void
  onMove: (line: Weighing, tubId: string) => void
  onMoveToItem: (line: Weighing, item: number) => void
}

/** Every weighing that stands, the latest first, each to be taken back. */
export function WeighingList({ run, onClose, onTakeBack, onMove, onMoveToItem }: WeighingListProps) {
  const { weight } = useUnits()
  const isLead = useHasRole('lead')
  const lines = [...standing(run.weighings)].reverse()
  return (
    <SidePanel title="Weighings" onClose={onClose}>
      {lines.length === 0 && <Empty title="Nothing weighed yet." />}
      <ul className="weighing-list">
        {lines.map((line) => (
          <li key={line.id}>
            <b>{weight(line.tenths)}</b>
            <span>
              {run.tubs.find((tub) => tub.id === line.tubId)?.name}
              <small>
                {timeText(line.weighedAt)} · {line.by.name}
                {line.item !== null && ` · item ${line.item}`}
              </small>
            </span>
            <Form.Select
              aria-label={`Move ${weight(line.tenths)} elsewhere`}
              value=""
              onChange={({ target: { value } }) => {
                if (value.startsWith('item ')) onMoveToItem(line, Number(value.slice(5)))
                else onMove(line, value)
              }}
            >
              <option value="">Move to …</option>
              {run.tubs
                .filter((tub) => tub.id !== line.tubId)
                .map((tub) => (
                  <option key={tub.id} value={tub.id}>
                    {tub.name}
                  </option>
                ))}
              {run.byItem &&
                Array.from({ length: run.pieces }, (_, index) => index + 1)
                  .filter((item) => item !== line.item)
                  .map((item) => (
                    <option key={item} value={`item ${item}`}>
                      Item {item}
                    </option>
                  ))}
            </Form.Select>
            <Button variant="plain" onClick={() => onTakeBack(line)} aria-label={`Take back ${weight(line.tenths)}`}>
              Take back
            </Button>
          </li>
        ))}
      </ul>
      {isLead && (
        <p>
          <Link to={`/runs/${run.id}`}>Received wrongly? Put it right, or discard the run</Link>
        </p>
      )}
    </SidePanel>
  )
}
