import type { Run } from '@fleam/contract/runs'
import { ChevronLeft, ChevronRight } from 'react-bootstrap-icons'

export interface BenchStep {
  title: string
  text: string
  check?: string | undefined
  caution?: string | undefined
  outputs: readonly string[]
}

/** The steps of a run's sheet with the station before them; the sheet's cautions take turns at steps without their own. */
export function stepsOf(run: Run): BenchStep[] {
  const { station: list } = run.sheet
  const text = list.join(', ')
  const station =
    list.length > 0 ? [{ title: 'Set the station', text: `${text.charAt(0).toUpperCase()}${text.slice(1)}.`, outputs: [] }] : []
  const { cautions } = run.sheet
  const steps: BenchStep[] = [...station, ...run.sheet.steps.map((step) => ({ ...step, outputs: step.outputs ?? [] }))]
  return steps.map((step, index) => ({ ...step, caution: step.caution ?? cautions[index % cautions.length] }))
}

interface StepBarProps {
  steps: readonly BenchStep[]
  at: number
  onMove: (at: number) => void
}

/** The present step with its check and caution; the next one is a tap away, or comes with weighing into its tub. */
export function StepBar({ steps, at, onMove }: StepBarProps) {
  const step = steps[at]
  if (!step) return null
  return (
    <section className="step-bar" aria-label="Present step">
      <button type="button" className="step-move" disabled={at === 0} aria-label="Step before" onClick={() => onMove(at - 1)}>
        <ChevronLeft aria-hidden />
      </button>
      <div className="step-words">
        <p>
          <strong>
            {at + 1}/{steps.length} {step.title}.
          </strong>{' '}
          {step.text}
        </p>
        {(step.check || step.caution) && (
          <p className="step-notes">
            {step.check && (
              <span>
                <strong>Check:</strong> {step.check}
              </span>
            )}
            {step.caution && <span className="step-caution">{step.caution}</span>}
          </p>
        )}
      </div>
      <button type="button" className="step-move" disabled={at === steps.length - 1} aria-label="Next step" onClick={() => onMove(at + 1)}>
        <ChevronRight aria-hidden />
      </button>
    </section>
  )
}
