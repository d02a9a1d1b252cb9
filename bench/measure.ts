/** One line of the table: what was measured, what it was set against, and the ratio that may not be passed. */
export interface Measured {
  what: string
  value: string
  against: string
  ratio?: number
  limit?: number
}

export function percentile(times: readonly number[], share: number): number {
  const sorted = [...times].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN
}

/** Milliseconds of each of `count` turns, after a warm-up. */
export async function timeEach(count: number, turn: (index: number) => unknown, warmUp = Math.ceil(count / 10)): Promise<number[]> {
  const times: number[] = []
  for (let index = -warmUp; index < count; index += 1) {
    const start = performance.now()
    await turn(index + warmUp)
    if (index >= 0) times.push(performance.now() - start)
  }
  return times
}

export const ms = (value: number) => `${value < 1 ? value.toFixed(3) : value.toFixed(value < 10 ? 2 : 1)} ms`

/** Prints the table; answers whether every ratio kept its limit. */
export function printTable(rows: readonly Measured[]): boolean {
  const cells = rows.map((row) => [
    row.what,
    row.value,
    row.against,
    row.ratio === undefined ? '' : `${row.ratio.toFixed(2)} ×`,
    row.limit === undefined ? 'reported' : `≤ ${row.limit} ×`,
    row.ratio === undefined || row.limit === undefined ? '' : row.ratio <= row.limit ? 'kept' : 'PASSED OVER',
  ])
  const all = [['measured', 'value', 'against', 'ratio', 'limit', ''], ...cells]
  const widths = all[0]?.map((_, column) => Math.max(...all.map((row) => row[column]?.length ?? 0))) ?? []
  for (const row of all)
    process.stdout.write(
      `${row
        .map((cell, column) => cell.padEnd(widths[column] ?? 0))
        .join('  ')
        .trimEnd()}\n`,
    )
  return rows.every((row) => row.ratio === undefined || row.limit === undefined || row.ratio <= row.limit)
}
