import { catalog } from '../../catalog/sheets.ts'
import { boxOf, type Drawing, type DrawnCut, leaderEnd } from '../src/drawings/drawing.ts'
import { drawings } from '../src/drawings/drawings.ts'
import { frameOfStep, heldCuts, placesOf, workOf } from '../src/drawings/framing.ts'

type Box = ReturnType<typeof boxOf>
type Point = readonly [number, number]

const bubble = 10
const sheets = catalog as { body: { name: string; part: string; steps: { title: string; shows?: string[] }[] } }[]
const all = Object.entries(drawings) as [string, Drawing][]

const namesOf = ({ parts, marks }: Drawing) => [
  ...parts.flatMap(({ name, label }) => (label ? [{ name, label, at: label.pointsAt }] : [])),
  ...marks.map(({ name, label, at }) => ({ name, label, at })),
]
const meet = (a: Box, b: Box) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom
const around = ({ at: [x, y] }: DrawnCut): Box => ({ left: x - bubble, right: x + bubble, top: y - bubble, bottom: y + bubble })

function crosses([ax, ay]: Point, [bx, by]: Point, { left, right, top, bottom }: Box): boolean {
  return Array.from({ length: 41 }, (_, step) => step / 40).some((share) => {
    const [x, y] = [ax + (bx - ax) * share, ay + (by - ay) * share]
    return x > left && x < right && y > top && y < bottom
  })
}

/** Whether two lines meet. */
function meetOn([a, b]: readonly [Point, Point], [c, d]: readonly [Point, Point]): boolean {
  const side = ([px, py]: Point, [qx, qy]: Point, [rx, ry]: Point) => Math.sign((qx - px) * (ry - py) - (qy - py) * (rx - px))
  return side(a, b, c) !== side(a, b, d) && side(c, d, a) !== side(c, d, b)
}

test.each(all)('%s: no name lies on another, and no line to a name crosses one or another line', (_, drawing) => {
  const names = namesOf(drawing)
  const faults: string[] = []
  for (const [index, one] of names.entries()) {
    const box = boxOf(one.name, one.label)
    if (box.left < 0 || box.right > drawing.width || box.top < 0 || box.bottom > drawing.height)
      faults.push(`${one.name} leaves the drawing`)
    for (const other of names.slice(index + 1)) if (meet(box, boxOf(other.name, other.label))) faults.push(`${one.name} on ${other.name}`)
    if (!one.at) continue
    const end = leaderEnd(one.name, one.label, one.at)
    for (const other of names.slice(index + 1))
      if (other.at && meetOn([one.at, end], [other.at, leaderEnd(other.name, other.label, other.at)]))
        faults.push(`the lines of ${one.name} and ${other.name} cross`)
    for (const other of names)
      if (other !== one && crosses(one.at, end, boxOf(other.name, other.label)))
        faults.push(`the line of ${one.name} through ${other.name}`)
  }
  expect(faults).toEqual([])
})

test.each(all)('%s: on every sheet the numbers of its cuts lie apart, and on no name', (part, drawing) => {
  const faults = sheets
    .filter(({ body }) => body.part === part)
    .flatMap(({ body }) => {
      const shown = new Set(body.steps.flatMap(({ shows = [] }) => shows))
      const cuts = drawing.cuts.filter(({ id }) => shown.has(id))
      return cuts.flatMap((cut, index) => [
        ...cuts.slice(index + 1).flatMap((other) => (meet(around(cut), around(other)) ? [`${cut.id} on ${other.id}`] : [])),
        ...namesOf(drawing).flatMap(({ name, label }) => (meet(around(cut), boxOf(name, label)) ? [`${cut.id} on ${name}`] : [])),
      ])
    })
  expect([...new Set(faults)]).toEqual([])
})

test('every step of every sheet shows parts, cuts and work of the hands that are drawn', () => {
  const faults = sheets.flatMap(({ body }) => {
    const drawing = drawings[body.part as keyof typeof drawings]
    const ids = new Set([...drawing.parts, ...drawing.cuts, ...drawing.handlings].map(({ id }) => id))
    return body.steps.flatMap(({ title, shows = [] }) => [
      ...(shows.length === 0 ? [`${body.name}: ${title} shows nothing`] : []),
      ...shows.filter((id) => !ids.has(id)).map((id) => `${body.name}: ${title} shows ${id}, which is not drawn`),
    ])
  })
  expect(faults).toEqual([])
})

