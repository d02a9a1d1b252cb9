import type { Profile } from '@fleam/core/plan/profile'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Choice } from '../../ui/fields.tsx'
import { useUnits } from '../../ui/units.ts'
import type { MappedPiece } from './cut-map.tsx'
import { usePlanUnits } from './plan-units.tsx'

const papers = { A4: { width: 277, height: 190 }, A3: { width: 400, height: 277 } } as const
type Paper = keyof typeof papers
const overlap = 10

/** The cut lines life-size, on as many sheets as the piece is long: a rule to lay beside the meat. */
export function PaperRule({ profile, pieces }: { profile: Profile; pieces: readonly MappedPiece[] }) {
  const { grams } = useUnits()
  const { written } = usePlanUnits()
  const [paper, setPaper] = useState<Paper>('A4')
  const { width } = papers[paper]
  const length = profile.lengthCm * 10
  const sheets = Math.max(1, Math.ceil((length - overlap) / (width - overlap)))
  const widest = Math.max(...pieces.map((piece) => profile.diameterAt(piece.fromCm))) * 10
  const height = Math.min(papers[paper].height - 10, widest + 44)
  return (
    <>
      <div className="sheet-actions no-print paper-actions">
        <Choice
          label="Paper"
          value={paper}
          onChange={setPaper}
          options={[
            { value: 'A4', label: 'A4' },
            { value: 'A3', label: 'A3' },
          ]}
        />
        <Button variant="plain" onClick={() => print()}>
          Print the rule, life-size, {sheets} {sheets === 1 ? 'sheet' : 'sheets'}
        </Button>
      </div>
      <div className="paper-rule" data-paper={paper}>
        <style>{`@media print { @page { size: ${paper} landscape; margin: 10mm } }`}</style>
        {Array.from({ length: sheets }, (_, sheet) => {
          const from = sheet * (width - overlap)
          const middle = height / 2 - 8
          return (
            <svg
              key={sheet}
              viewBox={`${from} 0 ${width} ${height}`}
              style={{ width: `${width}mm`, height: `${height}mm` }}
              role="img"
              aria-label={`Sheet ${sheet + 1} of ${sheets}`}
            >
              <path d={outlineOf(profile, middle)} fill="none" stroke="#11211f" strokeWidth="0.5" />
              {Array.from({ length: Math.floor(length / 10) + 1 }, (_, cm) => (
                <g key={cm}>
                  <line
                    x1={cm * 10}
                    x2={cm * 10}
                    y1={height - 12}
                    y2={height - (cm % 5 === 0 ? 5 : 8)}
                    stroke="#11211f"
                    strokeWidth="0.3"
                  />
                  {cm % 5 === 0 && (
                    <text x={cm * 10} y={height - 1} fontSize="3.6" textAnchor="middle">
                      {cm} cm
                    </text>
                  )}
                </g>
              ))}
              {pieces.map((piece, index) => (
                <g key={piece.fromCm}>
                  {index > 0 && (
                    <line x1={piece.fromCm * 10} x2={piece.fromCm * 10} y1={2} y2={height - 12} stroke="#c2410c" strokeWidth="0.7" />
                  )}
                  <text x={(piece.fromCm + piece.toCm) * 5} y={middle} fontSize="6" textAnchor="middle">
                    {grams(Math.round(piece.grams))}
                  </text>
                  <text x={(piece.fromCm + piece.toCm) * 5} y={middle + 6} fontSize="3.6" textAnchor="middle">
                    {written('mm', (piece.toCm - piece.fromCm) * 10)}
                  </text>
                </g>
              ))}
            </svg>
          )
        })}
        <p>Printed at 100 %, ten centimetres on the rule are ten centimetres. The scale decides.</p>
      </div>
    </>
  )
}

function outlineOf(profile: Profile, middle: number): string {
  const places = Array.from({ length: 61 }, (_, index) => (profile.lengthCm * index) / 60)
  const point = (cm: number, side: 1 | -1) => `${(cm * 10).toFixed(1)},${(middle + side * profile.diameterAt(cm) * 5).toFixed(1)}`
  return `M${places.map((cm) => point(cm, -1)).join(' L')} L${[...places]
    .reverse()
    .map((cm) => point(cm, 1))
    .join(' L')} Z`
}
