import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Item, Supplier } from '@fleam/contract/prices'
import { newId } from '../../api/new-id.ts'
import type { Decision } from './delivery-check.tsx'
import type { FishEntry } from './fish-fields.tsx'
import { nothingLooked } from './look-fields.tsx'

interface Lists {
  whole: Item[]
  sheets: CutSheet[]
  suppliers: Supplier[]
}

/** The sheet whose name has most words in common with the item's: a rack's for a rack. */
export function sheetByName(itemName: string, sheets: Lists['sheets']): Lists['sheets'][number] | undefined {
  const wordsOf = (text: string) => new Set(text.toLowerCase().match(/\p{L}{3,}/gu) ?? [])
  const words = wordsOf(itemName)
  const inCommon = (sheet: Lists['sheets'][number]) => [...wordsOf(sheet.body.name)].filter((word) => words.has(word)).length
  return sheets.reduce<Lists['sheets'][number] | undefined>(
    (best, sheet) => (best === undefined || inCommon(sheet) > inCommon(best) ? sheet : best),
    undefined,
  )
}

interface Usual {
  cutSheetId: string
  supplierId: string
  target: string
}

const remembered = 'fleam.receive'

/** What this tablet chose for each item when it came last. */
function readRemembered(): { itemId?: string; items?: Record<string, Usual> } {
  try {
    return JSON.parse(localStorage.getItem(remembered) ?? '{}')
  } catch {
    return {}
  }
}

export function remember(itemId: string, usual: Usual): void {
  localStorage.setItem(remembered, JSON.stringify({ itemId, items: { ...readRemembered().items, [itemId]: usual } }))
}

/** What an item was received with last, else who quoted for it last. */
export function usualOf(itemId: string, whole: Lists['whole'], suppliers: Lists['suppliers']): Usual {
  const last = readRemembered().items?.[itemId]
  const quoted = whole.find((entry) => entry.id === itemId)?.latestQuote?.supplier?.id
  const supplier = suppliers.find((entry) => entry.id === last?.supplierId) ?? suppliers.find((entry) => entry.id === quoted)
  return { cutSheetId: last?.cutSheetId ?? '', supplierId: supplier?.id ?? '', target: last?.target ?? '' }
}

export function firstFields(whole: Lists['whole'], suppliers: Lists['suppliers']) {
  const itemId = (whole.find((entry) => entry.id === readRemembered().itemId) ?? whole[0])?.id ?? ''
  return {
    /** The run's id: pictures taken before it is received are kept under it. */
    id: newId(),
    itemId,
    ...usualOf(itemId, whole, suppliers),
    lot: '',
    billed: '',
    received: '',
    pieces: '1',
    coreTempC: '',
    weightsChecked: '',
    refused: '' as '' | 'yes',
    weighed: 'pooled' as 'pooled' | 'by-piece',
    temperature: { decision: '' as Decision | '', note: '' },
    look: nothingLooked,
    fish: { species: '', length: '', condition: '' } as FishEntry,
  }
}
