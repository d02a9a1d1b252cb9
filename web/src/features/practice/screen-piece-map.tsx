import { profileOf } from '@fleam/core/plan/profile'
import type { CutOff, ScreenPiece } from '@fleam/core/practice/screen-piece'
import { counted } from '../../ui/counted.ts'
import { useUnits } from '../../ui/units.ts'
import { useDragAlong } from '../../ui/use-drag-along.ts'

interface ScreenPieceMapProps {
  piece: ScreenPiece
  cutsCm: readonly number[]
  /** What the stretches weigh and are good for, where that is told. */
  told: readonly CutOff[] | undefined
  /** Where the best plan cuts, once it is over. */
  bestCutsCm?: readonly number[] | undefined
  /** Up to here it is cut off already: lines there stay. */
  fixedCm?: number
  /** Nothing can be moved any more. */
  isOver: boolean
  onMove: (line: number, toCm: number) => void
  onAdd: (cm: number) => void
  onRemove: (line: number) => void
}

const width = 820
const height = 250
const left = 14
const middle = 112

/** A piece to cut, drawn from its own outline, with lines to place, drag and take away. */
export function ScreenPieceMap({ piece, cutsCm, told, bestCutsCm, fixedCm = 0, isOver, onMove, onAdd, onRemove }: ScreenPieceMapProps) {
  const { weight } = useUnits()
  const profile = profileOf(piece)
  const perCm = (width - 2 * left) / profile.lengthCm
  const x = (cm: number) => left + cm * perCm
  const widest = Math.max(...along(0, profile.lengthCm).map((cm) => profile.diameterAt(cm)))
  const half = (cm: number) => (profile.diameterAt(cm) / widest) * 82
  const { drawing, handle } = useDragAlong({ width, onDrag: (line, at, moved) => moved !== 0 && onMove(line, (at - left) / perCm) })
  const edges = [0, ...cutsCm, profile.lengthCm]
  const stretches = edges.slice(1).map((toCm, at) => ({ fromCm: edges[at] as number, toCm, told: told?.[at] }))
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset
    <svg
      ref={drawing}
      className={`screen-piece screen-${piece.kind}`}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label={`The piece, in ${counted(stretches.length, 'stretch', 'stretches')}`}
      onPointerDown={(event) => {
        if (isOver || (event.target as Element).closest('.screen-line')) return
        const box = event.currentTarget.getBoundingClientRect()
        onAdd((((event.clientX - box.left) * width) / box.width - left) / perCm)
      }}
    >
      {stretches.map(({ fromCm, toCm, told: one }) => (
        <g key={fromCm} className={one ? `screen-use use-${one.kind}` : 'screen-use'}>
          <polygon points={outline(fromCm, toCm, x, half)} />
          {one && (
            <>
              <text x={x((fromCm + toCm) / 2)} y={middle + 6} textAnchor="middle" className="screen-weight">
                {weight(Math.round(one.grams) * 10)}
              </text>
              <text x={x((fromCm + toCm) / 2)} y={middle + 24} textAnchor="middle" className="screen-kind">
                {nameOfUse(one)}
              </text>
            </>
          )}
        </g>
      ))}
      {piece.kind === 'rack' &&
        piece.ribsCm.map((rib) => {
          const wide = piece.boneHalfWidthCm * perCm
          return (
            <path
              key={rib}
              className="screen-rib"
              d={`M${x(rib) - wide},${middle + half(rib) - 6} q${wide * 0.2},-60 ${wide * 1.6},-${half(rib) + 96} a${wide * 0.8},${wide * 0.8} 0 0 1 ${wide * 1.5},4 q-${wide * 1.4},50 -${wide},${half(rib) + 92} Z`}
            />
          )
        })}
      {bestCutsCm?.map((cm) => (
        <line key={cm} className="screen-best" x1={x(cm)} x2={x(cm)} y1={6} y2={212} />
      ))}
      {cutsCm.map((cm, index) => {
        const isFixed = isOver || cm <= fixedCm + 1e-9
        return (
          <g
            // the same line stays the same while it moves
            key={index}
            className={`screen-line ${isFixed ? 'screen-fixed' : ''}`}
            tabIndex={isFixed ? -1 : 0}
            role="slider"
            aria-label={`Cut ${index + 1}`}
            aria-disabled={isFixed}
            aria-valuemin={0}
            aria-valuemax={Math.round(profile.lengthCm * 10)}
            aria-valuenow={Math.round(cm * 10)}
            aria-valuetext={`${cm.toFixed(1)} cm from the thick end`}
            {...(isFixed ? {} : handle(index))}
            onKeyDown={(event) => {
              if (isFixed) return
              const step = event.key === 'ArrowRight' ? 0.1 : event.key === 'ArrowLeft' ? -0.1 : 0
              if (step !== 0) onMove(index, cm + step)
              if (event.key === 'Delete' || event.key === 'Backspace') onRemove(index)
            }}
            onDoubleClick={() => !isFixed && onRemove(index)}
          >
            <rect x={x(cm) - 12} y="2" width="24" height="216" />
            <line x1={x(cm)} x2={x(cm)} y1="8" y2="214" />
          </g>
        )
      })}
      <text x={left} y={242} className="screen-end">
        {piece.kind === 'rack' ? 'loin end' : 'thick end'}
      </text>
      <text x={width - left} y={242} textAnchor="end" className="screen-end">
        {piece.kind === 'rack' ? 'shoulder end' : 'thin end'}
      </text>
    </svg>
  )
}

export function nameOfUse({ kind }: CutOff): string {
  return kind === 'nothing' ? 'scrap' : kind
}

function along(from: number, to: number): number[] {
  const steps = Math.max(2, Math.ceil((to - from) / 0.4))
  return Array.from({ length: steps + 1 }, (_, step) => from + ((to - from) * step) / steps)
}

function outline(from: number, to: number, x: (cm: number) => number, half: (cm: number) => number): string {
  const places = along(from, to)
  const top = places.map((cm) => `${x(cm)},${middle - half(cm)}`)
  const bottom = places.map((cm) => `${x(cm)},${middle + half(cm)}`).reverse()
  return [...top, ...bottom].join(' ')
}
