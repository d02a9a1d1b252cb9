import type { CuttingPlan } from '@fleam/contract/plan'
import type { Run } from '@fleam/contract/runs'
import type { NextSlice, SliceChoice } from '@fleam/core/plan/next-slice'
import Button from 'react-bootstrap/Button'
import { useUnits } from '../../../ui/units.ts'
import { usePlanUnits } from '../../plan/plan-units.tsx'
import type { SliceToCut } from './next-slice.ts'

interface NextSliceBarProps {
  run: Run
  sliced: SliceToCut
  onDrop: () => void
  /** Says what the piece weighs. */
  onWeight: (grams: number) => void
}

/** How thick to cut next, what is left to come, and what to do with the rest while there is still time. */
export function NextSliceBar({ run, sliced, onDrop, onWeight }: NextSliceBarProps) {
  const { grams } = useUnits()
  const whole = (value: number) => grams(Math.round(value))
  const { plan, next, listed, refusal, question } = sliced
  return (
    <section className="next-slice" aria-label="Next slice">
      {refusal && <p className="hot">{refusal}</p>}
      {question ? (
        <>
          <p className="next-slice-asks">
            The plan says {whole(question.plannedGrams)}, the board has {whole(question.boardGrams)}: which?
          </p>
          <Button variant="bare" onClick={() => onWeight(question.plannedGrams)}>
            {whole(question.plannedGrams)} <small>as planned</small>
          </Button>
          <Button variant="bare" onClick={() => onWeight(question.boardGrams)}>
            {whole(question.boardGrams)} <small>what is left</small>
          </Button>
        </>
      ) : (
        <>
          {next && 'types' in plan && <Sliced run={run} plan={plan} next={next} whole={whole} />}
          {'tub' in plan && (
            <>
              <Thickness cm={listed?.piece.thicknessCm} />
              <p>
                <strong>
                  {listed
                    ? `Next: ${listed.piece.bones === undefined ? 'one slice' : listed.piece.bones === 1 ? 'one bone' : `${listed.piece.bones} bones`}, ${whole(listed.piece.grams)}`
                    : 'All of it is cut.'}
                </strong>{' '}
                {listed && `Left ${whole(listed.leftGrams)}: ${listed.left} to cut.`}
              </p>
            </>
          )}
        </>
      )}
      {(next || listed || question) && (
        <Button variant="bare" onClick={onDrop}>
          Put the plan away
        </Button>
      )}
    </section>
  )
}

function Thickness({ cm }: { cm: number | undefined }) {
  const { figure, unitOf } = usePlanUnits()
  return (
    <p className="next-slice-figure">
      {cm === undefined ? (
        <b>–</b>
      ) : (
        <>
          <b>{figure('mm', cm * 10)}</b>
          <small>{unitOf('mm')}</small>
        </>
      )}
    </p>
  )
}

interface SlicedProps {
  run: Run
  plan: CuttingPlan
  next: NextSlice
  whole: (grams: number) => string
}

function Sliced({ run, plan, next, whole }: SlicedProps) {
  const name = (type: string) => run.tubs.find((tub) => tub.key === plan.tubs[type])?.name ?? type.replace(/^\d+ /, '')
  const remaining = Object.entries(next.remaining).filter(([, count]) => count > 0)
  const warning = warningOf(next, plan)
  return (
    <>
      <Thickness cm={next.next?.thicknessCm} />
      <p>
        <strong>
          {next.next
            ? `Next slice: ${next.next.type === 'tips' ? 'to tips' : name(next.next.type)}, ${whole(next.next.grams)}`
            : 'The rest goes to tips.'}
        </strong>{' '}
        Left {whole(next.leftGrams)}
        {remaining.length > 0 && `: ${remaining.map(([type, count]) => `${count} × ${name(type).toLowerCase()}`).join(', ')}`}
        {next.tipsGrams >= 1 && `, ${whole(next.tipsGrams)} to tips`}.{' '}
        {warning && <span className="hot">{choiceWords(warning, name, whole)}</span>}
      </p>
    </>
  )
}

/** The ways to share out the rest, where the plan's own way leaves its target or much to tips and another does not. */
function warningOf(next: NextSlice, { types }: CuttingPlan): SliceChoice[] | undefined {
  const [planned, ...others] = next.choices
  const type = types.find((one) => one.id === planned?.type)
  if (!planned || !type || planned.count > 4) return undefined
  const isOff =
    Math.abs(planned.gramsEach - type.targetGrams) > (type.maxGrams - type.minGrams) / 4 || next.tipsGrams > type.targetGrams / 3
  const possible = others.filter((choice) => Math.abs(choice.gramsEach - type.targetGrams) < type.targetGrams * 0.25)
  return isOff && possible.length > 0 ? [planned, ...possible] : undefined
}

const counts = ['no', 'One', 'Two', 'Three', 'Four', 'Five', 'Six']

function choiceWords(choices: readonly SliceChoice[], name: (type: string) => string, whole: (grams: number) => string): string {
  const words = choices.map((choice, index) => {
    const count = counts[choice.count] ?? String(choice.count)
    return index === 0
      ? `${count} more ${name(choice.type).toLowerCase()} at ${whole(choice.gramsEach)}`
      : `${count.toLowerCase()} at ${whole(choice.gramsEach)}`
  })
  return `${words.join(', or ')}.`
}
