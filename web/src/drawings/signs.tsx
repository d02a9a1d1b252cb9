import type { DrawnHand, Point, Work } from './drawing.ts'
import { placesOf } from './framing.ts'

const flat =
  'M-11,46 C-12,34 -16,26 -17,14 C-24,10 -33,0 -34,-8 C-35,-13 -29,-15 -26,-10 C-22,-4 -18,-1 -15,-2 L-15,-30 C-15,-36 -8,-36 -8,-30 L-7,-8 L-6,-38 C-6,-44 1,-44 1,-38 L1,-8 L3,-35 C3,-41 10,-40 9.5,-35 L8,-6 L11,-26 C12,-31 18,-30 17,-25 L15,2 C15,16 12,32 11,46'
const pinch = [
  'M-11,64 L-12,50 C-13,40 -17,32 -16,22 C-15,10 -9,3 -2,1 C-1,-1 1,-1 4,1 C11,5 16,12 17,20 C19,32 16,42 12,50 L11,64',
  'M1,4 C-5,10 -7,18 -3,26 C2,32 8,26 8,18 C8,12 5,7 1,4 Z',
  'M12,30 C8,34 4,36 0,36',
]
const tools = {
  knife: ['M0,-16 C7,-4 8,18 6,34 L-3,34 L-3,-6 Z', 'M-4,36 L7,36 L8,72 C8,78 -6,78 -5,72 Z'],
  shears: [
    'M0,-16 L5,20 L1,24 L-5,-8 Z',
    'M2,-14 L-6,22 L-2,26 L7,-6 Z',
    'M4,26 C14,34 16,50 8,54 C0,54 -2,36 4,26 Z',
    'M-5,26 C-15,34 -17,50 -9,54 C-1,54 1,36 -5,26 Z',
  ],
  saw: [
    'M-8,-22 L-8,44 L6,44 L6,-22 L3,-18 L6,-14 L3,-10 L6,-6 L3,-2 L6,2 L3,6 L6,10 L3,14 L6,18 Z',
    'M-9,46 L8,46 L10,80 C10,86 -10,86 -10,80 Z',
  ],
} as const

/** A hand as it lies or grips, seen from above. */
export function Hand({ at, toward, grip }: DrawnHand) {
  return (
    <g className="drawn-hand" transform={`translate(${at[0]} ${at[1]}) rotate(${toward})`}>
      {(grip === 'flat' ? [flat] : pinch).map((path) => (
        <path key={path} d={path} />
      ))}
    </g>
  )
}

/** What cuts, its tip at the beginning of a line and pointing along it. */
export function Tool({ along, tool = 'knife' }: { along: string; tool?: Work['tool'] }) {
  const [from, to] = placesOf(along)
  if (!from || !to) return null
  return (
    <g className="drawn-tool" transform={`translate(${from[0]} ${from[1]}) rotate(${bearing(from, to)})`}>
      {tools[tool].map((path) => (
        <path key={path} d={path} />
      ))}
    </g>
  )
}

/** The head of an arrow at the end of a line. */
export function ArrowHead({ along }: { along: string }) {
  const [from, to] = placesOf(along).slice(-2)
  if (!from || !to) return null
  return (
    <path
      className="drawn-head"
      d="M0,2 L-5,-8 L0,-6 L5,-8 Z"
      transform={`translate(${to[0]} ${to[1]}) rotate(${bearing(from, to) + 180})`}
    />
  )
}

/** Degrees from up, clockwise. */
function bearing(from: Point, to: Point): number {
  return Math.round((Math.atan2(to[0] - from[0], from[1] - to[1]) * 180) / Math.PI)
}
