import type { CuttingPlan } from '@fleam/contract/plans'
import type { Run } from '@fleam/contract/runs'
import type { NextSlice, SliceChoice } from '@fleam/core/plan/next-slice'
import { readLedger } from '@fleam/core/runs/ledger'
import Button from 'react-bootstrap/Button'
import { useUnits } from '../../../ui/units.ts'
import { usePlan } from '../../../workers/use-plan.ts'

/** The plan of the piece on the board, if one was taken to the bench and not put away since. */
export function planOf(run: Run): CuttingPlan | undefined {
  const last = run.events.findLast(({ what }) => what.kind === 'plan' || what.kind === 'plan-dropped')?.what
  return last?.kind === 'plan' ? last.plan : undefined
}

/** The next slice by the scale so far; `undefined` without a plan. */
export function useNextSlice(run: Run): { plan: CuttingPlan; next: NextSlice | undefined; refusal: string | undefined } | undefined {
  const plan = planOf(run)
  const since = run.events.findLastIndex(({ what }) => what.kind === 'plan')
  const from = run.events[since]?.at ?? ''
  const kindOf = new Map(
    Object.entries(plan?.tubs ?? {})
      .reverse()
      .map(([type, key]) => [key, type]),
  )
  const weighed = readLedger(run.weighings).standing.flatMap((line) => {
    const key = run.tubs.find((tub) => tub.id === line.tubId)?.key
    const type = key ? kindOf.get(key) : undefined
    return type !== undefined && line.weighedAt >= from ? [{ type, grams: line.tenths / 10 }] : []
  })
  const { answer, refusal } = usePlan('nextSlice', plan && { ...plan, weighed })
  return plan && { plan, next: answer, refusal }
}

interface NextSliceBarProps {
  run: Run
  sliced: NonNullable<ReturnType<typeof useNextSlice>>
  onDrop: () => void
}

/** How thick to cut next, what is left to come, and what to do with the rest while there is still time. */
export function NextSliceBar({ run, sliced: { plan, next, refusal }, onDrop }: NextSliceBarProps) {
  const { grams } = useUnits()
  const whole = (value: number) => grams(Math.round(value))
  const name = (type: string) => run.tubs.find((tub) => tub.key === plan.tubs[type])?.name ?? type.replace(/^\d+ /, '')
  const remaining = Object.entries(next?.remaining ?? {}).filter(([, count]) => count > 0)
  const warning = next && warningOf(next, plan)
  return (
    <section className="next-slice" aria-label="Next slice">
      {refusal && <p className="hot">{refusal}</p>}
      {next && (
        <>
          <p className="next-slice-figure">
            {next.next ? (
              <>
                <b>{Math.round(next.next.thicknessCm * 10)}</b>
                <small>mm</small>
              </>
            ) : (
              <b>–</b>
            )}
          </p>
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
          <Button variant="bare" onClick={onDrop}>
            Put the plan away
          </Button>
        </>
      )}
    </section>
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
