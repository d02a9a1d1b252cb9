import type { PortionStatistics } from '@fleam/core/portions/portion-statistics'
import { gramsOf } from '@fleam/core/quantities/weight'
import { lazyChart } from '../../ui/charts/lazy-chart.tsx'
import { useUnits } from '../../ui/units.ts'
import type { PortionSpreadChartProps } from './portion-spread-chart.tsx'
import type { PortionResult } from './result.ts'

const Spread = lazyChart<PortionSpreadChartProps>(async () => (await import('./portion-spread-chart.tsx')).PortionSpreadChart, 140)

/** Every portion as a mark over the target, with what was given away. */
export function PortionSpread({ portion, statistics }: { portion: PortionResult; statistics: PortionStatistics }) {
  const { grams, money } = useUnits()
  const { tub, weights } = portion
  const target = gramsOf(tub.targetTenths ?? 0)
  const tolerance = gramsOf(tub.toleranceTenths ?? 0)
  return (
    <section className="sheet">
      <h2>How even the portions are</h2>
      <Spread weights={weights} target={target} tolerance={tolerance} statistics={statistics} />
      <p>
        {statistics.under} under, {statistics.within} within, {statistics.over} over. Mean {grams(statistics.mean)}
        {statistics.sd !== null && `, standard deviation ${grams(statistics.sd)}`}, from {grams(statistics.min)} to {grams(statistics.max)}.
      </p>
      <p>
        Given away <b>{grams(statistics.giveawayGrams)}</b>
        {statistics.giveawayCost !== null && (
          <>
            , <b>{money(statistics.giveawayCost)}</b>
          </>
        )}
        {statistics.portionsForgone > 0 &&
          ` : ${statistics.portionsForgone} more portion${statistics.portionsForgone > 1 ? 's' : ''} at target weight`}
        .
      </p>
    </section>
  )
}