const drawnSteps = sheets.flatMap(({ body }) =>
  body.steps.map(({ title, shows = [] }) => ({
    name: `${body.name}: ${title}`,
    drawing: drawings[body.part as keyof typeof drawings],
    shows,
  })),
)

test('every step of every sheet is drawn with the hands, and the frame around it holds its cuts and where the hands lie', () => {
  const faults = drawnSteps.flatMap(({ name, drawing, shows }) => {
    const { cuts, handlings } = workOf(drawing, shows)
    const { x, y, width, height } = frameOfStep(drawing, shows)
    const isIn = ([px, py]: Point) => px >= x && px <= x + width && py >= y && py <= y + height
    const works = [...heldCuts(cuts), ...handlings]
    return [
      ...(works.some(({ hands = [], pulls = [] }) => hands.length + pulls.length > 0) || cuts.length > 0
        ? []
        : [`${name} has no work drawn`]),
      ...cuts.filter(({ paths }) => !paths.every((path) => placesOf(path).some(isIn))).map(({ id }) => `${name}: ${id} lies outside`),
      ...works.flatMap(({ hands = [] }) => hands.filter(({ at }) => !isIn(at)).map(({ at }) => `${name}: the hand at ${at} lies outside`)),
    ]
  })
  expect(faults).toEqual([])
})

test('near to, no name of a step lies on another', () => {
  const letters = 23 / 13
  const faults = drawnSteps.flatMap(({ name, drawing, shows }) => {
    const { x, width } = frameOfStep(drawing, shows)
    const scale = (letters * width) / drawing.width
    const boxes = drawing.parts.flatMap(({ id, name: part, label }) => {
      if (!label || !shows.includes(id) || label.x < x || label.x > x + width) return []
      const { left, right, top, bottom } = boxOf(part, { ...label, x: 0, y: 0 })
      return [
        {
          part,
          left: label.x + left * scale,
          right: label.x + right * scale,
          top: label.y + top * scale,
          bottom: label.y + bottom * scale,
        },
      ]
    })
    return boxes.flatMap((box, index) =>
      boxes.slice(index + 1).flatMap((other) => (meet(box, other) ? [`${name}: ${box.part} on ${other.part}`] : [])),
    )
  })
  expect([...new Set(faults)]).toEqual([])
})

/** A path of M, L, C, Q and Z as a line through many places. */
function lineOf(path: string): Point[] {
  const line: Point[] = []
  for (const [, command, numbers = ''] of path.matchAll(/([MLCQZ])([^MLCQZ]*)/g)) {
    const ends = placesOf(numbers)
    const from = line.at(-1) ?? ([0, 0] as Point)
    if (command === 'M' || command === 'L') line.push(...(command === 'L' ? between(from, ends) : ends))
    else if (command === 'C' || command === 'Q') line.push(...between(from, ends))
  }
  return line
}

/** Places along a curve with its control places, by de Casteljau. */
function between(from: Point, through: readonly Point[]): Point[] {
  return Array.from({ length: 24 }, (_, step) => {
    let places = [from, ...through]
    while (places.length > 1)
      places = places.slice(1).map(([x, y], index) => {
        const [px, py] = places[index] as Point
        const share = (step + 1) / 24
        return [px + (x - px) * share, py + (y - py) * share] as const
      })
    return places[0] as Point
  })
}

function holds(region: readonly Point[], [x, y]: Point): boolean {
  return region.reduce((isIn, [ax, ay], index) => {
    const [bx, by] = region[(index + 1) % region.length] as Point
    return ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax) ? !isIn : isIn
  }, false)
}

test.each(all)('%s: no cut goes where its own drawing says that the blade must not', (_, drawing) => {
  const faults = drawing.cuts.flatMap(({ id, paths, keepOff }) => {
    const cut = paths.flatMap(lineOf)
    const within = (keepOff?.paths ?? []).flatMap((path) => {
      const region = lineOf(path)
      return cut.filter((place) => holds(region, place))
    })
    return within.length / cut.length > 0.04 ? [`${id}: ${Math.round((100 * within.length) / cut.length)} % of it`] : []
  })
  expect(faults).toEqual([])
})
