import { gramsOf } from '@fleam/core/quantities/weight'
import { useUnits } from '../../ui/units.ts'
import type { PortionResult } from './result.ts'

/** Every portion as a mark over the target, with what was given away. */
export function PortionSpread({ portion }: { portion: PortionResult }) {
  const { grams, money } = useUnits()
  const { tub, weights, statistics } = portion
  const target = gramsOf(tub.targetTenths ?? 0)
  const tolerance = gramsOf(tub.toleranceTenths ?? 0)
  const reach = Math.max(tolerance * 2, Math.abs(statistics.max - target), Math.abs(target - statistics.min)) * 1.1
  const place = (weight: number) => 10 + ((weight - target + reach) / (2 * reach)) * 300
  const edgesFit = place(target + tolerance) - place(target) > 52
  return (
    <section className="sheet">
      <h2>How even the portions are</h2>
      <svg
        viewBox="0 0 320 92"
        className="spread"
        role="img"
        aria-label={`${statistics.under} under, ${statistics.within} within, ${statistics.over} over the target`}
      >
        <rect
          x={place(target - tolerance)}
          y="8"
          width={place(target + tolerance) - place(target - tolerance)}
          height="52"
          className="spread-within"
        />
        <line x1={place(target)} x2={place(target)} y1="4" y2="64" className="spread-target" />
        {weights.map((weight, index) => {
          const state = weight < target - tolerance ? 'under' : weight > target + tolerance ? 'over' : 'within'
          const level = 52 - (weights.slice(0, index).filter((other) => Math.abs(place(other) - place(weight)) < 9).length % 5) * 10
          return <circle key={index} cx={place(weight)} cy={level} r="4.5" className={`spread-${state}`} />
        })}
        <text x={place(target)} y="82" textAnchor="middle">
          target {grams(target)}
        </text>
        {edgesFit && (
          <>
            <text x={place(target - tolerance)} y="82" textAnchor="end">
              {grams(target - tolerance)}
            </text>
            <text x={place(target + tolerance)} y="82" textAnchor="start">
              {grams(target + tolerance)}
            </text>
          </>
        )}
      </svg>
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
