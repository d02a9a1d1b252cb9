import { bothSides, type Drawing, ellipse, limb } from './drawing.ts'

const up = 130
const down = 390

const legs = (axis: number) => ({
  thigh: [limb(axis + 34, 196, 50, axis + 74, 226, 40), limb(axis - 34, 196, 50, axis - 74, 226, 40)],
  drum: [limb(axis + 76, 230, 38, axis + 46, 292, 15), limb(axis - 76, 230, 38, axis - 46, 292, 15)],
})
const wings = (axis: number) => ({
  drumette: [limb(axis + 60, 74, 30, axis + 98, 108, 20), limb(axis - 60, 74, 30, axis - 98, 108, 20)],
  flat: [limb(axis + 100, 112, 18, axis + 92, 158, 14), limb(axis - 100, 112, 18, axis - 92, 158, 14)],
  tip: [limb(axis + 92, 162, 12, axis + 108, 184, 6), limb(axis - 92, 162, 12, axis - 108, 184, 6)],
})
const trunk = (axis: number) => {
  const [right, left] = bothSides(
    `M${axis},34 C${axis + 34},32 ${axis + 62},50 ${axis + 70},92 C${axis + 76},136 ${axis + 62},186 ${axis + 34},222 C${axis + 22},236 ${axis + 8},244 ${axis},246 Z`,
    axis,
  )
  return [right, left]
}

