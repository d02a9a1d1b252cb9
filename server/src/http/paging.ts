import { type ProblemError, refuseField } from './problems.ts'

/** Where the next page of a list starts: the sort value and id of the last entry given out. */
export interface Cursor {
  after: string | number
  id: string
}

export function writeCursor(cursor: Cursor): string {
  return Buffer.from(JSON.stringify([cursor.after, cursor.id])).toString('base64url')
}

export function readCursor(text: string | undefined): Cursor | undefined {
  if (text === undefined) return undefined
  try {
    const [after, id] = JSON.parse(Buffer.from(text, 'base64url').toString('utf8'))
    if ((typeof after === 'string' || Number.isFinite(after)) && typeof id === 'string') return { after, id }
  } catch {
    // falls through to the refusal
  }
  throw refuseCursor()
}

export function refuseCursor(): ProblemError {
  return refuseField('cursor', 'Use the cursor of an earlier page.')
}

/** Cuts one row more than asked for into a page. */
export function pageFrom<Row, Entry>(
  rows: readonly Row[],
  limit: number,
  toEntry: (row: Row) => Entry,
  toCursor: (row: Row) => Cursor,
): { entries: Entry[]; nextCursor: string | null } {
  const shown = rows.slice(0, limit)
  const last = shown.at(-1)
  return {
    entries: shown.map(toEntry),
    nextCursor: rows.length > limit && last !== undefined ? writeCursor(toCursor(last)) : null,
  }
}
