import type { CutSheetImportReport } from '@fleam/contract/cut-sheets'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import type { CutSheetFile } from './read-cut-sheets.ts'
import { createCutSheet, listCutSheets } from './service.ts'

/** The kitchen's cut sheets, or one of them, as a file that another kitchen can read in. */
export async function exportCutSheets(records: KitchenRecords, only?: string): Promise<object> {
  const sheets = (await listCutSheets(records, '', 1000)).filter((sheet) => (only === undefined ? !sheet.retired : sheet.id === only))
  return { format: 'fleam-cut-sheets', version: 1, sheets: sheets.map((sheet) => sheet.body) }
}

/**
 * Says which sheets of a file are new; adds them, all or none, unless it is a preview. A sheet that says
 * the same as one that is here already is left out.
 */
export async function importCutSheets(by: Actor, { content, problems }: CutSheetFile, preview: boolean): Promise<CutSheetImportReport> {
  if (!content) return { written: false, added: [], alreadyHere: [], problems }
  const known = new Set((await listCutSheets(by.records, '', 1000)).map((sheet) => JSON.stringify(sheet.body)))
  const added = content.sheets.filter((body) => !known.has(JSON.stringify(body)))
  const report = {
    added: added.map((body) => body.name),
    alreadyHere: content.sheets.filter((body) => known.has(JSON.stringify(body))).map((body) => body.name),
    problems: [],
  }
  if (preview || added.length === 0) return { ...report, written: false }
  await by.records.transaction(async (tx) => {
    for (const body of added) await createCutSheet({ ...by, records: tx }, { id: uuidv7(), basedOnId: null, body })
  })
  return { ...report, written: true }
}