/** A bird on its back with the breast up, and the same bird on its breast. */
export const bird: Drawing = {
  title: 'A bird on its back, and on its breast',
  width: 520,
  height: 348,
  views: [
    { name: 'on its back', x: up },
    { name: 'on its breast', x: down },
  ],
  parts: [
    { id: 'frame', name: 'frame', tone: 'skin', paths: [...trunk(up), ...trunk(down)] },
    {
      id: 'neck',
      name: 'neck',
      tone: 'skin',
      paths: [limb(up, 38, 26, up, 14, 20), limb(down, 38, 26, down, 14, 20)],
      label: { x: up + 18, y: 16 },
    },
    {
      id: 'wing',
      name: 'flat and tip',
      tone: 'skin',
      paths: [...wings(up).flat, ...wings(up).tip, ...wings(down).flat, ...wings(down).tip],
      label: { x: up + 76, y: 200, pointsAt: [up + 94, 168] },
    },
    {
      id: 'drumette',
      name: 'drumette',
      tone: 'skin',
      paths: [...wings(up).drumette, ...wings(down).drumette],
      label: { x: up + 84, y: 72, pointsAt: [up + 82, 92] },
    },
    {
      id: 'breast',
      name: 'breast',
      tone: 'flesh',
      paths: bothSides(`M${up + 3},60 C${up + 30},54 ${up + 54},72 ${up + 58},106 C${up + 60},142 ${up + 40},178 ${up + 4},206 Z`, up),
      label: { x: up + 34, y: 112, anchor: 'middle' },
    },
    {
      id: 'tender',
      name: 'tender',
      tone: 'dark',
      isHidden: true,
      paths: bothSides(`M${up + 8},96 C${up + 20},98 ${up + 27},118 ${up + 25},142 C${up + 23},164 ${up + 13},180 ${up + 7},190 Z`, up),
      label: { x: 6, y: 150, pointsAt: [up - 20, 146] },
    },
    { id: 'keel', name: 'keel', tone: 'bone', paths: [limb(up, 66, 4, up, 206, 3)], label: { x: 6, y: 176, pointsAt: [up - 1, 182] } },
    {
      id: 'wishbone',
      name: 'wishbone',
      tone: 'bone',
      isHidden: true,
      paths: [
        `M${up - 26},88 Q${up - 16},54 ${up},50 Q${up + 16},54 ${up + 26},88 L${up + 21},88 Q${up + 13},61 ${up},57 Q${up - 13},61 ${up - 21},88 Z`,
      ],
      label: { x: 6, y: 46, pointsAt: [up - 14, 60] },
    },
    {
      id: 'thigh',
      name: 'thigh',
      tone: 'dark',
      paths: [...legs(up).thigh, ...legs(down).thigh],
      label: { x: up + 54, y: 215, anchor: 'middle' },
    },
    {
      id: 'drum',
      name: 'drum',
      tone: 'dark',
      paths: [...legs(up).drum, ...legs(down).drum],
      label: { x: up + 60, y: 262, anchor: 'middle' },
    },
    {
      id: 'giblets',
      name: 'giblets and lump fat',
      tone: 'fat',
      isHidden: true,
      paths: [ellipse(up, 222, 16, 14)],
      label: { x: up, y: 318, anchor: 'middle', pointsAt: [up, 232] },
    },
    {
      id: 'back',
      name: 'back',
      tone: 'bone',
      isHidden: true,
      paths: [
        limb(down, 44, 13, down, 236, 15),
        ...[78, 96, 114, 132].flatMap((y) =>
          bothSides(
            `M${down + 6},${y} C${down + 26},${y - 4} ${down + 44},${y + 2} ${down + 52},${y + 12} L${down + 50},${y + 15} C${down + 42},${y + 6} ${down + 26},${y + 1} ${down + 6},${y + 5} Z`,
            down,
          ),
        ),
      ],
      label: { x: down, y: 62, anchor: 'middle' },
    },
    {
      id: 'oyster',
      name: 'oyster',
      tone: 'flesh',
      paths: [ellipse(down + 20, 168, 11, 16), ellipse(down - 20, 168, 11, 16)],
      label: { x: 514, y: 150, anchor: 'end', pointsAt: [down + 26, 164] },
    },
    { id: 'tail', name: 'tail', tone: 'fat', paths: [limb(down, 240, 20, down, 258, 10)], label: { x: down, y: 284, anchor: 'middle' } },
  ],
  marks: [
    { name: 'hip joint', at: [down + 30, 194], label: { x: 514, y: 196, anchor: 'end' } },
    { name: 'shoulder joint', at: [down + 58, 72], label: { x: 514, y: 50, anchor: 'end' } },
    { name: 'line of fat', at: [up - 76, 230], label: { x: 6, y: 256 } },
  ],
  cuts: [
    {
      id: 'cut-wishbone',
      name: 'along the wishbone',
      paths: [`M${up - 28},92 Q${up - 18},48 ${up},44 Q${up + 18},48 ${up + 28},92`],
      at: [up, 38],
    },
    {
      id: 'cut-leg',
      name: 'between leg and breast',
      paths: bothSides(`M${up + 56},152 C${up + 56},176 ${up + 30},182 ${up + 12},216`, up),
      at: [up + 66, 154],
    },
    {
      id: 'cut-hip',
      name: 'through the hip joint',
      paths: bothSides(`M${down + 12},170 C${down + 14},196 ${down + 28},202 ${down + 48},186`, down),
      at: [down + 60, 180],
    },
    { id: 'cut-drum', name: 'between drum and thigh', paths: bothSides(`M${up + 92},218 L${up + 58},242`, up), at: [up + 104, 216] },
    {
      id: 'cut-wing',
      name: 'through the wing joint',
      paths: bothSides(`M${up + 48},60 C${up + 58},72 ${up + 58},88 ${up + 50},100`, up),
      at: [up + 46, 50],
    },
    { id: 'cut-two-joint', name: 'below the drumette', paths: bothSides(`M${up + 86},116 L${up + 114},106`, up), at: [up + 122, 104] },
    { id: 'cut-keel', name: 'along the keel', paths: [`M${up - 4},58 L${up - 4},210`, `M${up + 4},58 L${up + 4},210`], at: [up, 216] },
    { id: 'cut-across', name: 'breast across', paths: bothSides(`M${up + 4},138 L${up + 56},126`, up), at: [up + 68, 124] },
    {
      id: 'cut-back',
      name: 'along the backbone',
      paths: [`M${down - 11},42 L${down - 12},238`, `M${down + 11},42 L${down + 12},238`],
      at: [down, 30],
    },
    { id: 'cut-open-back', name: 'down the middle of the back', paths: [`M${down},40 L${down},240`], at: [down, 30] },
    {
      id: 'cut-side',
      name: 'between breast and back',
      paths: bothSides(`M${up + 62},86 C${up + 68},130 ${up + 54},180 ${up + 26},222`, up),
      at: [up + 78, 126],
    },
  ],
}
