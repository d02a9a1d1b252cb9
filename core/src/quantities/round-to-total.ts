/**
 * Rounds the rows of a table so that they add up to the rounded total: every row is rounded down, and the units that
 * are then missing go to the rows with the largest remainders (Hare–Niemeyer; ties to the earlier row).
 *
 * @param amounts unrounded amounts, of either sign
 * @param decimals decimal places to keep
 * @example roundToTotal([1 / 3, 1 / 3, 1 / 3], 2) // [0.34, 0.33, 0.33]
 */
export function roundToTotal(amounts: readonly number[], decimals: number): number[] {
  const unit = 10 ** decimals
  const total = Math.round(amounts.reduce((sum, amount) => sum + amount, 0) * unit)
  const floors = amounts.map((amount) => Math.floor(amount * unit + 1e-9))
  let missing = total - floors.reduce((sum, floor) => sum + floor, 0)
  const byRemainder = amounts
    .map((amount, index) => ({ index, remainder: amount * unit - (floors[index] ?? 0) }))
    .sort((a, b) => b.remainder - a.remainder || a.index - b.index)
  for (let step = 0; missing !== 0 && byRemainder.length > 0; step += 1) {
    const row = byRemainder[step % byRemainder.length]
    if (!row) break
    floors[row.index] = (floors[row.index] ?? 0) + Math.sign(missing)
    missing -= Math.sign(missing)
  }
  return floors.map((floor) => floor / unit)
}
