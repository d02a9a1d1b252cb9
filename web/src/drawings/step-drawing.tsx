import { Suspense } from 'react'
import { PlainDrawing } from './cut-drawing.tsx'
import type { Part, Work } from './drawing.ts'
import { workOf } from './framing.ts'
import { useDrawing } from './use-drawing.ts'

interface StepDrawingProps {
  part: Part
  step: { shows?: readonly string[] | undefined }
  className?: string
}

/** A step near to: where the hand holds, the line that is cut, and below it where the blade must not go. */
export function StepDrawing(props: StepDrawingProps) {
  return (
    <Suspense fallback={<figure className={`step-drawing ${props.className ?? ''}`} />}>
      <LoadedStep {...props} />
    </Suspense>
  )
}

function LoadedStep({ part, step: { shows = [] }, className = '' }: StepDrawingProps) {
  const drawing = useDrawing(part)
  if (!drawing) return null
  const { cuts, handlings } = workOf(drawing, shows)
  const limits = [...cuts, ...handlings].flatMap(({ id, keepOff }: Work & { id: string }) => (keepOff ? [{ id, ...keepOff }] : []))
  return (
    <figure className={`step-drawing ${className}`}>
      <PlainDrawing drawing={drawing} shows={shows} isStep />
      {limits.length > 0 && (
        <figcaption>
          {limits.map(({ id, why, paths }) => (
            <span key={id} className={paths ? 'drawn-limit drawn-limit-shown' : 'drawn-limit'}>
              {why}
            </span>
          ))}
        </figcaption>
      )}
    </figure>
  )
}
