/** What Fleam uses of gs1-barcode-parser-mod, which brings no types. */
declare module 'gs1-barcode-parser-mod' {
  export interface ParsedElement {
    ai: string
    dataTitle: string
    data: string | number | Date
    unit: string
    isoDate: string
    raw?: string
  }
  /** @throws a sentence, as a string, where it cannot be read */
  export function parseBarcode(code: string): { codeName: string; parsedCodeItems: ParsedElement[] }
}
