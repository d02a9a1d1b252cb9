import { type ComparisonBody, comparisonBody } from '@fleam/contract/compare'

/** The address of a comparison that is not kept by name: all that it is about stands in it. */
export function linkTo(body: ComparisonBody): string {
  return `/compare/portion?of=${encodeURIComponent(JSON.stringify(body))}`
}

/** What an address says, `undefined` where it is cut off or from somewhere else. */
export function bodyOf(text: string | null): ComparisonBody | undefined {
  if (text === null) return undefined
  try {
    return comparisonBody.parse(JSON.parse(text))
  } catch {
    return undefined
  }
}
