import { type CutSheetBody, type CutSheetImportReport, cutSheetExport } from '@fleam/contract/cut-sheets'
import { readJsonFile } from '../../http/json-file.ts'

/** A file of cut sheets as read: the sheets, or what is wrong with it. */
export interface CutSheetFile {
  content: { sheets: CutSheetBody[] } | undefined
  problems: CutSheetImportReport['problems']
}

export function readCutSheetFile(text: string): CutSheetFile {
  const { content, problems } = readJsonFile(text, cutSheetExport)
  return { content, problems }
}
