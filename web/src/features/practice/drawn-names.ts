import type { CutSheetBody } from '@fleam/contract/cut-sheets'
import type { DrawnNames } from '@fleam/core/practice/cards'
import { drawings } from '../../drawings/drawings.ts'

const nothing: DrawnNames = { parts: new Map(), cuts: new Map(), marks: [] }

/** What the drawing of a part of an animal names. */
export function drawnNames(part: CutSheetBody['part']): DrawnNames {
  if (!part) return nothing
  const { parts, cuts, marks } = drawings[part]
  return {
    parts: new Map(parts.filter(({ label }) => label).map(({ id, name }) => [id, name])),
    cuts: new Map(cuts.map(({ id, name }) => [id, name])),
    marks: marks.map(({ name }) => name),
  }
}
