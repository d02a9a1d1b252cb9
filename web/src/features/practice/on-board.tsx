import { profileOf } from '@fleam/core/plan/profile'
import { type CuttingScore, drawPiece, type Rung, type ScreenPiece, scoreCuts } from '@fleam/core/practice/screen-piece'
import { useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Word } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { opensAt } from './opens-at.ts'
import { nameOfUse, ScreenPieceMap } from './screen-piece-map.tsx'
import './practice.scss'

interface OnBoardProps {
  rung: Rung
  seed: number
  shape: Parameters<typeof drawPiece>[2]
  onDone: (cutsCm: readonly number[]) => void
  onAnother: () => void
}

/** One piece under the knife. */
export function OnBoard({ rung, seed, shape, onDone, onAnother }: OnBoardProps) {
  const piece = useMemo(() => drawPiece(rung.key, seed, shape), [rung.key, seed, shape])
  const { lengthCm } = profileOf(piece)
  const [cutsCm, setCuts] = useState<readonly number[]>([])
  const [fixedCm, setFixed] = useState(0)
  const [isOver, setOver] = useState(false)
  const score = useMemo(() => scoreCuts(piece, cutsCm), [piece, cutsCm])
  const isSliced = rung.tells === 'each'
  const told =
    isOver || rung.tells === 'while' ? score.pieces : isSliced ? score.pieces.filter(({ toCm }) => toCm <= fixedCm + 1e-9) : undefined
  // between bones there is less room than a millimetre's steps leave
  const steps = piece.kind === 'rack' ? 100 : 10
  const inside = (cm: number) => Math.min(lengthCm - 0.1, Math.max(isSliced ? fixedCm + 0.1 : 0.1, Math.round(cm * steps) / steps))
  function put(cuts: readonly number[]) {
    setCuts([...cuts].sort((a, b) => a - b))
  }
  function add(cm: number) {
    if (cm <= 0 || cm >= lengthCm || (isSliced && cm <= fixedCm)) return
    // slice by slice there is one line that is not cut yet
    put([...(isSliced ? cutsCm.filter((cut) => cut <= fixedCm + 1e-9) : cutsCm), inside(cm)])
  }
  const next = cutsCm.find((cut) => cut > fixedCm + 1e-9)
  function finish() {
    setOver(true)
    onDone(cutsCm)
  }
  return (
    <div className="stack">
      <header>
        <h2>{wanted(piece)}</h2>
        <p className="under-title">{rung.word} Tap the piece to place a line, drag it, and tap it twice or press Delete to take it away.</p>
      </header>
      <ScreenPieceMap
        piece={piece}
        cutsCm={cutsCm}
        told={told}
        bestCutsCm={isOver ? score.bestCutsCm : undefined}
        fixedCm={isSliced ? fixedCm : 0}
        isOver={isOver}
        onMove={(line, cm) => put(cutsCm.map((cut, at) => (at === line ? inside(cm) : cut)))}
        onAdd={add}
        onRemove={(line) => put(cutsCm.filter((_, at) => at !== line))}
      />
      {isOver ? (
        <Verdict score={score} piece={piece} onAnother={onAnother} />
      ) : (
        <div className="actions">
          {isSliced && (
            <Button variant="act" disabled={next === undefined} onClick={() => setFixed(next ?? fixedCm)}>
              Cut the slice
            </Button>
          )}
          <Button variant={isSliced ? 'plain' : 'act'} disabled={cutsCm.length === 0} onClick={finish}>
            {isSliced ? 'The rest stays whole' : 'Cut it'}
          </Button>
          <Button variant="plain" disabled={cutsCm.length === 0 || isSliced} onClick={() => setCuts([])}>
            Take all lines away
          </Button>
        </div>
      )}
    </div>
  )
}

/** What is asked of a piece, in words. */
function wanted(piece: ScreenPiece): string {
  if (piece.kind === 'rack') return `Cutlets of ${piece.bonesPerPiece.join(', ')} bones, from the left, all alike`
  const [first, second] = piece.types
  const rest = piece.kind === 'fillet' ? 'tail' : 'tips'
  const of = (type: NonNullable<typeof first>) => `${type.targetGrams} g`
  return `${first?.id === 'steak' ? 'Steaks' : 'Portions'} of ${first ? of(first) : ''}${second ? `, then tournedos of ${of(second)}` : ''}; what is left goes to ${rest}`
}

function Verdict({ score, piece, onAnother }: { score: CuttingScore; piece: ScreenPiece; onAnother: () => void }) {
  const { weight } = useUnits()
  const grams = (value: number) => weight(Math.round(value) * 10)
  const whole = score.pieces.filter(({ offGrams }) => offGrams !== null)
  const off = whole.reduce((sum, { offGrams }) => sum + Math.abs(offGrams ?? 0), 0)
  const kindGrams = (kind: string) => score.pieces.filter((one) => one.kind === kind).reduce((sum, one) => sum + one.grams, 0)
  const scrap = kindGrams('nothing')
  const tips = kindGrams('tips')
  const best = scoreCuts(piece, score.bestCutsCm)
  const bestTips = best.pieces.filter(({ kind }) => kind === 'tips').reduce((sum, one) => sum + one.grams, 0)
  const lost = [
    whole.length !== best.pieces.filter(({ offGrams }) => offGrams !== null).length &&
      `${whole.length} portions where the best plan has ${best.pieces.filter(({ offGrams }) => offGrams !== null).length}`,
    off >= 1 && `${grams(off)} beside the targets, over all portions`,
    piece.kind !== 'rack' &&
      Math.abs(tips - bestTips) >= 1 &&
      `${grams(tips)} to ${piece.kind === 'fillet' ? 'tail' : 'tips'}, in the best plan ${grams(bestTips)}`,
    scrap >= 1 && `${grams(scrap)} good for nothing`,
  ].filter((line) => line !== false)
  return (
    <div className="cut-verdict">
      <div className="headline">
        <span>Score</span>
        <b>{score.score >= 99.95 ? 100 : Math.floor(score.score * 10) / 10}</b>
        <small>of the best plan’s worth</small>
      </div>
      <div className="stack">
        <Word isGood={score.score >= opensAt} isNews>
          {score.score >= 99.95
            ? 'As good as it can be cut.'
            : `The dotted lines are the best plan.${score.score >= opensAt ? ` ${opensAt} or better takes you a rung up.` : ''}`}
        </Word>
        {lost.length > 0 && (
          <>
            <h3>Where it went</h3>
            <ul>
              {lost.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </>
        )}
        <p>{score.pieces.map((one) => `${grams(one.grams)} ${nameOfUse(one)}`).join(' · ')}</p>
        <div className="actions">
          <Button variant="act" autoFocus onClick={onAnother}>
            Another piece
          </Button>
        </div>
      </div>
    </div>
  )
}
