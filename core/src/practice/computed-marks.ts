/** What a run came to, for its marks; shares in percent of the received weight, weights in any one unit. */
export interface MarkedRun {
  /** What all mains came to, and what to expect of them: the yield book's interval. */
  mains: { pct: number; expected: Expected }
  /** What the frame, carcass or bones came to, where the sheet has them: meat left on it makes it heavier. */
  frame?: { name: string; pct: number; expected: Expected } | undefined
  /** Portions, or plates where several pieces make one. */
  portions: readonly number[]
  /** From which to which weight a portion is right; even ones are where nothing is said. */
  within?: { low: number; high: number } | undefined
  minutes?: { taken: number; expected: Expected } | undefined
}

export interface Expected {
  low: number
  mean: number
  high: number
}

export interface ComputedMark {
  key: 'yield' | 'evenness' | 'frame' | 'minutes'
  name: string
  /** 0 to 4. */
  mark: number
  why: string
}

const best = 4
/** What lies as expected is good; the best mark is for what lies at the good end of the interval. */
const asExpected = 3
const atPoorEnd = 2
/** Portions that differ by so much of their mean get nothing. */
const unevenest = 0.25

/**
 * Marks that follow from what was weighed, beside those that an instructor gives: the yield against the yield book's interval, evenness, the weight
 * of the frame, and the minutes. Each is the better the better the work is, never worse.
 *
 * @example computedMarks({ mains: { pct: 65, expected: { low: 60, mean: 65, high: 70 } }, portions: [] })[0].mark // 3
 */
export function computedMarks({ mains, frame, portions, within, minutes }: MarkedRun): ComputedMark[] {
  const marks: ComputedMark[] = [
    {
      ...{ key: 'yield', name: 'Yield' },
      mark: against(mains.pct, mains.expected, 1),
      why: `${tenth(mains.pct)} % where ${tenth(mains.expected.mean)} % is expected (${tenth(mains.expected.low)} to ${tenth(mains.expected.high)})`,
    },
  ]
  if (portions.length > 1) marks.push(evenness(portions, within))
  if (frame)
    marks.push({
      ...{ key: 'frame', name: frame.name },
      mark: against(frame.pct, frame.expected, -1),
      why: `${tenth(frame.pct)} % where ${tenth(frame.expected.mean)} % is expected; meat that is left on it weighs`,
    })
  if (minutes)
    marks.push({
      ...{ key: 'minutes', name: 'Minutes' },
      mark: against(minutes.taken, minutes.expected, -1),
      why: `${tenth(minutes.taken)} minutes where ${tenth(minutes.expected.mean)} are expected`,
    })
  return marks
}

function evenness(portions: readonly number[], within: MarkedRun['within']): ComputedMark {
  const name = 'Portions even'
  if (within) {
    const right = portions.filter((weight) => weight >= within.low && weight <= within.high).length
    return {
      key: 'evenness',
      name,
      mark: rounded((best * right) / portions.length),
      why: `${right} of ${portions.length} within tolerance`,
    }
  }
  const mean = portions.reduce((sum, weight) => sum + weight, 0) / portions.length
  const spread = Math.sqrt(portions.reduce((sum, weight) => sum + (weight - mean) ** 2, 0) / (portions.length - 1)) / mean
  const why = `they lie ${tenth(spread * 100)} % apart`
  return { key: 'evenness', name, mark: rounded(best * Math.max(0, 1 - spread / unevenest)), why }
}

/**
 * A mark for a figure against its interval: 4 at the good end and beyond, 3 in the middle, 2 at the poor end, and 0 three times as far off as that.
 */
function against(value: number, { low, mean, high }: Expected, betterIs: 1 | -1): number {
  const off = (value - mean) * betterIs
  const goodEnd = betterIs === 1 ? high - mean : mean - low
  const poorEnd = betterIs === 1 ? mean - low : high - mean
  if (off >= 0) return rounded(goodEnd > 0 ? Math.min(best, asExpected + off / goodEnd) : best)
  return rounded(poorEnd > 0 ? Math.max(0, asExpected + ((asExpected - atPoorEnd) * off) / poorEnd) : 0)
}

const rounded = (mark: number) => Math.round(mark * 10) / 10
const tenth = (value: number) => String(Math.round(value * 10) / 10)

/**
 * The total of marks by their weights, percent of what could be had; `null` where nothing was marked. What is not marked counts neither way.
 *
 * @example totalOfMarks([{ key: 'a', weight: 1 }, { key: 'b', weight: 3 }], new Map([['a', 4], ['b', 2]])) // 62.5
 */
export function totalOfMarks(rubric: readonly { key: string; weight: number }[], marks: ReadonlyMap<string, number>): number | null {
  const counted = rubric.filter(({ key, weight }) => weight > 0 && marks.has(key))
  const most = counted.reduce((sum, { weight }) => sum + weight * best, 0)
  if (most === 0) return null
  return (100 * counted.reduce((sum, { key, weight }) => sum + weight * (marks.get(key) as number), 0)) / most
}
