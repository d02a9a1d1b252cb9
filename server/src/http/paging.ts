import * as z from 'zod'
import { type ProblemError, refuseField } from './problems.ts'

/** Where the next page of a list starts: the sort value and id of the last entry given out. */
export interface Cursor {
  after: string | number
  id: string
}

export function writeCursor(cursor: Cursor): string {
  return Buffer.from(JSON.stringify([cursor.after, cursor.id])).toString('base64url')
}

/** @param after what the list is sorted by; a cursor of anything else is refused */
export function readCursor<After extends z.ZodType<string | number>>(
  text: string | undefined,
  after: After,
): { after: z.infer<After>; id: string } | undefined {
  if (text === undefined) return undefined
  const { data } = z.tuple([after, z.string().regex(/^[\w-]{1,40}$/)]).safeParse(parsedOf(text))
  if (!data) throw refuseCursor()
  return { after: data[0] as z.infer<After>, id: data[1] }
}

function parsedOf(text: string): unknown {
  try {
    return JSON.parse(Buffer.from(text, 'base64url').toString('utf8'))
  } catch {
    return undefined
  }
}

/** What lists that are sorted by name go on from. */
export const nameCursor = z.string().max(200)

function refuseCursor(): ProblemError {
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
