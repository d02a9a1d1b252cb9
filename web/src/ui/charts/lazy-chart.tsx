import { type ComponentType, lazy, Suspense } from 'react'
import Placeholder from 'react-bootstrap/Placeholder'

/** A chart that comes with its library when it is first shown; its place is kept until then. */
export function lazyChart<Props extends object>(load: () => Promise<ComponentType<Props>>, height: number): ComponentType<Props> {
  const Chart = lazy(async () => ({ default: await load() })) as unknown as ComponentType<Props>
  return function LazyChart(props: Props) {
    return (
      <Suspense fallback={<Waiting height={height} />}>
        <Chart {...props} />
      </Suspense>
    )
  }
}

function Waiting({ height }: { height: number }) {
  return (
    <Placeholder as="div" animation="glow" aria-hidden="true">
      <Placeholder className="chart-waiting" style={{ height }} />
    </Placeholder>
  )
}
