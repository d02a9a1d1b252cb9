import { constants, setPriority } from 'node:os'
import type { MessagePort } from 'node:worker_threads'
import { InputError } from '@fleam/core/input-error'
import { outliveStrayKills } from './db/ailments.ts'
import type * as Jobs from './heavy-work-jobs.ts'
import {
  bestMix,
  bondedPair,
  cutInOrder,
  importRunsFile,
  learnUsualShape,
  pairPieces,
  planBuying,
  rackCuts,
  readCsv,
  readCutSheetFile,
  schedule,
  uncertainMakeOrBuy,
  writeClaim,
  writeLabels,
  writeResultPage,
  writeYieldTestSheet,
} from './heavy-work-jobs.ts'
import { ailmentProblem, ProblemError } from './http/problems.ts'

outliveStrayKills()

// On Linux this is the thread's own priority: what computes stands back for the thread that answers everybody.
setPriority(constants.priority.PRIORITY_LOW)

const jobs: typeof Jobs = {
  bestMix,
  bondedPair,
  cutInOrder,
  importRunsFile,
  learnUsualShape,
  pairPieces,
  planBuying,
  rackCuts,
  readCsv,
  readCutSheetFile,
  schedule,
  uncertainMakeOrBuy,
  writeClaim,
  writeLabels,
  writeResultPage,
  writeYieldTestSheet,
}

/** What a worker thread is asked; a refusal of the input comes back as data, since errors lose their class on the way. */
export async function work({ name, input, progress }: { name: keyof typeof Jobs; input: never; progress: MessagePort }) {
  try {
    return { result: await jobs[name](input, (done) => progress.postMessage(done)) }
  } catch (error) {
    if (error instanceof InputError) return { refusal: { field: error.field, message: error.message } }
    const problem = error instanceof ProblemError ? error : ailmentProblem(error)
    if (problem) return { problem: { kind: problem.kind, extra: problem.extra } }
    throw error
  } finally {
    progress.close()
  }
}
