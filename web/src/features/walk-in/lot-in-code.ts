const lotAddress = /\/walk-in\/([0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})$/i

/** The lot that a label's code opens: its address ends in it, wherever Fleam stood when it was printed. */
export const lotInCode = (code: string): string | undefined =>
  code.length > 400 ? undefined : lotAddress.exec(code.trim())?.[1]?.toLowerCase()
