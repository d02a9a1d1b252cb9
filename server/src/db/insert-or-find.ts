import { isDuplicateKey } from './database.ts'

/**
 * Stores something once, however often it is sent: makes it, or finds what an earlier send has made. A database that fell
 * over may have lost what stood in the way and had not been answered for; then it is made once more.
 *
 * @param insert `undefined` where the statement took no part, as for a run that is closed
 * @returns `undefined` where it could neither be made nor found
 */
export async function insertOrFind<Entity>(
  insert: () => Promise<Entity | undefined>,
  find: () => Promise<Entity | undefined>,
): Promise<Entity | undefined> {
  for (const mayHaveGone of [true, false]) {
    try {
      const made = await insert()
      if (made !== undefined) return made
    } catch (error) {
      if (!isDuplicateKey(error)) throw error
      const first = await find()
      if (first !== undefined || !mayHaveGone) return first
      continue
    }
    return find()
  }
  return undefined
}
