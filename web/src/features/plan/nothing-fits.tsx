import type { BestMixInput } from '@fleam/core/plan/best-mix'
import { nearestFits } from '@fleam/core/plan/nearest-fit'
import { Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'

/** What to offer where nothing that is wanted fits: the nearest thing that does. */
export function NothingFits({ input }: { input: BestMixInput }) {
  const { grams } = useUnits()
  const whole = (value: number) => grams(Math.round(value))
  const name = (id: string) => id.replace(/^\d+ /, '')
  const because = {
    'too-thin': 'at its thinnest it weighs',
    'too-thick': 'at its thickest it weighs',
    'face-too-small': 'the face is never that wide; a slice there weighs',
  }
  return (
    <Warning>
      No piece that is wanted fits this one.{' '}
      {nearestFits(input, input.types)
        .map(
          (fit) =>
            `${name(fit.type)}: ${because[fit.because]} ${whole(fit.because === 'too-thin' ? fit.gramsFrom : fit.gramsTo)}, so ask for that, or change its thickness.`,
        )
        .join(' ')}
    </Warning>
  )
}
