import type { Run } from '@fleam/contract/runs'
import Button from 'react-bootstrap/Button'
import { Check2Square, ChevronLeft, ChevronRight, Square } from 'react-bootstrap-icons'
import { StepDrawing } from '../../../drawings/step-drawing.tsx'
import { useHouseFigures } from '../../../ui/house-figures.ts'
import { type BenchStep, stationTicks } from './steps.ts'

interface StepCardProps {
  run: Run
  steps: readonly BenchStep[]
  at: number
  minutesHere: number
  /** Whom else one sees at the benches of this run, and where they are. */
  others: readonly { name: string; title: string }[]
  onMove: (at: number) => void
  onTick: (line: number, ticked: boolean) => void
  onOptional: (done: boolean) => void
  onDefect: () => void
}

/** The present step with its drawing, check and caution; the next one is a tap away, or comes with weighing into its tub. */
export function StepCard({ run, steps, at, minutesHere, others, onMove, onTick, onOptional, onDefect }: StepCardProps) {
  const house = useHouseFigures()
  const step = steps[at]
  if (!step) return null
  const ticks = stationTicks(run.events)
  const before = steps.findLastIndex((one, index) => index < at && !one.isSkipped)
  const next = steps.findIndex((one, index) => index > at && !one.isSkipped)
  return (
    <section className="step-card sheet" aria-label="Present step">
      {run.sheet.part && <StepDrawing part={run.sheet.part} step={step} />}
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: long instructions scroll, and keys must reach them */}
      <section className="step-words" aria-label="What to do" tabIndex={0}>
        <h2>
          <small>
            {at + 1} of {steps.length}
            {step.minutes !== undefined && ` · about ${step.minutes} min`}
            {minutesHere >= 0.1 && ` · ${clockText(minutesHere)} here`}
          </small>
          {step.title}
        </h2>
        {step.station.length > 0 ? (
          <ul className="station">
            {step.station.map((line, index) => (
              <li key={line}>
                <Button variant="bare" aria-pressed={ticks.has(index)} onClick={() => onTick(index, !ticks.has(index))}>
                  {ticks.has(index) ? <Check2Square aria-hidden /> : <Square aria-hidden />} {line}
                </Button>
              </li>
            ))}
          </ul>
        ) : (
          <p>{step.text}</p>
        )}
        {step.check && (
          <p>
            <strong>Check:</strong> {step.check}
          </p>
        )}
        {step.caution && <p className="step-caution">{house(step.caution)}</p>}
        {step.optional && (
          <Button variant="plain" className="step-optional" aria-pressed={!step.isSkipped} onClick={() => onOptional(step.isSkipped)}>
            {step.isSkipped ? 'Left out on this run' : 'Done on this run'}: frees about {step.optional.gramsFreed} g, takes{' '}
            {step.optional.minutes} min
          </Button>
        )}
        {others.map((other) => (
          <p key={other.name} className="step-other">
            {other.name}: {other.title}
          </p>
        ))}
      </section>
      <div className="step-moves">
        <Button variant="bare" className="step-move" disabled={before < 0} aria-label="Step before" onClick={() => onMove(before)}>
          <ChevronLeft aria-hidden />
        </Button>
        <Button variant="bare" className="step-move" onClick={onDefect}>
          Note
        </Button>
        <Button variant="bare" className="step-move step-next" disabled={next < 0} aria-label="Next step" onClick={() => onMove(next)}>
          Next <ChevronRight aria-hidden />
        </Button>
      </div>
    </section>
  )
}

function clockText(minutes: number): string {
  const seconds = Math.floor(minutes * 60)
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
}
