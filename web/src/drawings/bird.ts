import { bothSides, type Drawing, ellipse, limb, longBone, moved } from './drawing.ts'

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

const longBones = (axis: number) => [
  ...pair(longBone(50, 74, 100, 108, 6), axis),
  ...pair(longBone(103, 116, 90, 170, 4), axis),
  ...pair(longBone(110, 118, 96, 172, 3), axis),
  ...pair(longBone(34, 196, 82, 220, 7), axis),
  ...pair(longBone(84, 226, 69, 298, 6), axis),
]
/** The side of the breast along which the leg and the back come away. */
const breastEdge = 'M50,118 C50,142 46,160 32,178 C22,192 12,204 6,212 L2,200 C18,184 34,162 40,140 Z'
const twine = (axis: number) => [84, 112, 140, 168, 196].map((y) => `M${axis - 60},${y - 2} Q${axis},${y + 10} ${axis + 60},${y - 2}`)

/** A bird on its back with the breast up, and the same bird on its breast. */
export const bird: Drawing = {
  title: 'A bird on its back, and on its breast',
  width: 520,
  height: 362,
  lifeSize: { unitMm: 1, atKg: 2 },
  bones: [
    ...longBones(up),
    ...longBones(down),
    ...pair('M58,104 C64,120 62,150 54,170 L50,168 C57,150 59,122 54,106 Z', up),
    ...pair(longBone(10, 66, 46, 72, 6), up),
    ...pair('M8,176 C22,176 34,186 34,200 C30,220 20,240 9,250 Z', down),
  ],
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
      label: { x: up + 76, y: 70, pointsAt: [up + 82, 92] },
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
      hands: [{ at: [up + 34, 120], toward: -20, grip: 'flat' }],
      keepOff: {
        why: 'scrape along the bone: no deeper into the breast',
        paths: pair('M32,94 C36,86 42,86 48,94 C46,108 40,114 34,110 Z', up),
      },
    },
    {
      id: 'cut-leg',
      name: 'between leg and breast',
      paths: bothSides(`M${up + 56},152 C${up + 56},176 ${up + 30},182 ${up + 12},216`, up),
      at: [up + 66, 154],
      hands: [{ at: [up + 84, 268], toward: 205, grip: 'pinch' }],
      pulls: [`M${up + 84},232 Q${up + 112},246 ${up + 118},276`],
      keepOff: { why: 'skin only: not into the breast', paths: pair(breastEdge, up) },
    },
    {
      id: 'cut-hip',
      name: 'through the hip joint',
      paths: bothSides(`M${down + 8},166 C${down + 8},196 ${down + 26},206 ${down + 48},190`, down),
      at: [down - 60, 176],
      hands: [{ at: [down - 42, 122], toward: 150, grip: 'flat' }],
      keepOff: {
        why: 'round the oyster, through the joint, never through bone',
        paths: pair('M13,156 C22,150 31,158 31,170 C30,182 21,188 14,182 C10,174 9,162 13,156 Z', down),
      },
    },
    {
      id: 'cut-drum',
      name: 'between drum and thigh',
      paths: pair('M104,212 L57,240', up),
      at: [up + 116, 208],
      hands: [{ at: [up + 70, 300], toward: 190, grip: 'pinch' }],
      keepOff: {
        why: 'not into the thigh bone: the joint lies toward the drum',
        paths: pair('M62,208 C70,204 84,208 88,214 L66,228 C60,222 58,212 62,208 Z', up),
      },
    },
    {
      id: 'cut-wing',
      name: 'through the wing joint',
      paths: bothSides(`M${up + 48},60 C${up + 58},72 ${up + 58},88 ${up + 50},100`, up),
      at: [up + 46, 50],
      hands: [{ at: [up + 104, 140], toward: 120, grip: 'pinch' }],
      pulls: [`M${up + 90},84 Q${up + 112},76 ${up + 124},88`],
      keepOff: { why: 'the breast meat stays on the breast', paths: pair('M16,58 C28,60 38,68 44,82 L46,102 C36,96 22,80 16,58 Z', up) },
    },
    {
      id: 'cut-two-joint',
      name: 'below the drumette',
      paths: bothSides(`M${up + 86},116 L${up + 114},106`, up),
      at: [up + 122, 104],
      hands: [{ at: [up + 112, 190], toward: 150, grip: 'pinch' }],
      keepOff: { why: 'not into the meat of the drumette', paths: pair('M66,72 C82,76 96,92 104,104 L86,112 C74,100 66,88 66,72 Z', up) },
    },
    {
      id: 'cut-keel',
      name: 'along the keel',
      paths: [`M${up - 4},58 L${up - 4},210`, `M${up + 4},58 L${up + 4},210`],
      at: [up, 216],
      hands: [{ at: [up - 40, 120], toward: 12, grip: 'flat' }],
      pulls: [`M${up + 10},140 Q${up + 34},134 ${up + 62},142`],
      keepOff: {
        why: 'blade against the bone: the tender stays whole',
        paths: pair('M12,96 C22,98 27,118 26,146 C24,168 18,186 12,196 Z', up),
      },
    },
    {
      id: 'cut-across',
      name: 'breast across',
      paths: bothSides(`M${up + 4},138 L${up + 56},126`, up),
      at: [up + 68, 124],
      hands: [{ at: [up + 36, 196], toward: -10, grip: 'flat' }],
      keepOff: { why: 'fingers curled behind the blade' },
    },
    {
      id: 'cut-back',
      name: 'along the backbone',
      paths: [`M${down - 11},42 L${down - 12},238`, `M${down + 11},42 L${down + 12},238`],
      at: [down, 30],
      tool: 'shears',
      hands: [{ at: [down - 52, 150], toward: 40, grip: 'flat' }],
      keepOff: {
        why: 'beside the spine: the oysters stay on the bird',
        paths: pair('M16,157 C24,151 31,158 31,170 C30,182 22,187 17,181 C14,174 14,163 16,157 Z', down),
      },
    },
    {
      id: 'cut-open-back',
      name: 'down the middle of the back',
      paths: [`M${down},40 L${down},240`],
      at: [down, 30],
      hands: [{ at: [down - 52, 150], toward: 40, grip: 'flat' }],
      keepOff: {
        why: 'to the bone, no deeper: the skin beside it stays whole',
        paths: pair('M14,60 C20,110 22,180 16,232 L24,232 C30,180 28,110 22,60 Z', down),
      },
    },
    {
      id: 'cut-side',
      name: 'between breast and back',
      paths: bothSides(`M${up + 62},86 C${up + 68},130 ${up + 54},180 ${up + 26},222`, up),
      at: [up - 60, 202],
      tool: 'shears',
      hands: [{ at: [up + 2, 150], toward: -8, grip: 'flat' }],
      keepOff: { why: 'through the ribs, not into the breast', paths: pair(breastEdge, up) },
    },
    {
      id: 'cut-bones',
      name: 'along the bones of the leg',
      paths: pair('M34,196 L82,221 L70,300', up),
      at: [up - 58, 300],
      hands: [{ at: [up + 70, 304], toward: 190, grip: 'pinch' }],
      keepOff: {
        why: 'against the bone: not through the skin',
        paths: pair('M96,206 C107,220 106,246 96,264 L90,284 L82,290 C92,270 98,240 90,208 Z', up),
      },
    },
    {
      id: 'cut-score',
      name: 'scored across the skin',
      paths: pair('M12,84 L44,70 M12,108 L54,90 M12,132 L58,112 M12,156 L56,136 M14,180 L48,164', up),
      at: [up + 72, 110],
      hands: [{ at: [up - 30, 200], toward: 0, grip: 'flat' }],
      keepOff: { why: 'through the fat, not into the meat' },
    },
  ],
  handlings: [
    {
      id: 'do-look',
      name: 'feel the breast, draw out what lies in the bird',
      hands: [
        { at: [up + 32, 130], toward: -12, grip: 'flat' },
        { at: [up - 8, 258], toward: 55, grip: 'pinch' },
      ],
      pulls: [`M${up + 22},262 L${up + 22},304`],
    },
    {
      id: 'do-neck',
      name: 'neck and giblets out',
      hands: [{ at: [up - 8, 258], toward: 55, grip: 'pinch' }],
      pulls: [`M${up - 22},40 L${up - 22},10`, `M${up + 22},262 L${up + 22},304`],
    },
    {
      id: 'do-skin',
      name: 'the skin pulled off, the bird held',
      hands: [
        { at: [up - 24, 130], toward: 10, grip: 'flat' },
        { at: [up + 100, 156], toward: -70, grip: 'pinch' },
      ],
      pulls: [`M${up + 20},170 Q${up + 60},182 ${up + 100},174`],
      keepOff: { why: 'loosen with the point, never cut toward the holding hand' },
    },
    {
      id: 'do-press',
      name: 'pressed flat with both hands',
      hands: [
        { at: [up - 28, 128], toward: 14, grip: 'flat' },
        { at: [up + 28, 128], toward: -14, grip: 'flat' },
      ],
      pulls: [`M${up - 66},150 L${up - 96},160`, `M${up + 66},150 L${up + 96},160`],
    },
    {
      id: 'do-tie',
      name: 'rolled, and tied from the middle outward',
      hands: [{ at: [down + 78, 146], toward: -80, grip: 'pinch' }],
      twine: twine(down),
    },
    {
      id: 'do-truss',
      name: 'legs and wings tied to the body',
      hands: [{ at: [up + 14, 330], toward: 0, grip: 'pinch' }],
      twine: [
        `M${up - 76},296 C${up - 30},316 ${up + 30},282 ${up + 76},296 C${up + 30},316 ${up - 30},282 ${up - 76},296 Z`,
        `M${up - 104},128 C${up - 60},150 ${up + 60},150 ${up + 104},128`,
      ],
    },
    {
      id: 'do-draw',
      name: 'the frame drawn out through the neck',
      hands: [{ at: [down + 2, 30], toward: 180, grip: 'pinch' }],
      pulls: [`M${down - 24},64 L${down - 24},20`],
      keepOff: {
        why: 'the skin stays whole: loosen, do not tear',
        paths: pair('M44,70 C56,78 66,104 66,140 L60,150 C60,112 52,88 40,76 Z', down),
      },
    },
    {
      id: 'do-weigh',
      name: 'what is left, by lump fat and bone, on the scale',
      hands: [{ at: [down + 62, 150], toward: -60, grip: 'flat' }],
      pulls: [`M${down},250 L${down},296`],
    },
    {
      id: 'do-pair',
      name: 'a heavy breast piece goes with a light leg piece',
      pulls: [`M${up + 76},214 Q${up + 74},176 ${up + 40},160`, `M${up - 76},214 Q${up - 74},176 ${up - 40},160`],
    },
  ],
}
