import { bothSides, type Drawing, ellipse, limb, moved } from './drawing.ts'

const up = 130
const down = 390

/** What is drawn for the right side about 0, on both sides of an axis. */
const pair = (path: string, axis: number) => bothSides(moved(path, axis), axis)

const trunk = 'M0,40 C26,37 52,50 63,78 C75,108 75,152 62,190 C52,222 30,248 10,258 C6,261 3,262 0,262 Z'
const thigh = 'M28,180 C44,164 72,172 89,198 C100,216 98,238 83,242 C66,246 44,238 30,226 C18,214 16,192 28,180 Z'
const drum =
  'M80,204 C95,206 105,221 103,239 C101,258 88,276 77,290 L72,304 C78,306 79,315 72,317 C67,321 58,319 57,313 C51,311 52,302 59,301 L63,283 C63,264 58,246 61,229 C63,215 70,203 80,204 Z'
const drumette = 'M48,68 C64,58 90,74 106,95 C114,106 113,119 103,123 C91,125 72,114 57,102 C44,93 40,77 48,68 Z'
const flat = 'M97,110 C106,105 116,111 117,122 C115,142 105,162 97,177 C92,184 81,181 82,172 C84,151 89,127 97,110 Z'
const tip = 'M84,167 C93,162 101,170 107,182 C112,194 121,205 125,215 C116,216 103,207 95,197 C86,188 79,176 84,167 Z'
const neck = 'M-14,48 C-15,32 -12,18 -10,10 Q0,3 10,10 C12,18 15,32 14,48 Z'
const legs = (axis: number) => ({ thigh: pair(thigh, axis), drum: pair(drum, axis) })
const wings = (axis: number) => ({ drumette: pair(drumette, axis), flat: pair(flat, axis), tip: pair(tip, axis) })
/** The fall of the skin over what lies under it. */
const folds = (axis: number) => [
  ...pair('M42,190 C58,192 72,204 79,219', axis),
  ...pair('M88,222 C95,240 88,262 77,279', axis),
  ...pair('M62,82 C76,84 90,96 99,110', axis),
  moved('M-11,42 Q0,48 11,42', axis),
  moved('M-10,33 Q0,38 10,33', axis),
]

/** A bird on its back with the breast up, and the same bird on its breast. */
export const bird: Drawing = {
  title: 'A bird on its back, and on its breast',
  width: 520,
  height: 362,
  views: [
    { name: 'on its back', x: up },
    { name: 'on its breast', x: down },
  ],
  parts: [
    { id: 'frame', name: 'frame', tone: 'skin', paths: [...pair(trunk, up), ...pair(trunk, down)] },
    {
      id: 'neck',
      name: 'neck',
      tone: 'skin',
      paths: [moved(neck, up), moved(neck, down)],
      label: { x: up + 18, y: 16 },
    },
    {
      id: 'wing',
      name: 'flat and tip',
      tone: 'skin',
      paths: [...wings(up).flat, ...wings(up).tip, ...wings(down).flat, ...wings(down).tip],
      label: { x: 2, y: 132 },
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
      paths: pair('M2,56 C22,47 48,58 58,86 C67,118 60,160 40,194 C28,214 12,228 2,234 Z', up),
      label: { x: up + 34, y: 112, anchor: 'middle' },
    },
    {
      id: 'tender',
      name: 'tender',
      tone: 'dark',
      isHidden: true,
      paths: pair('M7,92 C20,92 29,116 27,146 C25,172 15,194 7,206 Z', up),
      label: { x: 6, y: 150, pointsAt: [up - 20, 146] },
    },
    { id: 'keel', name: 'keel', tone: 'bone', paths: [limb(up, 66, 4, up, 228, 2)], label: { x: 6, y: 176, pointsAt: [up - 1, 182] } },
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
      label: { x: up + 58, y: 206, anchor: 'middle' },
    },
    {
      id: 'drum',
      name: 'drum',
      tone: 'dark',
      paths: [...legs(up).drum, ...legs(down).drum],
      label: { x: up + 82, y: 262, anchor: 'middle' },
    },
    {
      id: 'giblets',
      name: 'giblets and lump fat',
      tone: 'fat',
      isHidden: true,
      paths: [ellipse(up, 242, 13, 12)],
      label: { x: up, y: 334, anchor: 'middle', pointsAt: [up, 250] },
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
      paths: pair('M13,156 C22,150 31,158 31,170 C30,182 21,188 14,182 C10,174 9,162 13,156 Z', down),
      label: { x: 514, y: 150, anchor: 'end', pointsAt: [down + 26, 164] },
    },
    {
      id: 'tail',
      name: 'tail',
      tone: 'fat',
      paths: [moved('M-15,250 C-20,268 -9,285 0,289 C9,285 20,268 15,250 Q0,258 -15,250 Z', down)],
      label: { x: down, y: 308, anchor: 'middle' },
    },
    { id: 'folds', name: 'folds', tone: 'contour', paths: [...folds(up), ...folds(down), ...pair('M16,70 C40,80 48,112 42,150', up)] },
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
      at: [down - 60, 176],
    },
    { id: 'cut-drum', name: 'between drum and thigh', paths: pair('M104,212 L57,240', up), at: [up + 116, 208] },
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
      at: [up - 60, 202],
    },
  ],
}
