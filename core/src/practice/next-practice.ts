import type { Eye } from './trained-eye.ts'

/** What is known of how somebody works and practises. Shares and spreads in percent, money in the kitchen's currency. */
export interface Learning {
  /** Finished runs, the earliest first. */
  runs: readonly {
    sheet: string
    mainPct: number
    expected: { low: number; mean: number; high: number }
    /** How far portions lie apart, percent of their mean; `null` where there are too few. */
    spreadPct: number | null
    minutes: number
    expectedMinutes: number
  }[]
  eye: Pick<Eye, 'guesses' | 'bias' | 'spread'> | null
  /** Questions that have come due. */
  due: number
  /** Questions that were ever asked. */
  asked: number
  /** Criteria with the mean of the marks that were given, 0 to 4. */
  marks: readonly { name: string; mark: number; times: number }[]
  /** Pieces cut on screen. */
  attempts: number
}

/** Something to practise, where, and why. */
export interface NextPractice {
  key: 'yield' | 'evenness' | 'marks' | 'eye' | 'questions' | 'screen' | 'minutes'
  what: string
  why: string
}

const lately = 8
const fewest = 3
const evenEnough = 6
const slowBy = 1.25
const trainedSpread = 5
const lowMark = 2.5

/**
 * What to practise next and why, the most pressing first: accuracy, then evenness, and minutes only when both hold.
 *
 * @example nextPractice({ runs: [], eye: null, due: 4, asked: 9, marks: [], attempts: 2 })[0].key // 'questions'
 */
export function nextPractice({ runs, eye, due, asked, marks, attempts }: Learning): NextPractice[] {
  const next: NextPractice[] = []
  const last = runs.slice(-lately)
  const short = last.filter(({ mainPct, expected }) => mainPct < expected.low)
  const isAccurate = last.length < fewest || short.length * fewest <= last.length
  if (!isAccurate) {
    const [sheet] = mostOften(short.map((run) => run.sheet))
    next.push({
      key: 'yield',
      what: `Landmarks and cut lines of ${sheet}`,
      why: `${short.length} of the last ${last.length} runs gave less than the yield book’s interval: what is missing stays on the bones or in the trim.`,
    })
  }
  const spreads = last.flatMap(({ spreadPct }) => (spreadPct === null ? [] : [spreadPct]))
  const apart = mean(spreads)
  const isEven = apart === undefined || apart <= evenEnough
  if (!isEven)
    next.push({
      key: 'evenness',
      what: 'Cut on screen, slice by slice',
      why: `Portions lie ${rounded(apart)} % apart; within ${evenEnough} % they look and cook alike.`,
    })
  const weakest = [...marks].sort((a, b) => a.mark - b.mark)[0]
  if (weakest && weakest.mark < lowMark)
    next.push({
      key: 'marks',
      what: weakest.name,
      why: `Marked ${rounded(weakest.mark)} of 4 on average, over ${weakest.times === 1 ? 'one exercise' : `${weakest.times} exercises`}: the lowest of all.`,
    })
  if (eye && eye.guesses > 1 && (eye.bias.low > 0 || eye.bias.high < 0 || (eye.spread !== null && eye.spread.low > trainedSpread)))
    next.push({
      key: 'eye',
      what: 'By eye',
      why:
        eye.bias.low > 0 || eye.bias.high < 0
          ? `Your guesses run ${rounded(Math.abs(eye.bias.pct))} % ${eye.bias.pct > 0 ? 'high' : 'low'}, beyond chance.`
          : `Your guesses lie ${rounded(eye.spread?.pct ?? 0)} % apart; a trained eye is within ${trainedSpread} %.`,
    })
  if (due > 0 || asked === 0)
    next.push({
      key: 'questions',
      what: 'Questions',
      why: asked === 0 ? 'You have not tried any yet: a few minutes a day are enough.' : `${due} ${due === 1 ? 'has' : 'have'} come due.`,
    })
  if (attempts === 0 && isEven)
    next.push({ key: 'screen', what: 'Cut on screen', why: 'You have not cut anything on screen yet; a slip there costs nothing.' })
  const pace = mean(
    last.filter(({ expectedMinutes }) => expectedMinutes > 0).map(({ minutes, expectedMinutes }) => minutes / expectedMinutes),
  )
  if (last.length >= fewest && isAccurate && isEven && pace !== undefined && pace > slowBy)
    next.push({
      key: 'minutes',
      what: 'A steady pace',
      why: `Accuracy and evenness hold, so minutes come next: you take ${rounded((pace - 1) * 100)} % longer than the house. Never hurry with raw hands.`,
    })
  return next
}

function mean(values: readonly number[]): number | undefined {
  return values.length === 0 ? undefined : values.reduce((sum, value) => sum + value, 0) / values.length
}

/** The entries, those that are there most often first. */
function mostOften(entries: readonly string[]): string[] {
  const counts = new Map<string, number>()
  for (const entry of entries) counts.set(entry, (counts.get(entry) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1]).map(([entry]) => entry)
}

const rounded = (value: number) => String(Math.round(value * 10) / 10)
