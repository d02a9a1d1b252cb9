import type { BuyingPlanInput } from '@fleam/core/day/buying-plan'
import type { Solve } from '@fleam/core/day/linear-model'
import type { ClaimSheet } from './features/claims/write-claim.ts'
import type { ResultPage } from './features/classes/write-result-page.ts'
import type { LabelSheet } from './features/labels/write-labels.ts'
import type { RunsFile } from './features/runs/import.ts'
import type { YieldTestSheet } from './features/runs/yield-test-sheet.ts'

export { uncertainMakeOrBuy } from '@fleam/core/compare/uncertainty'
export { schedule } from '@fleam/core/day/schedule'
export { bestMix } from '@fleam/core/plan/best-mix'
export { bondedPair } from '@fleam/core/plan/bonded-pair'
export { cutInOrder } from '@fleam/core/plan/cut-in-order'
export { rackCuts } from '@fleam/core/plan/rack-cuts'
export { learnUsualShape } from '@fleam/core/plan/usual-profile'
export { pairPieces } from '@fleam/core/portions/pair-pieces'
export { readCutSheetFile } from './features/cut-sheets/read-cut-sheets.ts'
export { readCsv } from './features/prices/read-price-list.ts'

/** Plans a day's buying with HiGHS, which is loaded when it is first asked for. */
export async function planBuying(input: BuyingPlanInput, tell?: (done: number) => void) {
  const [{ buyingPlan }, { openHighs }] = await Promise.all([import('@fleam/core/day/buying-plan'), import('@fleam/core/day/highs-solver')])
  solver ??= openHighs()
  return buyingPlan(input, { solve: await solver, onProgress: tell })
}

let solver: Promise<Solve> | undefined

// what needs large packages loads them when it is first asked for: a thread that only computes is there at once

export async function importRunsFile(file: RunsFile, tell?: (done: number) => void) {
  const { importRunsFile: importFile } = await import('./features/runs/import.ts')
  return importFile(file, tell)
}

export async function writeYieldTestSheet(sheet: YieldTestSheet) {
  const { writeYieldTestSheet: write } = await import('./features/runs/yield-test-sheet.ts')
  return write(sheet)
}

export async function writeLabels(sheet: LabelSheet) {
  const { writeLabels: write } = await import('./features/labels/write-labels.ts')
  return write(sheet)
}

export async function writeClaim(sheet: ClaimSheet) {
  const { writeClaim: write } = await import('./features/claims/write-claim.ts')
  return write(sheet)
}

export async function writeResultPage(page: ResultPage) {
  const { writeResultPage: write } = await import('./features/classes/write-result-page.ts')
  return write(page)
}
