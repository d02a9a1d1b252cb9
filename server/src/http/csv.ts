import papa from 'papaparse'

/** A place in a text where a spreadsheet, whatever it parts columns by, may begin a cell and read it as a formula. */
const formula = /(^|[;,\t|"'\r\n]) *(?=[=+\-@])/g

/** A line of CSV (RFC 4180); no text in it is taken for a formula, wherever a spreadsheet sees a cell begin. */
export function csvLine(cells: readonly unknown[]): string {
  const safe = cells.map((cell) => (typeof cell === 'string' ? cell.replace(formula, "$&'") : cell))
  return `${papa.unparse([safe])}\r\n`
}
