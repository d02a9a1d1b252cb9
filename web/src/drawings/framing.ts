import { boxOf, type Drawing, type DrawnCut, type DrawnHand, type DrawnHandling, type Point } from './drawing.ts'

export interface Frame {
  x: number
  y: number
  width: number
  height: number
}

/** What of a drawing a step shows: the lines it cuts along and the work of its hands. */
export function workOf(drawing: Drawing, shows: readonly string[]): { cuts: DrawnCut[]; handlings: DrawnHandling[] } {
  return {
    cuts: drawing.cuts.filter(({ id }) => shows.includes(id)),
    handlings: drawing.handlings.filter(({ id }) => shows.includes(id)),
  }
}

/** The places that a path of M, L, C, Q and Z goes by; its curves stay within them. */
export function placesOf(path: string): Point[] {
  const numbers = path.replace(/A\s*[\d.]+,[\d.]+ 0 [01] [01] /g, ' ').match(/-?\d+(?:\.\d+)?/g) ?? []
  return numbers.flatMap((x, index) => (index % 2 === 0 ? [[Number(x), Number(numbers[index + 1])] as const] : []))
}

/** The room that a hand takes, its wrist included. */
export function placesOfHand({ at: [x, y], toward, grip }: DrawnHand): Point[] {
  const turn = (toward * Math.PI) / 180
  const [out, back] = grip === 'flat' ? [44, 46] : [2, 64]
  const place = (along: number, aside: number): Point => [
    x + along * Math.sin(turn) + aside * Math.cos(turn),
    y - along * Math.cos(turn) + aside * Math.sin(turn),
  ]
  return [place(out, -18), place(out, 18), place(-back, -18), place(-back, 18)]
}

const room = 14
/** No step is drawn nearer than this many units across, so that one sees where on the animal it is. */
const least = 220
/** How wide a step's frame may be for its height. */
const shape = { low: 1, high: 1.9 }
/** Tools and hands nearer than this would lie on each other. */
const apart = 135

/** The cuts of a step whose hands and blade are drawn: where two lie close, those of the first. */
export function heldCuts(cuts: readonly DrawnCut[]): DrawnCut[] {
  const held: DrawnCut[] = []
  const start = (cut: DrawnCut) => placesOf(cut.paths[0] ?? '')[0] ?? cut.at
  for (const cut of cuts) {
    const [x, y] = start(cut)
    if (held.every((other) => Math.hypot(start(other)[0] - x, start(other)[1] - y) > apart)) held.push(cut)
  }
  return held
}

/** A stretch of at least `least`, about the middle of another, within bounds. */
function stretched(low: number, high: number, least: number, from: number, to: number): [number, number] {
  const size = Math.min(to - from, Math.max(least, high - low))
  const start = Math.min(to - size, Math.max(from, (low + high - size) / 2))
  return [start, start + size]
}

/**
 * The part of a drawing that a step is drawn from: its cuts and hands with room around them, and its names where they are near.
 * One view where the work lies in one. All of it where a step does not cut.
 */
export function frameOfStep(drawing: Drawing, shows: readonly string[]): Frame {
  const { cuts, handlings } = workOf(drawing, shows)
  const works = [...heldCuts(cuts), ...handlings]
  if (works.length === 0) return { x: 0, y: 0, width: drawing.width, height: drawing.height }
  const worked = [
    ...cuts.flatMap(({ paths }) => paths.flatMap(placesOf)),
    ...works.flatMap(({ hands = [], pulls = [], twine = [], keepOff }) => [
      ...hands.flatMap(placesOfHand),
      ...[...pulls, ...twine, ...(keepOff?.paths ?? [])].flatMap(placesOf),
    ]),
  ]
  const [from, to] = viewAround(drawing, [...cuts.flatMap(({ paths }) => paths.flatMap(placesOf)), ...handlings.flatMap(placesOfHandling)])
  const named = drawing.parts.flatMap(({ id, name, label }): Point[] => {
    if (!label || !shows.includes(id)) return []
    const { left, right, top, bottom } = boxOf(name, label)
    return left < to && right > from ? [[left, top], [right, bottom], ...(label.pointsAt ? [label.pointsAt] : [])] : []
  })
  if (cuts.length === 0) return { x: from, y: 0, width: to - from, height: drawing.height }
  const places = [...worked, ...named]
  const [xs, ys] = [places.map(([x]) => x), places.map(([, y]) => y)]
  const bounded = (values: readonly number[], low: number, high: number) =>
    [Math.max(low, Math.min(...values) - room), Math.min(high, Math.max(...values) + room)] as const
  let [left, right] = stretched(...bounded(xs, from, to), least, from, to)
  const [top, bottom] = stretched(...bounded(ys, 0, drawing.height), (right - left) / shape.high, 0, drawing.height)
  ;[left, right] = stretched(left, right, (bottom - top) * shape.low, from, to)
  return { x: left, y: top, width: right - left, height: bottom - top }
}

const placesOfHandling = ({ hands = [], pulls = [], twine = [] }: DrawnHandling) => [
  ...hands.map(({ at }) => at),
  ...[...pulls, ...twine].flatMap(placesOf),
]

/** From where to where the view reaches that all of these places lie in; the whole width where there is none. */
function viewAround({ views = [], width }: Drawing, places: readonly Point[]): [number, number] {
  const each = width / Math.max(1, views.length)
  const at = new Set(places.map(([x]) => Math.floor(Math.min(width - 1, Math.max(0, x)) / each)))
  const [only] = at
  return at.size === 1 && only !== undefined ? [only * each, (only + 1) * each] : [0, width]
}
