import { lazyChart } from '../../ui/charts/lazy-chart.tsx'
import type { NarrowingProps } from './narrowing-chart.tsx'

export const Narrowing = lazyChart<NarrowingProps>(async () => (await import('./narrowing-chart.tsx')).NarrowingChart, 130)
