import type { Run, Weighing } from '@fleam/contract/runs'
import { useDrag } from '@use-gesture/react'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { ArrowsMove, ListOl, PlusLg } from 'react-bootstrap-icons'
import { useHasRole } from '../../../api/queries.ts'
import { useUnits } from '../../../ui/units.ts'

export type BenchPanel = 'add-tub' | 'pieces' | 'weighings' | 'keys' | 'temperature' | 'defect' | 'plates' | 'dishes' | 'eye' | null

interface TrayActionsProps {
  run: Run
  last: Weighing | undefined
  hasPlates: boolean
  isMoving: boolean
  /** What was said of the next piece. */
  said: number | undefined
  piece: number
  piecesDone: number
  onPiece: () => void
  onPanel: (panel: BenchPanel) => void
  onMoveStart: () => void
  onMoveTo: (tubId: string) => void
}

/** How many pixels make a drag: less is a finger that trembles. */
const farEnough = 24

function tubUnder([x, y]: [number, number]): string | undefined {
  const element = document.elementsFromPoint(x, y).find((one) => one instanceof HTMLElement && one.dataset.tub)
  return (element as HTMLElement | undefined)?.dataset.tub
}

/** What one can do beside weighing; the last piece can be dragged from here to another tub, or tapped and then the tub. */
export function TrayActions(props: TrayActionsProps) {
  const { run, last, hasPlates, isMoving, said, piece, piecesDone, onPiece, onPanel, onMoveStart, onMoveTo } = props
  const { weight } = useUnits()
  const isCook = useHasRole('cook')
  const [shift, setShift] = useState<{ x: number; y: number }>()
  const tubName = run.tubs.find((tub) => tub.id === last?.tubId)?.name

  const dragged = useDrag(
    ({ active, movement: [x, y], xy }) => {
      setShift(active ? { x, y } : undefined)
      const tubId = active || Math.hypot(x, y) < farEnough ? undefined : tubUnder(xy)
      if (tubId) onMoveTo(tubId)
    },
    { pointer: { capture: true, keys: false }, filterTaps: true },
  )

  return (
    <div className="tray-actions">
      {run.byPiece && (
        <>
          <Button variant="bare" className="tray-piece" onClick={onPiece}>
            Piece {piece} of {run.pieces}
            <small>{piecesDone >= run.pieces ? 'all done' : 'tap: done, next one'}</small>
          </Button>
          <Button variant="bare" aria-label="Choose a piece" onClick={() => onPanel('pieces')}>
            <ListOl aria-hidden />
          </Button>
        </>
      )}
      {last && (
        <Button
          variant="bare"
          className={`piece-chip ${isMoving ? 'piece-moving' : ''}`}
          style={shift && { transform: `translate(${shift.x}px, ${shift.y}px)`, pointerEvents: 'none', zIndex: 5 }}
          aria-pressed={isMoving}
          aria-label={`Move the last piece, ${weight(last.tenths)} from ${tubName}`}
          onClick={onMoveStart}
          {...dragged()}
        >
          <ArrowsMove aria-hidden /> {weight(last.tenths)}
          <small>{isMoving ? 'now tap its tub' : `from ${tubName}`}</small>
        </Button>
      )}
      <Button variant="bare" aria-label="Add a tub" onClick={() => onPanel('add-tub')}>
        <PlusLg aria-hidden /> Tub
      </Button>
      {hasPlates && (
        <Button variant="bare" onClick={() => onPanel('plates')}>
          Plates
        </Button>
      )}
      {isCook && (
        <Button variant="bare" onClick={() => onPanel('dishes')}>
          Dishes
        </Button>
      )}
      <Button variant="bare" onClick={() => onPanel('eye')}>
        {said === undefined ? 'By eye' : `Said ${weight(said)}`}
      </Button>
      <Button variant="bare" onClick={() => onPanel('temperature')}>
        Temperature
      </Button>
    </div>
  )
}
