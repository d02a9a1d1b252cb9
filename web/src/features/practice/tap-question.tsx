import type { CutSheetBody } from '@fleam/contract/cut-sheets'
import type { Card } from '@fleam/core/practice/cards'
import { useRef, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { CutDrawing } from '../../drawings/cut-drawing.tsx'
import { drawings } from '../../drawings/drawings.ts'

type TapCard = Extract<Card, { kind: 'landmark' | 'cut line' }>
type Point = readonly [number, number]

interface TapQuestionProps {
  card: TapCard
  onAnswer: (isRight: boolean) => void
}

/** How far from it a finger may land, in units of the drawing. */
const reach = 16
const stepOfKey = 8

/** A drawing to tap: the place that is asked for, or the line along which a step cuts. */
export function TapQuestion({ card, onAnswer }: TapQuestionProps) {
  const part = card.part as NonNullable<CutSheetBody['part']>
  const drawing = drawings[part]
  const frame = useRef<HTMLDivElement>(null)
  const [tapped, setTapped] = useState<{ at: Point; isRight: boolean }>()
  const [cross, setCross] = useState<Point>()
  const mark = drawing.marks.find(({ name }) => name === card.target)

  function tap(at: Point) {
    const svg = frame.current?.querySelector('svg')
    if (!svg || tapped) return
    const isRight = mark ? Math.hypot(at[0] - mark.at[0], at[1] - mark.at[1]) <= reach : isNear(svg, card.target, at)
    setTapped({ at, isRight })
    onAnswer(isRight)
  }
  function pointOf({ clientX, clientY }: React.MouseEvent): Point | undefined {
    const inverse = frame.current?.querySelector('svg')?.getScreenCTM()?.inverse()
    if (!inverse) return undefined
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(inverse)
    return [x, y]
  }
  function press(event: React.KeyboardEvent) {
    const [x, y] = cross ?? [drawing.width / 2, drawing.height / 2]
    const moves: Record<string, Point> = {
      ArrowLeft: [-stepOfKey, 0],
      ArrowRight: [stepOfKey, 0],
      ArrowUp: [0, -stepOfKey],
      ArrowDown: [0, stepOfKey],
    }
    const move = moves[event.key]
    if (move) setCross([x + move[0], y + move[1]])
    if (event.key === 'Enter' && cross) tap(cross)
    if (move || event.key === 'Enter') event.preventDefault()
  }
  return (
    <div className="tap-question" ref={frame}>
      <Button
        variant="bare"
        className="tap-drawing"
        aria-label="The drawing: tap it, or move the cross with the arrow keys and press Enter"
        onKeyDown={press}
        onClick={(event) => {
          const point = event.detail > 0 ? pointOf(event) : undefined
          if (point) tap(point)
        }}
      >
        <CutDrawing
          part={part}
          shows={tapped && !mark ? [card.target] : []}
          showsAllCuts={card.kind === 'cut line'}
          isDecoration
          over={
            <>
              {tapped && mark && <circle className="tap-right" cx={mark.at[0]} cy={mark.at[1]} r={9} />}
              {tapped && (
                <g className={tapped.isRight ? 'tap-mark tap-good' : 'tap-mark'}>
                  <circle cx={tapped.at[0]} cy={tapped.at[1]} r={7} />
                </g>
              )}
              {cross && !tapped && (
                <g className="tap-cross">
                  <line x1={cross[0] - 12} y1={cross[1]} x2={cross[0] + 12} y2={cross[1]} />
                  <line x1={cross[0]} y1={cross[1] - 12} x2={cross[0]} y2={cross[1] + 12} />
                </g>
              )}
            </>
          }
        />
      </Button>
      {drawing.views && (
        <p className="tap-views">
          {drawing.views.map(({ name }) => (
            <span key={name}>{name}</span>
          ))}
        </p>
      )}
    </div>
  )
}

/** Whether a place lies on something that is drawn, or so near that a finger meant it. */
function isNear(svg: SVGSVGElement, id: string, [x, y]: Point): boolean {
  const point = new DOMPoint(x, y)
  return [...svg.querySelectorAll<SVGGeometryElement>(`[data-drawn="${id}"] path`)].some((path) => {
    const isLine = path.closest('.drawn-cut') !== null
    if (!isLine && path.isPointInFill(point)) return true
    const length = path.getTotalLength()
    const steps = Math.max(2, Math.ceil(length / 4))
    return Array.from({ length: steps + 1 }, (_, step) => path.getPointAtLength((length * step) / steps)).some(
      (along) => Math.hypot(along.x - x, along.y - y) <= reach / (isLine ? 1 : 2),
    )
  })
}
