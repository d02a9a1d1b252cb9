import type { Tenths } from '../quantities/weight.ts'
import { type LedgerLine, readLedger } from './ledger.ts'

/** What is put right in the ledger of a run that is finished. Nothing in it is changed: lines are added. */
export interface LedgerCorrection {
  /** Weighed into the wrong tub. */
  moved: readonly { weighingId: string; tubId: string }[]
  /** Weighings that should not be. */
  takenBack: readonly string[]
  /** Weighings that were forgotten. */
  added: readonly { tubId: string; tenths: Tenths; entered: string; piece: number | null }[]
}

/** A line that puts something right. */
export interface CorrectingLine extends LedgerLine {
  entered: string
  piece: number | null
  movedFromId: string | null
}

type Weighed = LedgerLine & { entered: string; piece: number | null }

/**
 * The lines that put a ledger right: one that takes back each weighing that was wrong, and one for each that stands instead.
 * What does not stand any more, or would move to where it lies, is passed over.
 *
 * @param newId an id for each line
 * @example correctingLines([], { moved: [], takenBack: [], added: [{ tubId: 'fat', tenths: 120, entered: '12 g', piece: null }] }, () => 'a').map(({ tubId }) => tubId) // ['fat']
 */
export function correctingLines(
  weighings: readonly Weighed[],
  { moved, takenBack, added }: LedgerCorrection,
  newId: () => string,
): CorrectingLine[] {
  const standing = new Map([...readLedger(weighings).byTub.values()].flat().map((line) => [line.id, line]))
  const lines: CorrectingLine[] = []
  const takeBack = (weighingId: string) => {
    const line = weighings.find(({ id }) => id === weighingId)
    if (!line || !standing.delete(weighingId)) return undefined
    lines.push({ ...plain(line), id: newId(), reversesId: weighingId, movedFromId: null })
    return line
  }
  for (const { weighingId, tubId } of moved) {
    if (standing.get(weighingId)?.tubId === tubId) continue
    const line = takeBack(weighingId)
    if (line) lines.push({ ...plain(line), id: newId(), tubId, reversesId: null, movedFromId: weighingId })
  }
  for (const weighingId of takenBack) takeBack(weighingId)
  for (const line of added) lines.push({ ...line, id: newId(), reversesId: null, movedFromId: null })
  return lines
}

const plain = ({ tubId, tenths, entered, piece }: Weighed) => ({ tubId, tenths, entered, piece })
