import { lazyChart } from '../../ui/charts/lazy-chart.tsx'
import type { TornadoProps } from './tornado-chart.tsx'

export const Tornado = lazyChart<TornadoProps>(async () => (await import('./tornado-chart.tsx')).TornadoChart, 240)
