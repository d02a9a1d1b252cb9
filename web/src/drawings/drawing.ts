import type { CutSheetBody } from '@fleam/contract/cut-sheets'

export type Tone = 'skin' | 'flesh' | 'dark' | 'fat' | 'bone' | 'sinew' | 'line' | 'contour'

/** A part of the animal with its name at a place beside it. `pointsAt` is where the name's line ends. */
export interface DrawnPart {
  id: string
  name: string
  tone: Tone
  paths: readonly string[]
  label?: Label & { pointsAt?: readonly [number, number] }
  /** Lies below the surface, so it is drawn with a broken outline. */
  isHidden?: boolean
}

export interface DrawnCut {
  id: string
  name: string
  paths: readonly string[]
  /** Where its number stands. */
  at: readonly [number, number]
}

export interface DrawnMark {
  name: string
  at: readonly [number, number]
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
}

export type Part = NonNullable<CutSheetBody['part']>

/** A limb that tapers from one rounded end to the other, as a path. */
export function limb(x1: number, y1: number, width1: number, x2: number, y2: number, width2: number): string {
  const length = Math.hypot(x2 - x1, y2 - y1)
  const [nx, ny] = [-(y2 - y1) / length, (x2 - x1) / length]
  const [r1, r2] = [width1 / 2, width2 / 2]
  const at = (x: number, y: number, r: number) => `${round(x + nx * r)},${round(y + ny * r)}`
  return `M${at(x1, y1, r1)} L${at(x2, y2, r2)} A${r2},${r2} 0 0 0 ${at(x2, y2, -r2)} L${at(x1, y1, -r1)} A${r1},${r1} 0 0 0 ${at(x1, y1, r1)} Z`
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
export function leaderEnd(name: string, label: Label, [x, y]: readonly [number, number]): [number, number] {
  const { left, right, top, bottom } = boxOf(name, label)
  return [Math.min(right + 2, Math.max(left - 2, x)), Math.min(bottom, Math.max(top, y))]
}

function round(value: number): number {
  return Math.round(value * 10) / 10
}
