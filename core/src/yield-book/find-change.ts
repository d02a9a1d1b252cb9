import { studentTQuantile } from '../statistics/student-t.ts'

/** A change is looked for among so many of the latest tests, and needs so many on either side of it. */
export const testsSearched = 60
const fewestAside = 5
/** How seldom a change is found where there is none. */
const falseAlarm = 0.002

/**
 * Where the tests of a cut have changed, such as when a supplier's animals did: the place from which the later ones are alike
 * and unlike those before, for any of several figures. Tests before it say little of the next one.
 *
 * Source: the largest two-sample t over all places, its limit shared among places and figures (Bonferroni), again on what
 * follows until nothing more is found.
 *
 * @param series one list of values for each figure, oldest first and equally long
 * @returns how many of the first tests lie before the last change; 0 where none is found
 * @example findChange([[60, 61, 60, 59, 60, 61, 50, 51, 50, 49, 50, 51]]) === 6
 */
export function findChange(series: readonly (readonly number[])[]): number {
  const count = series[0]?.length ?? 0
  const searched = Math.max(0, count - testsSearched)
  let start = searched
  for (;;) {
    const found = changeIn(series.map((values) => values.slice(start)))
    if (found === 0) return start > searched ? start : 0
    start += found
  }
}

function changeIn(series: readonly (readonly number[])[]): number {
  const count = series[0]?.length ?? 0
  const places = count - 2 * fewestAside + 1
  if (places < 1) return 0
  const limit = studentTQuantile(1 - falseAlarm / (2 * places * series.length), count - 2)
  let best = { at: 0, t: limit }
  for (const values of series) {
    const total = values.reduce((sum, value) => sum + value, 0)
    const squares = values.reduce((sum, value) => sum + value * value, 0)
    let before = 0
    for (let at = 1; at <= count - fewestAside; at += 1) {
      before += values[at - 1] as number
      if (at < fewestAside) continue
      const after = total - before
      const between = (before * before) / at + (after * after) / (count - at) - (total * total) / count
      const within = Math.max(squares - (total * total) / count - between, 1e-9 * squares)
      const t = Math.sqrt((between * (count - 2)) / within)
      if (t > best.t) best = { at, t }
    }
  }
  return best.at
}
