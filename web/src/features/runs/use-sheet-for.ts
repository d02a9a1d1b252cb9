import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Item } from '@fleam/contract/prices'
import type { RunSummary } from '@fleam/contract/runs'
import { useQuery } from '@tanstack/react-query'
import { get } from '../../api/http.ts'
import { sheetByName } from './usual-delivery.ts'

/** The sheets that fit an item, and the one that is meant where none was chosen: that of its last run, else by its name. */
export function useSheetFor(item: Item | undefined, sheets: readonly CutSheet[]) {
  const fitting = sheets.filter((sheet) => !sheet.retired && sheet.body.animal === item?.animal)
  const lastRun = useQuery({
    queryKey: ['runs', 'last', item?.id],
    queryFn: () => get<{ entries: RunSummary[] }>(`/runs?limit=1&itemId=${item?.id}`),
    enabled: item !== undefined,
  }).data?.entries[0]
  const sheetOf = (chosen: string) =>
    fitting.find((other) => other.id === chosen) ??
    fitting.find((other) => other.id === lastRun?.cutSheet.id) ??
    sheetByName(item?.name ?? '', fitting)
  return { fitting, sheetOf }
}
