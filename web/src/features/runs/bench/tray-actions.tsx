import type { Run, Weighing } from '@fleam/contract/runs'
import { useRef, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { ArrowsMove, PlusLg } from 'react-bootstrap-icons'
import { useUnits } from '../../../ui/units.ts'

export type BenchPanel = 'add-tub' | 'weighings' | 'keys' | 'temperature' | 'defect' | 'plates' | 'dishes' | null

interface TrayActionsProps {
  run: Run
  last: Weighing | undefined
  hasPlates: boolean
  isMoving: boolean
  item: number
  itemsDone: number
  onItem: () => void
  onPanel: (panel: BenchPanel) => void
  onMoveStart: () => void
  onMoveTo: (tubId: string) => void
}

/** What one can do beside weighing; the last piece can be dragged from here to another tub, or tapped and then the tub. */
export function TrayActions(props: TrayActionsProps) {
  const { run, last, hasPlates, isMoving, item, itemsDone, onItem, onPanel, onMoveStart, onMoveTo } = props
  const { weight } = useUnits()
  const from = useRef<{ x: number; y: number } | undefined>(undefined)
  const [shift, setShift] = useState<{ x: number; y: number }>()
  const tubName = run.tubs.find((tub) => tub.id === last?.tubId)?.name

  function drop(event: React.PointerEvent): void {
    const start = from.current
    from.current = undefined
    setShift(undefined)
    if (!start || Math.hypot(event.clientX - start.x, event.clientY - start.y) < 24) return
    const under = document
      .elementsFromPoint(event.clientX, event.clientY)
      .find((element) => element instanceof HTMLElement && element.dataset.tub)
    const tubId = (under as HTMLElement | undefined)?.dataset.tub
    if (tubId) onMoveTo(tubId)
  }

  return (
    <div className="tray-actions">
      {run.byItem && (
        <Button variant="bare" className="tray-item" onClick={onItem}>
          Item {item} of {run.pieces}
          <small>{itemsDone >= run.pieces ? 'all done' : 'tap: done, next one'}</small>
        </Button>
      )}
      {last && (
        <Button
          variant="bare"
          className={`piece-chip ${isMoving ? 'piece-moving' : ''}`}
          style={shift && { transform: `translate(${shift.x}px, ${shift.y}px)`, pointerEvents: 'none', zIndex: 5 }}
          aria-pressed={isMoving}
          aria-label={`Move the last piece, ${weight(last.tenths)} from ${tubName}`}
          onClick={onMoveStart}
          onPointerDown={(event) => {
            from.current = { x: event.clientX, y: event.clientY }
            event.currentTarget.setPointerCapture(event.pointerId)
          }}
          onPointerMove={(event) => from.current && setShift({ x: event.clientX - from.current.x, y: event.clientY - from.current.y })}
          onPointerUp={drop}
          onPointerCancel={() => {
            from.current = undefined
            setShift(undefined)
          }}
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
      <Button variant="bare" onClick={() => onPanel('dishes')}>
        Dishes
      </Button>
      <Button variant="bare" onClick={() => onPanel('temperature')}>
        Temperature
      </Button>
    </div>
  )
}
