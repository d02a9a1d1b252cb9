import { type ComponentType, lazy, Suspense, useEffect, useMemo, useState } from 'react'
import Placeholder from 'react-bootstrap/Placeholder'

/** A chart lays its axes out anew for every change: under a moving slider it waits until the hand rests for this long. */
const restMs = 120

/**
 * A chart that comes with its library when it is first shown; its place is kept until then. Figures beside it follow at once,
 * the drawing once they rest.
 */
export function lazyChart<Props extends object>(load: () => Promise<ComponentType<Props>>, height: number): ComponentType<Props> {
  const Chart = lazy(async () => ({ default: await load() })) as unknown as ComponentType<Props>
  return function LazyChart(props: Props) {
    const [rested, setRested] = useState(props)
    useEffect(() => {
      const timer = setTimeout(() => setRested(props), restMs)
      return () => clearTimeout(timer)
    }, [props])
    const drawing = useMemo(() => <Chart {...rested} />, [rested])
    return <Suspense fallback={<Waiting height={height} />}>{drawing}</Suspense>
  }
}

function Waiting({ height }: { height: number }) {
  return (
    <Placeholder as="div" animation="glow" aria-hidden="true">
      <Placeholder className="chart-waiting" style={{ height }} />
    </Placeholder>
  )
}
