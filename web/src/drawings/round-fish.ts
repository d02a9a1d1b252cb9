import { type Drawing, ellipse, limb, type Point } from './drawing.ts'

const back: Point[] = [
  [100, 62],
  [150, 47],
  [200, 42],
  [250, 45],
  [300, 56],
  [350, 74],
  [400, 95],
  [432, 106],
]
const keel: Point[] = [
  [100, 178],
  [150, 190],
  [200, 194],
  [250, 190],
  [300, 176],
  [350, 158],
  [400, 141],
  [432, 132],
]

/** The height of the back or the belly at a place along the fish. */
function edge(line: readonly Point[], x: number): number {
  const at = Math.max(
    1,
    line.findIndex(([along]) => along >= x),
  )
  const [[x1, y1], [x2, y2]] = [line[at - 1] as Point, line[at] as Point]
  return Math.round((y1 + ((x - x1) / (x2 - x1)) * (y2 - y1)) * 10) / 10
}
const along = (from: number, count: number, apart: number) => Array.from({ length: count }, (_, index) => from + index * apart)
/** A share of the way from the spine to the back (above 0) or to the belly (below). */
const across = (x: number, share: number) => {
  const middle = 119
  return share > 0 ? middle - share * (middle - edge(back, x)) : middle - share * (edge(keel, x) - middle)
}

const spine = [
  limb(108, 119, 6, 430, 119, 3),
  ...along(124, 21, 14.5).map((x) => limb(x, 118, 2, x + 12, across(x, 0.62), 0.8)),
  ...along(290, 9, 14.5).map((x) => limb(x, 120, 2, x + 12, across(x, -0.62), 0.8)),
]
const ribs = along(124, 11, 14).map((x) => {
  const end = across(x, -0.72)
  return `M${x},120 C${x + 2},${120 + (end - 120) * 0.4} ${x + 8},${120 + (end - 120) * 0.8} ${x + 18},${end} C${x + 11},${120 + (end - 120) * 0.7} ${x + 5},${120 + (end - 120) * 0.4} ${x + 2.4},120 Z`
})
const pinBones = along(128, 9, 13).map((x) => limb(x, 108, 1.6, x - 5, 96, 1))
/** The bands of muscle, bent forward where back and belly meet. */
const bands = along(146, 12, 23).map(
  (x) =>
    `M${x + 8},${across(x, 0.9)} Q${x + 12},${across(x, 0.5)} ${x},${across(x, 0.24)} Q${x - 8},119 ${x},${across(x, -0.2)} Q${x + 10},${across(x, -0.5)} ${x + 4},${across(x, -0.88)}`,
)
const rays = (count: number, from: Point, apart: Point, to: Point, spread: Point) =>
  Array.from(
    { length: count },
    (_, index) => `M${from[0] + apart[0] * index},${from[1] + apart[1] * index} L${to[0] + spread[0] * index},${to[1] + spread[1] * index}`,
  )
const skin =
  'M100,62 C150,42 230,36 300,56 C350,72 396,94 432,106 L432,132 C398,142 350,160 300,176 C230,200 150,200 98,178 C88,140 88,100 100,62 Z'
const flank = 'M124,70 C182,46 250,48 318,76 L320,112 C250,114 186,116 124,117 C128,100 128,86 124,70 Z'

