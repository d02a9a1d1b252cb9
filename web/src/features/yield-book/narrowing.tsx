import type { Expectation } from '@fleam/core/yield-book/expectation'
import type { SeenTest } from '@fleam/core/yield-book/unusual-tests'

const [width, height, edge] = [560, 120, 6]

interface NarrowingProps {
  name: string
  /** Each test with what was expected of it, oldest first. */
  seen: readonly SeenTest[]
  /** What is expected now. */
  now: Expectation
  write: (value: number) => string
}

/** Tests in their order, inside the band that nine of ten were expected in: it narrows as the kitchen learns. */
export function Narrowing({ name, seen, now, write }: NarrowingProps) {
  const bands = [...seen.map((one) => one.expected), now]
  const values = [...bands.flatMap(({ low, high }) => [low, high]), ...seen.map((one) => one.value)]
  const [least, most] = [Math.min(...values), Math.max(...values)]
  const x = (at: number) => edge + (at / Math.max(1, bands.length - 1)) * (width - 2 * edge)
  const y = (value: number) => height - edge - ((value - least) / Math.max(most - least, 1e-9)) * (height - 2 * edge)
  const line = (of: (band: Expectation) => number) => bands.map((band, at) => `${x(at).toFixed(1)},${y(of(band)).toFixed(1)}`)
  const dots = (isUnusual: boolean) =>
    seen.map((one, at) => (one.isUnusual === isUnusual ? `M${x(at + 0.5).toFixed(1)} ${y(one.value).toFixed(1)}h0` : '')).join('')
  const alone = bands.length === 1
  return (
    <svg
      className="narrowing"
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={`${name}: ${seen.length} tests; nine of ten of the next are expected between ${write(now.low)} and ${write(now.high)}`}
    >
      {alone ? (
        <rect className="narrowing-band" x={edge} width={width - 2 * edge} y={y(now.high)} height={y(now.low) - y(now.high)} />
      ) : (
        <polygon className="narrowing-band" points={[...line((band) => band.high), ...line((band) => band.low).reverse()].join(' ')} />
      )}
      <polyline
        className="narrowing-mean"
        points={alone ? `${edge},${y(now.mean)} ${width - edge},${y(now.mean)}` : line((band) => band.mean).join(' ')}
      />
      <path className="narrowing-test" d={dots(false)} />
      <path className="narrowing-unusual" d={dots(true)} />
    </svg>
  )
}
