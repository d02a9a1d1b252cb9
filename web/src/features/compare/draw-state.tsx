import Button from 'react-bootstrap/Button'
import { useUnits } from '../../ui/units.ts'
import type { Drawn } from '../../workers/draw-worker.ts'

/** How far the draws are, and how widely they spread; they can be stopped and begun again. */
export function DrawState({
  spread,
  progress,
  isCancelled,
  onCancel,
  onAgain,
}: {
  spread: Drawn | undefined
  progress: number | undefined
  isCancelled: boolean
  onCancel: () => void
  onAgain: () => void
}) {
  const { money } = useUnits()
  if (progress !== undefined) {
    return (
      <span className="drawing" role="status">
        Drawing … {Math.round(progress * 100)} %
        <Button variant="plain" onClick={onCancel}>
          Stop
        </Button>
      </span>
    )
  }
  if (isCancelled) {
    return (
      <span className="drawing">
        Stopped.
        <Button variant="plain" onClick={onAgain}>
          Draw again
        </Button>
      </span>
    )
  }
  return spread ? (
    <span className="drawing">
      middle 90 %: {money(spread.p5)} – {money(spread.p95)}
    </span>
  ) : null
}
