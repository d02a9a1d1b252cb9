/**
 * Share of Student's t-distribution below `t`.
 *
 * Source: the regularised incomplete beta function by its continued fraction (Lentz).
 * @example studentTCdf(0, 5) === 0.5
 */
export function studentTCdf(t: number, degreesOfFreedom: number): number {
  const tail = incompleteBeta(degreesOfFreedom / (degreesOfFreedom + t * t), degreesOfFreedom / 2, 0.5) / 2
  return t > 0 ? 1 - tail : tail
}

const known = new Map<string, number>()

/**
 * The t that has a share `p` (0–1, both ends left out) of the distribution below it.
 * @example studentTQuantile(0.95, 3) // 2.3534
 */
export function studentTQuantile(p: number, degreesOfFreedom: number): number {
  if (!(p > 0 && p < 1)) throw new RangeError('A share lies between 0 and 1.')
  if (p === 0.5) return 0
  if (p < 0.5) return -studentTQuantile(1 - p, degreesOfFreedom)
  const key = `${p} ${degreesOfFreedom}`
  const found = known.get(key) ?? search(p, degreesOfFreedom)
  if (known.size < 20_000) known.set(key, found)
  return found
}

/** Halves an interval that holds the quantile until it is as narrow as numbers get. */
function search(p: number, degreesOfFreedom: number): number {
  let [low, high] = [0, 2]
  while (studentTCdf(high, degreesOfFreedom) < p && high < 1e9) [low, high] = [high, high * 2]
  for (let turn = 0; turn < 200 && high - low > 1e-13 * high; turn += 1) {
    const middle = (low + high) / 2
    if (studentTCdf(middle, degreesOfFreedom) < p) low = middle
    else high = middle
  }
  return (low + high) / 2
}

function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0
  if (x >= 1) return 1
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x))
  return x < (a + 1) / (a + b + 2) ? (front * continuedFraction(x, a, b)) / a : 1 - (front * continuedFraction(1 - x, b, a)) / b
}

function continuedFraction(x: number, a: number, b: number): number {
  const tiny = 1e-300
  const off0 = (value: number) => (Math.abs(value) < tiny ? tiny : value)
  let c = 1
  let d = 1 / off0(1 - ((a + b) * x) / (a + 1))
  let fraction = d
  for (let m = 1; m <= 500; m += 1) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m))
    d = 1 / off0(1 + even * d)
    c = off0(1 + even / c)
    fraction *= d * c
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1))
    d = 1 / off0(1 + odd * d)
    c = off0(1 + odd / c)
    fraction *= d * c
    if (Math.abs(d * c - 1) < 1e-15) break
  }
  return fraction
}

const lanczos = [
  0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905,
  -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
]

function logGamma(x: number): number {
  const t = x + 6.5
  const sum = lanczos.reduce((total, term, index) => (index === 0 ? term : total + term / (x - 1 + index)), 0)
  return 0.5 * Math.log(2 * Math.PI) + (x - 0.5) * Math.log(t) - t + Math.log(sum)
}
