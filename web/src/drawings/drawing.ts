import type { CutSheetBody } from '@fleam/contract/cut-sheets'

export type Point = readonly [number, number]

export type Tone = 'skin' | 'flesh' | 'dark' | 'fat' | 'bone' | 'sinew' | 'line' | 'contour'

/** A part of the animal with its name at a place beside it. `pointsAt` is where the name's line ends. */
export interface DrawnPart {
  id: string
  name: string
  tone: Tone
  paths: readonly string[]
  label?: Label & { pointsAt?: Point }
  /** Lies below the surface, so it is drawn with a broken outline. */
  isHidden?: boolean
}

/** A hand whose fingers point away from its wrist: `toward` in degrees, 0 is up, clockwise. */
export interface DrawnHand {
  at: Point
  toward: number
  grip: 'flat' | 'pinch'
}

/** How the hands work at a step: what they hold, which way they pull, and where the blade must not go. */
export interface Work {
  hands?: readonly DrawnHand[]
  /** Lines along which something is pulled, bent or pressed, to their arrow heads. */
  pulls?: readonly string[]
  twine?: readonly string[]
  /** Where the blade must not go, and why, in a few words. A bound of depth has no place on the drawing. */
  keepOff?: { why: string; paths?: readonly string[] }
  /** What cuts; a knife where nothing is said. */
  tool?: 'knife' | 'shears' | 'saw'
}

export interface DrawnCut extends Work {
  id: string
  name: string
  /** Each from where the blade begins. */
  paths: readonly string[]
  /** Where its number stands. */
  at: Point
}

/** Work of the hands without a blade: looking over, drawing out, pressing, tying. */
export interface DrawnHandling extends Work {
  id: string
  name: string
}

export interface DrawnMark {
  name: string
  at: Point
  label: Label
}

export interface Drawing {
  title: string
  width: number
  height: number
  views?: readonly { name: string; x: number }[]
  parts: readonly DrawnPart[]
  marks: readonly DrawnMark[]
  cuts: readonly DrawnCut[]
  handlings: readonly DrawnHandling[]
  /** Bones that only the layer under the skin shows, beside the parts that are bone. */
  bones?: readonly string[]
  /** What a unit measures on a piece of this weight; a lighter one is smaller by the cube root. */
  lifeSize: { unitMm: number; atKg: number }
}

export type Part = NonNullable<CutSheetBody['part']>

/** Whether there is anything to see under the skin. */
export const hasBones = ({ bones = [], parts }: Drawing) => bones.length > 0 || parts.some(({ tone }) => tone === 'bone')

/** A limb that tapers from one rounded end to the other, as a path. */
export function limb(x1: number, y1: number, width1: number, x2: number, y2: number, width2: number): string {
  const length = Math.hypot(x2 - x1, y2 - y1)
  const [nx, ny] = [-(y2 - y1) / length, (x2 - x1) / length]
  const [r1, r2] = [width1 / 2, width2 / 2]
  const at = (x: number, y: number, r: number) => `${round(x + nx * r)},${round(y + ny * r)}`
  return `M${at(x1, y1, r1)} L${at(x2, y2, r2)} A${r2},${r2} 0 0 0 ${at(x2, y2, -r2)} L${at(x1, y1, -r1)} A${r1},${r1} 0 0 0 ${at(x1, y1, r1)} Z`
}

/** A long bone with a knuckle at each end, as a path of M, L, C and Z. */
export function longBone(x1: number, y1: number, x2: number, y2: number, width: number): string {
  const length = Math.hypot(x2 - x1, y2 - y1)
  const [ux, uy] = [(x2 - x1) / length, (y2 - y1) / length]
  const half = width / 2
  const knob = width * 0.95
  /** A place `out` past an end (negative: inside it), `aside` from the middle line. */
  const at = (end: 1 | 2, out: number, aside: number) => {
    const [x, y, turn] = end === 1 ? [x1, y1, -1] : [x2, y2, 1]
    return `${round(x + turn * out * ux - aside * uy)},${round(y + turn * out * uy + aside * ux)}`
  }
  const end = (one: 1 | 2, from: number) =>
    `C${at(one, -knob * 0.4, from * 2.4)} ${at(one, knob, from * 2.4)} ${at(one, knob * 0.15, 0)} C${at(one, knob, -from * 2.4)} ${at(one, -knob * 0.4, -from * 2.4)} ${at(one, -knob, -from)}`
  return `M${at(1, -knob, half)} L${at(2, -knob, half)} ${end(2, half)} L${at(1, -knob, -half)} ${end(1, -half)} Z`
}

const pairs = /(?<![\d.-])(-?[\d.]{1,12}),(-?[\d.]{1,12})/g

/** A path and its mirror image about a vertical line. Paths use absolute M, L, C, Q and Z only. */
export function bothSides(path: string, axis: number): [string, string] {
  return [path, path.replace(pairs, (_, x: string, y: string) => `${round(2 * axis - Number(x))},${y}`)]
}

/** A path moved along x; the same commands as above. */
export function moved(path: string, by: number): string {
  return path.replace(pairs, (_, x: string, y: string) => `${round(Number(x) + by)},${y}`)
}

export function ellipse(x: number, y: number, rx: number, ry: number): string {
  return `M${x - rx},${y} A${rx},${ry} 0 1 0 ${x + rx},${y} A${rx},${ry} 0 1 0 ${x - rx},${y} Z`
}

export interface Label {
  x: number
  y: number
  anchor?: 'start' | 'middle' | 'end'
}

/** Letters of 13 units are about so wide and so high. */
const letter = { wide: 6.6, high: 13, under: 3 }

/** The room that a name takes where it stands. */
export function boxOf(name: string, { x, y, anchor = 'start' }: Label): { left: number; right: number; top: number; bottom: number } {
  const wide = name.length * letter.wide
  const left = anchor === 'start' ? x : anchor === 'end' ? x - wide : x - wide / 2
  return { left, right: left + wide, top: y - letter.high + letter.under, bottom: y + letter.under }
}

/** Where the line from a place to its name ends: at the edge of the name that is nearest, so that it crosses no letter. */
export function leaderEnd(name: string, label: Label, [x, y]: Point): [number, number] {
  const { left, right, top, bottom } = boxOf(name, label)
  return [Math.min(right + 2, Math.max(left - 2, x)), Math.min(bottom, Math.max(top, y))]
}

function round(value: number): number {
  return Math.round(value * 10) / 10
}
