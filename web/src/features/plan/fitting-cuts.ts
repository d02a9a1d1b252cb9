import type { CutSheetBody } from '@fleam/contract/cut-sheets'
import { useQuery } from '@tanstack/react-query'
import { cutSheetsQuery, itemsQuery, yieldBookQuery } from '../../api/queries.ts'

/** What is planned: a boneless muscle, a fillet, a rack of bones. */
export type PlanKind = 'muscle' | 'fillet' | 'rack'

const racks: readonly CutSheetBody['part'][] = ['rack', 'bone-in rib']

/** Whether what a sheet starts from is planned as such a piece: racks from racks, fillets from fish, muscles from the rest. */
export function fitsKind(kind: PlanKind, { animal, part }: Pick<CutSheetBody, 'animal' | 'part'>): boolean {
  if (animal === 'bird') return false
  if (kind === 'fillet') return animal === 'fish'
  return animal !== 'fish' && (kind === 'rack') === racks.includes(part)
}

/** Items with a cut sheet, of which this kitchen has tests and which are planned as such a piece. */
export function useFittingCuts(kind: PlanKind) {
  const [book, items, sheets] = [useQuery(yieldBookQuery), useQuery(itemsQuery), useQuery(cutSheetsQuery)]
  return (book.data ?? []).flatMap((entry) => {
    const item = items.data?.find((one) => one.id === entry.itemId)
    const sheet = sheets.data?.find((one) => one.id === entry.cutSheetId)
    return item && sheet && fitsKind(kind, sheet.body) ? [{ key: `${item.id} ${sheet.id}`, entry, item, sheet }] : []
  })
}
