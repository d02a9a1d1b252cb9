import type { Profile } from '@fleam/core/plan/profile'
import { slipGrams } from '@fleam/core/plan/tape'
import { counted } from '../../ui/counted.ts'
import { useDragAlong } from '../../ui/use-drag-along.ts'
import { usePlanUnits } from './plan-units.tsx'

export interface MappedPiece {
  fromCm: number
  toCm: number
  grams: number
  /** Name of the kind, or `tips`. */
  kind: string
  /** 0 for the first kind, 1 for the second …; −1 for tips. */
  rank: number
  /** What the piece breaks of its kind's limits, in words. */
  trouble: string | undefined
}

interface CutMapProps {
  profile: Profile
  pieces: readonly MappedPiece[]
  /** The line that was tapped last. */
  chosen: number | undefined
  isLocked: (line: number) => boolean
  onMove: (line: number, toCm: number) => void
  onChoose: (line: number) => void
  onRemove: (line: number) => void
}

const width = 820
const height = 250
const left = 12

/** The piece drawn from its own girths, thick end left: weight inside, thickness below, cut lines to drag. */
export function CutMap({ profile, pieces, chosen, isLocked, onMove, onChoose, onRemove }: CutMapProps) {
  const { isMetric, figure, unitOf, written } = usePlanUnits()
  const perCm = (width - 2 * left) / profile.lengthCm
  const widest = Math.max(...sample(0, profile.lengthCm).map((cm) => profile.diameterAt(cm)))
  const tall = 170 / widest
  const x = (cm: number) => left + cm * perCm
  const half = (cm: number) => (profile.diameterAt(cm) * tall) / 2
  const middle = 104

  const { drawing, handle } = useDragAlong({
    width,
    onTake: onChoose,
    onDrag: (line, at, moved) => moved !== 0 && onMove(line, (at - left) / perCm),
  })

  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset
    <svg
      ref={drawing}
      className="cut-map"
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label={`Cut map: ${counted(pieces.length, 'piece')}`}
    >
      {pieces.map((piece) => {
        const along = sample(piece.fromCm, piece.toCm)
        const top = along.map((cm) => `${x(cm)},${middle - half(cm)}`)
        const bottom = along.map((cm) => `${x(cm)},${middle + half(cm)}`).reverse()
        const centre = x((piece.fromCm + piece.toCm) / 2)
        const wide = (piece.toCm - piece.fromCm) * perCm
        return (
          <g key={piece.fromCm} className={`cut-piece rank-${piece.rank} ${piece.trouble ? 'cut-trouble' : ''}`}>
            <polygon points={[...top, ...bottom].join(' ')} />
            {wide > 24 && (
              <text x={centre} y={middle + 6} textAnchor="middle" className="cut-weight">
                {figure('g', piece.grams)}
              </text>
            )}
            {wide > 40 && slipGrams(profile, piece.toCm) > 0 && (
              <text x={centre} y={middle + 24} textAnchor="middle" className="cut-slip">
                ± {figure('g', slipGrams(profile, piece.toCm))}
              </text>
            )}
            {wide > 18 && (
              <text x={centre} y={222} textAnchor="middle" className="cut-thickness">
                {figure('mm', (piece.toCm - piece.fromCm) * 10)}
              </text>
            )}
          </g>
        )
      })}
      {pieces.slice(1).map((piece, index) => (
        <g
          key={index}
          className={`cut-line ${index === chosen ? 'cut-chosen' : ''} ${isLocked(index) ? 'cut-locked' : ''}`}
          tabIndex={0}
          role="slider"
          aria-label={`Cut ${index + 1}`}
          aria-valuemin={0}
          aria-valuemax={Math.round(profile.lengthCm * 10)}
          aria-valuenow={Math.round(piece.fromCm * 10)}
          aria-valuetext={written('cm', piece.fromCm)}
          {...handle(index)}
          onKeyDown={(event) => {
            const step = event.key === 'ArrowRight' ? 0.1 : event.key === 'ArrowLeft' ? -0.1 : 0
            if (step !== 0) onMove(index, piece.fromCm + step)
            if (event.key === 'Enter') onChoose(index)
            if (event.key === 'Delete') onRemove(index)
          }}
        >
          <rect x={x(piece.fromCm) - 12} y="2" width="24" height="204" />
          <line x1={x(piece.fromCm)} x2={x(piece.fromCm)} y1="6" y2="204" />
        </g>
      ))}
      <text x={left} y={244} className="cut-end">
        thick end
      </text>
      <text x={width / 2} y={244} textAnchor="middle" className="cut-end">
        thickness in {unitOf('mm')} below each piece; ± what a {isMetric ? '5 mm' : '0.2 in'} slip moves it by
      </text>
      <text x={width - left} y={244} textAnchor="end" className="cut-end">
        thin end
      </text>
    </svg>
  )
}

function sample(from: number, to: number): number[] {
  const steps = Math.max(2, Math.ceil((to - from) / 0.5))
  return Array.from({ length: steps + 1 }, (_, index) => from + ((to - from) * index) / steps)
}
