import type { Run, Tub } from '@fleam/contract/runs'
import { portionState } from '@fleam/core/portions/portion-state'
import { portionStatistics } from '@fleam/core/portions/portion-statistics'
import { weightsIn } from '@fleam/core/runs/run-record'
import { useUnits } from '../../../ui/units.ts'
import { useLatestReading } from '../../scales/latest-reading.ts'
import { useScaleWords } from '../../scales/scale-bar.tsx'
import type { useWeighingHands } from '../../scales/use-weighing-hands.ts'

interface ReadoutProps {
  run: Run
  tub: Tub | undefined
  entry: string
  refusal: string | undefined
  said: string
  hands: ReturnType<typeof useWeighingHands>
}

/** The weight that is about to go in, large enough for two metres, over the target of the chosen tub. */
export function Readout({ run, tub, entry, refusal, said, hands }: ReadoutProps) {
  const { read, weight, weightParts, defaultUnit } = useUnits()
  const parsed = entry.trim() === '' ? undefined : read(entry)
  const typed = /^[\d.,\s]*$/.test(entry) ? { figure: entry, unit: defaultUnit as string } : { figure: entry, unit: '' }
  const scaleWords = useScaleWords(hands)
  const reading = useLatestReading(hands.latest)
  // what lies on the scale is shown while nothing is typed
  const fromScale = entry === '' && reading ? { tenths: reading.tenths, isSteady: reading.state === 'steady' } : undefined
  const shown = fromScale ? weightParts(fromScale.tenths) : parsed?.ok && /[a-z]/.test(entry) ? weightParts(parsed.tenths) : typed
  return (
    <>
      <div className="readout-head">
        <strong>{run.item.name}</strong>
        <span>
          Run {run.number}
          {run.lot && ` · lot ${run.lot}`}
        </span>
        <span className="readout-tub">
          {tub ? tub.name : 'No tub'}
          {tub?.targetTenths && ` · target ${weight(tub.targetTenths)}`}
        </span>
        {tub && <PortionLine run={run} tub={tub} />}
      </div>
      <p
        className={`readout ${entry === '' && !fromScale?.isSteady ? 'readout-empty' : ''} ${shown.figure.length > 6 ? 'readout-long' : ''}`}
      >
        {shown.figure || '0'}
        <small>{shown.unit}</small>
      </p>
      <TargetStrip tub={tub} tenths={parsed?.ok ? parsed.tenths : fromScale && fromScale.tenths > 20 ? fromScale.tenths : undefined} />
      <div className="readout-foot">
        <p className={refusal ? 'readout-note refused' : 'readout-note'} role="status" aria-live="polite">
          {refusal ??
            (parsed && !parsed.ok && entry.length > 3 && /^[^a-z]*[a-z]\D*\d|^[^.,]*[.,][^.,]*[.,]/.test(entry) ? parsed.message : said)}
        </p>
        {scaleWords && <small className="scale-words">{scaleWords}</small>}
      </div>
    </>
  )
}

/** How the portions in the chosen tub come out, as they come. */
function PortionLine({ run, tub }: { run: Run; tub: Tub }) {
  const { grams } = useUnits()
  const weights = weightsIn(run, tub.id)
  if (tub.targetTenths === null || weights.length < 2) return null
  const { mean, sd, under, over, giveawayGrams } = portionStatistics({
    weights,
    target: tub.targetTenths / 10,
    tolerance: (tub.toleranceTenths ?? 0) / 10,
  })
  const tenth = (value: number) => grams(Math.round(value * 10) / 10)
  return (
    <span className="readout-statistics">
      mean {tenth(mean)}, ± {tenth(sd ?? 0)} · {under} under, {over} over · {tenth(giveawayGrams)} given away
    </span>
  )
}

/** Under, within and over, with a mark where the weight stands. */
function TargetStrip({ tub, tenths }: { tub: Tub | undefined; tenths: number | undefined }) {
  const { weight } = useUnits()
  if (!tub?.targetTenths || !tub.toleranceTenths) return <div className="strip strip-none">No target for this tub</div>
  const { targetTenths: target, toleranceTenths: tolerance } = tub
  const reach = tolerance * 2.5
  const place = tenths === undefined ? undefined : Math.min(1, Math.max(0, (tenths - target + reach) / (2 * reach)))
  const verdict = tenths === undefined ? undefined : portionState(tenths, target, tolerance)
  return (
    <div className="strip" role="img" aria-label={verdict ? `${verdict} the target of ${weight(target)}` : `Target ${weight(target)}`}>
      <span className="strip-under">{verdict === 'under' ? 'under' : ''}</span>
      <span className="strip-within">{verdict === 'within' ? 'on target' : weight(target)}</span>
      <span className="strip-over">{verdict === 'over' ? 'over' : ''}</span>
      {place !== undefined && <i style={{ left: `${place * 100}%` }} />}
    </div>
  )
}
