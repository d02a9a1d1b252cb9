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
  onMoveToPiece: (line: Weighing, piece: number) => void
}

/** Every weighing that stands, the latest first, each to be taken back. */
export function WeighingList({ run, onClose, onTakeBack, onMove, onMoveToPiece }: WeighingListProps) {
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
                {line.piece !== null && ` · piece ${line.piece}`}
              </small>
            </span>
            <Form.Select
              aria-label={`Move ${weight(line.tenths)} elsewhere`}
              value=""
              onChange={({ target: { value } }) => {
                if (value.startsWith('piece ')) onMoveToPiece(line, Number(value.slice(6)))
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
              {run.byPiece &&
                Array.from({ length: run.pieces }, (_, index) => index + 1)
                  .filter((piece) => piece !== line.piece)
                  .map((piece) => (
                    <option key={piece} value={`piece ${piece}`}>
                      Piece {piece}
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
