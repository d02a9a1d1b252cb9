import { InputError } from '@fleam/core/input-error'
import type * as Jobs from './heavy-work-jobs.ts'
import {
  bestMix,
  bondedPair,
  cutInOrder,
  learnUsualShape,
  pairPieces,
  rackCuts,
  readCsv,
  uncertainMakeOrBuy,
  writeYieldTestSheet,
} from './heavy-work-jobs.ts'

const jobs: typeof Jobs = {
  bestMix,
  bondedPair,
  cutInOrder,
  learnUsualShape,
  pairPieces,
  rackCuts,
  readCsv,
  uncertainMakeOrBuy,
  writeYieldTestSheet,
}

/** What a worker thread is asked; a refusal of the input comes back as data, since errors lose their class on the way. */
export async function work({ name, input }: { name: keyof typeof Jobs; input: never }) {
  try {
    return { result: await jobs[name](input) }
  } catch (error) {
    if (error instanceof InputError) return { refusal: { field: error.field, message: error.message } }
    throw error
  }
}
