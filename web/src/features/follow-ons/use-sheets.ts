import type { FollowOnSheetEntry } from '@fleam/contract/follow-ons'
import { allFollowOnSheets, type FollowOnSheet, followOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import { useQuery } from '@tanstack/react-query'
import { followOnSheetsQuery } from '../../api/queries.ts'

/** Fleam's ways of making something and the kitchen's own; Fleam's alone while they cannot be read. */
export function useSheets() {
  const { data } = useQuery(followOnSheetsQuery)
  const own = (data ?? []).filter(({ id }) => id !== null)
  const ofKitchen = own.map(({ key, body }): FollowOnSheet => ({ ...body, key }))
  return {
    /** What can be begun: Fleam's, and the kitchen's own that is not put away. */
    offered: [...ofKitchen.filter(({ key }) => !own.some((one) => one.key === key && one.isRetired)), ...allFollowOnSheets],
    sheetOf: (key: string): FollowOnSheet => followOnSheet(key, ofKitchen),
    bookOf: (key: string): FollowOnSheetEntry['book'] | undefined => data?.find((one) => one.key === key)?.book,
  }
}
