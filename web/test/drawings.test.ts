import { catalog } from '../../catalog/sheets.ts'
import { boxOf, type Drawing, type DrawnCut, leaderEnd } from '../src/drawings/drawing.ts'
import { drawings } from '../src/drawings/drawings.ts'

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

test('every step of every sheet shows parts and cuts that are drawn', () => {
  const faults = sheets.flatMap(({ body }) => {
    const drawing = drawings[body.part as keyof typeof drawings]
    const ids = new Set([...drawing.parts, ...drawing.cuts].map(({ id }) => id))
    return body.steps.flatMap(({ title, shows = [] }) => [
      ...(shows.length === 0 ? [`${body.name}: ${title} shows nothing`] : []),
      ...shows.filter((id) => !ids.has(id)).map((id) => `${body.name}: ${title} shows ${id}, which is not drawn`),
    ])
  })
  expect(faults).toEqual([])
})
