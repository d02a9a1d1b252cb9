import type { CutList, CuttingPlan } from '@fleam/contract/plan'
import type { Run } from '@fleam/contract/runs'
import type { NextSlice } from '@fleam/core/plan/next-slice'
import { pieceOnBoard } from '@fleam/core/plan/piece-on-board'
import { gramsOf } from '@fleam/core/quantities/weight'
import { readLedger } from '@fleam/core/runs/ledger'
import { usePlan } from '../../../workers/use-plan.ts'

/** A plan that lies on the bench, and what it was taken up with. */
interface PlanOnBench {
  plan: CuttingPlan | CutList
  piece: number | null
  /** When it was taken up. */
  from: string
  /** What a person has said that the piece weighs. */
  saidGrams: number | undefined
}

/** Of the next piece by a plan: how thick, how heavy, and where it goes. */
export interface SliceToCut {
  plan: CuttingPlan | CutList
  /** The next slice of a piece that is planned anew as it is cut. */
  next: NextSlice | undefined
  /** The next of cuts that lie fixed. */
  listed: { piece: CutList['pieces'][number]; left: number; leftGrams: number } | undefined
  refusal: string | undefined
  /** Plan and board weigh unlike, and somebody must say which is right. */
  question: { plannedGrams: number; boardGrams: number } | undefined
}

/** The plan of the piece on the board, if one was taken to the bench for this piece and not put away since. */
function planOf(run: Run, piece: number | null): PlanOnBench | undefined {
  let found: PlanOnBench | undefined
  for (const { what, at } of run.events) {
    if (what.kind === 'plan' && (what.piece === null || piece === null || what.piece === piece)) {
      found = { plan: what.plan, piece: what.piece, from: at, saidGrams: undefined }
    }
    if (what.kind === 'plan-dropped') found = undefined
    if (what.kind === 'plan-weight' && found) found.saidGrams = what.grams
  }
  return found
}

const tubsOf = (plan: CuttingPlan | CutList): readonly string[] => ('tub' in plan ? [plan.tub] : Object.values(plan.tubs))

/** What of a planned piece has been weighed, and what it weighs by the board. */
function weighedBy(run: Run, { plan, piece, from, saidGrams }: PlanOnBench) {
  const lines = readLedger(run.weighings).standing.filter((line) => piece === null || line.piece === piece)
  const keyOf = new Map(run.tubs.map((tub) => [tub.id, tub.key]))
  const since = lines.filter((line) => line.weighedAt >= from)
  const planned = since.filter((line) => tubsOf(plan).includes(keyOf.get(line.tubId) ?? ''))
  const sum = (some: typeof lines) => gramsOf(some.reduce((total, line) => total + line.tenths, 0))
  const received = gramsOf(run.received.tenths) / run.pieces
  const isOnePiece = run.pieces === 1 || piece !== null
  const boardGrams = isOnePiece ? received - sum(lines.filter((line) => line.weighedAt < from)) : undefined
  const board = pieceOnBoard({ plannedGrams: plan.grams, saidGrams, boardGrams, byproductGrams: sum(since) - sum(planned) })
  return { planned: planned.map((line) => ({ key: keyOf.get(line.tubId) ?? '', grams: gramsOf(line.tenths) })), board, boardGrams }
}

/** The next slice by the scale so far; `undefined` without a plan. */
export function useNextSlice(run: Run, piece: number | null): SliceToCut | undefined {
  const found = planOf(run, piece)
  const weighed = found && weighedBy(run, found)
  const plan = found?.plan
  const { answer, refusal } = usePlan('nextSlice', weighed && plan && 'stations' in plan ? questionOf(plan, weighed) : undefined)
  if (!plan || !weighed) return undefined
  const { board, boardGrams, planned } = weighed
  const question = board.asks && boardGrams !== undefined ? { plannedGrams: plan.grams, boardGrams } : undefined
  if ('stations' in plan) return { plan, next: answer, listed: undefined, refusal, question }
  const left = plan.pieces.slice(planned.length)
  const [next] = left
  return {
    plan,
    next: undefined,
    listed: next && { piece: next, left: left.length, leftGrams: left.reduce((sum, { grams }) => sum + grams, 0) },
    refusal: undefined,
    question,
  }
}

function questionOf(plan: CuttingPlan, { planned, board }: ReturnType<typeof weighedBy>) {
  const kindOf = new Map(
    Object.entries(plan.tubs)
      .reverse()
      .map(([type, key]) => [key, type]),
  )
  return { ...plan, grams: board.grams, weighed: planned.map(({ key, grams }) => ({ type: kindOf.get(key) ?? 'tips', grams })) }
}

/** What a weighing into a tub was planned to be, where the next slice goes there. */
export function plannedSlice(
  sliced: SliceToCut | undefined,
  tubKey: string | null,
): { thicknessMm: number; plannedGrams: number } | undefined {
  if (!sliced) return undefined
  const { plan, next, listed } = sliced
  if ('tub' in plan) {
    return listed && plan.tub === tubKey ? { thicknessMm: listed.piece.thicknessCm * 10, plannedGrams: listed.piece.grams } : undefined
  }
  const planned = next?.next
  if (!planned || planned.type === 'tips' || plan.tubs[planned.type] !== tubKey) return undefined
  return { thicknessMm: planned.thicknessCm * 10, plannedGrams: planned.grams }
}
