/** How many values, their mean and their variance (n − 1; 0 of fewer than two). */
export interface Sample {
  n: number
  mean: number
  variance: number
}

export const noSample: Sample = { n: 0, mean: 0, variance: 0 }

/** @example summarise([1, 3]) // { n: 2, mean: 2, variance: 2 } */
export function summarise(values: readonly number[]): Sample {
  let [n, mean, squares] = [0, 0, 0]
  for (const value of values) {
    n += 1
    const off = value - mean
    mean += off / n
    squares += off * (value - mean)
  }
  return { n, mean, variance: n > 1 ? squares / (n - 1) : 0 }
}

/**
 * The sample whose values add up to `sum`, and whose squares add up to `squares`, as running totals keep them.
 * @example sampleOfSums(2, 4, 10) // { n: 2, mean: 2, variance: 2 }
 */
export function sampleOfSums(n: number, sum: number, squares: number): Sample {
  if (n === 0) return noSample
  return { n, mean: sum / n, variance: n > 1 ? Math.max(0, (squares - (sum * sum) / n) / (n - 1)) : 0 }
}

/**
 * Two samples as one.
 * @example pooled({ n: 1, mean: 1, variance: 0 }, { n: 1, mean: 3, variance: 0 }) // { n: 2, mean: 2, variance: 2 }
 */
export function pooled(a: Sample, b: Sample): Sample {
  const n = a.n + b.n
  if (n === 0) return noSample
  const off = b.mean - a.mean
  const squares = a.variance * Math.max(0, a.n - 1) + b.variance * Math.max(0, b.n - 1) + (off * off * a.n * b.n) / n
  return { n, mean: (a.mean * a.n + b.mean * b.n) / n, variance: n > 1 ? squares / (n - 1) : 0 }
}