/** A round fish, its head to the left. */
export const roundFish: Drawing = {
  title: 'A round fish',
  width: 520,
  height: 250,
  lifeSize: { unitMm: 0.93, atKg: 1 },
  bones: [
    ...spine,
    ...ribs,
    'M30,112 C40,96 66,78 96,72 C100,84 102,96 102,108 C80,104 52,108 30,112 Z',
    'M28,136 C50,132 74,136 88,146 L84,154 C66,152 44,148 28,136 Z',
  ],
  parts: [
    {
      id: 'fins',
      name: 'fins',
      tone: 'line',
      paths: [
        'M166,50 C172,28 184,18 196,16 C206,20 214,24 222,24 C240,26 262,34 286,56 C246,38 200,38 166,50 Z',
        'M306,60 C318,46 334,46 350,56 C352,64 358,72 364,82 C346,72 326,64 306,60 Z',
        'M318,168 C330,190 344,194 358,182 C358,172 360,162 364,152 C348,158 332,164 318,168 Z',
        'M164,190 C168,210 180,224 196,222 C204,214 206,204 206,193 C192,194 178,193 164,190 Z',
      ],
      label: { x: 262, y: 20, anchor: 'middle' },
    },
    { id: 'skin', name: 'skin', tone: 'skin', paths: [skin], label: { x: 470, y: 198, pointsAt: [318, 164] } },
    { id: 'loin', name: 'loin', tone: 'flesh', paths: [flank], label: { x: 236, y: 84, anchor: 'middle' } },
    {
      id: 'belly',
      name: 'belly and flap',
      tone: 'fat',
      paths: ['M122,128 C190,125 252,123 318,121 L316,164 C250,188 178,190 114,174 C120,158 122,144 122,128 Z'],
      label: { x: 186, y: 160, anchor: 'middle' },
    },
    {
      id: 'tail',
      name: 'tail piece',
      tone: 'flesh',
      paths: ['M324,78 C362,92 402,108 428,112 L428,126 C402,131 362,148 322,162 L324,121 L326,112 Z'],
      label: { x: 374, y: 124, anchor: 'middle' },
    },
    {
      id: 'tail-fin',
      name: 'tail fin',
      tone: 'line',
      paths: ['M430,106 C448,96 468,72 496,58 C490,84 482,102 480,119 C482,136 490,154 496,180 C468,166 448,142 430,132 Z'],
    },
    {
      id: 'head',
      name: 'head',
      tone: 'skin',
      paths: [
        'M14,126 C16,118 22,112 32,104 C50,84 74,68 100,62 C110,84 116,100 116,122 C116,144 110,162 98,178 C72,172 48,160 34,148 L24,142 C18,136 14,132 14,126 Z',
      ],
      label: { x: 44, y: 206, anchor: 'middle', pointsAt: [60, 160] },
    },
    {
      id: 'gill',
      name: 'gill cover',
      tone: 'line',
      paths: ['M78,82 C104,88 113,108 111,126 C109,148 98,160 80,168 C92,150 97,140 97,124 C97,106 92,94 78,82 Z'],
    },
    {
      id: 'guts',
      name: 'guts',
      tone: 'dark',
      isHidden: true,
      paths: [ellipse(168, 156, 46, 18)],
      label: { x: 132, y: 232, anchor: 'middle', pointsAt: [150, 168] },
    },
    {
      id: 'frame',
      name: 'bone',
      tone: 'bone',
      isHidden: true,
      paths: spine,
      label: { x: 410, y: 36, anchor: 'middle', pointsAt: [352, 112] },
    },
    { id: 'pin-bones', name: 'pin bones', tone: 'bone', paths: pinBones, label: { x: 128, y: 20, anchor: 'middle', pointsAt: [140, 98] } },
    {
      id: 'lines',
      name: 'lines',
      tone: 'contour',
      paths: [
        ...bands,
        'M14,128 C24,128 34,134 42,142',
        'M44,102 C50,98 58,100 60,107 C58,114 50,116 45,111 C42,108 42,105 44,102 Z',
        ...rays(7, [182, 44], [14, 0.4], [188, 22], [14, 1.6]),
        ...rays(5, [438, 112], [0, 3.5], [484, 78], [0, 20]),
        ...rays(4, [326, 166], [9, -3], [332, 182], [7, 1]),
      ],
    },
  ],
  marks: [{ name: 'eye', at: [51, 107], label: { x: 12, y: 66 } }],
  cuts: [
    {
      id: 'cut-head',
      name: 'behind the head, at a slant',
      paths: ['M126,44 C112,84 112,130 98,182'],
      at: [92, 44],
      hands: [{ at: [52, 120], toward: 100, grip: 'flat' }],
      keepOff: { why: 'to the bone, not through it' },
    },
    {
      id: 'cut-back',
      name: 'along the back, on the bone',
      paths: ['M118,60 C180,36 284,46 430,107'],
      at: [338, 46],
      hands: [{ at: [230, 150], toward: -4, grip: 'flat' }],
      keepOff: {
        why: 'flat along the bone: no meat left on it, no cut into the loin',
        paths: ['M134,84 C190,66 250,68 312,88 L314,104 C250,88 190,88 136,102 Z'],
      },
    },
    {
      id: 'cut-ribs',
      name: 'over the ribs',
      paths: ['M124,124 C170,136 240,140 300,128'],
      at: [312, 142],
      pulls: ['M214,128 Q236,164 226,206'],
    },
    { id: 'cut-tail', name: 'free the tail', paths: ['M418,96 L422,140'], at: [414, 84] },
    {
      id: 'cut-belly',
      name: 'trim the belly',
      paths: ['M116,156 C180,164 248,160 314,150'],
      at: [328, 172],
      hands: [{ at: [236, 96], toward: 180, grip: 'flat' }],
      keepOff: { why: 'flap only: no loin with it', paths: ['M124,100 C186,98 250,96 318,96 L320,112 C250,114 186,116 124,117 Z'] },
    },
    {
      id: 'cut-vent',
      name: 'open the belly',
      paths: ['M300,180 C240,200 160,204 100,182'],
      at: [246, 212],
      hands: [{ at: [196, 96], toward: 180, grip: 'flat' }],
      keepOff: { why: 'skin deep: the gall and guts stay whole', paths: [ellipse(168, 154, 46, 16)] },
    },
    {
      id: 'cut-pin',
      name: 'narrow V along the pin bones',
      paths: ['M120,92 L256,98', 'M120,112 L256,104'],
      at: [270, 100],
      hands: [{ at: [196, 160], toward: 0, grip: 'flat' }],
      keepOff: {
        why: 'as narrow as the bones: the loin stays whole',
        paths: ['M124,70 C160,56 200,50 240,52 L250,86 C206,82 166,80 126,84 Z'],
      },
    },
    {
      id: 'cut-skin',
      name: 'skin from the tail',
      paths: ['M428,124 C370,124 250,122 122,122'],
      at: [440, 150],
      hands: [{ at: [470, 124], toward: -90, grip: 'pinch' }],
      pulls: ['M450,98 L492,92'],
      keepOff: { why: 'blade flat on the board: pull the skin, do not push the knife' },
    },
    {
      id: 'cut-portions',
      name: 'portions from the thick end',
      paths: ['M172,38 L170,198', 'M224,38 L222,196', 'M278,44 L276,188', 'M330,62 L328,170'],
      at: [150, 34],
      hands: [{ at: [120, 118], toward: 80, grip: 'flat' }],
      keepOff: { why: 'fingertips curled, behind the blade' },
    },
    {
      id: 'cut-loin',
      name: 'loin from the flap',
      paths: ['M120,118 C190,116 270,114 342,114'],
      at: [356, 100],
      hands: [{ at: [226, 92], toward: 180, grip: 'flat' }],
    },
  ],
  handlings: [
    {
      id: 'do-look',
      name: 'gill cover lifted with the thumb, belly felt',
      hands: [
        { at: [104, 128], toward: -70, grip: 'pinch' },
        { at: [226, 150], toward: -10, grip: 'flat' },
      ],
    },
    {
      id: 'do-scale',
      name: 'scaled from the tail to the head, fins off',
      hands: [{ at: [448, 122], toward: -90, grip: 'pinch' }],
      pulls: ['M392,112 L300,96', 'M392,128 L300,144'],
    },
  ],
}
