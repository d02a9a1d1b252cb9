import type { Drawing } from './drawing.ts'

/** The cut face of a rib about a place: rim of fat, cap over the eye, seam fat between. */
const face = (x: number, y: number) => ({
  rim: `M${x - 54},${y + 4} C${x - 58},${y - 40} ${x - 30},${y - 70} ${x + 6},${y - 70} C${x + 42},${y - 70} ${x + 56},${y - 38} ${x + 54},${y} C${x + 54},${y + 34} ${x + 36},${y + 54} ${x},${y + 54} C${x - 36},${y + 54} ${x - 52},${y + 40} ${x - 54},${y + 4} Z`,
  cap: `M${x - 46},${y - 10} C${x - 46},${y - 46} ${x - 18},${y - 61} ${x + 8},${y - 60} C${x + 36},${y - 60} ${x + 46},${y - 34} ${x + 46},${y - 12} C${x + 38},${y - 32} ${x + 24},${y - 40} ${x + 4},${y - 40} C${x - 20},${y - 40} ${x - 38},${y - 30} ${x - 46},${y - 10} Z`,
  eye: `M${x - 42},${y + 6} C${x - 40},${y - 22} ${x - 18},${y - 34} ${x + 4},${y - 33} C${x + 30},${y - 32} ${x + 44},${y - 12} ${x + 43},${y + 10} C${x + 42},${y + 32} ${x + 22},${y + 43} ${x - 2},${y + 43} C${x - 28},${y + 43} ${x - 44},${y + 28} ${x - 42},${y + 6} Z`,
  marbling: [
    `M${x - 24},${y - 6} C${x - 14},${y - 14} ${x - 2},${y - 10} ${x + 8},${y - 16}`,
    `M${x - 26},${y + 16} C${x - 12},${y + 10} ${x + 2},${y + 18} ${x + 16},${y + 10}`,
    `M${x - 8},${y + 30} C${x + 4},${y + 26} ${x + 14},${y + 30} ${x + 24},${y + 24}`,
    `M${x - 30},${y - 36} C${x - 14},${y - 52} ${x + 14},${y - 54} ${x + 34},${y - 36}`,
  ],
})
const grain = (y: number) => [
  `M170,${y} C230,${y - 8} 300,${y - 8} 360,${y - 2}`,
  `M190,${y + 22} C250,${y + 14} 330,${y + 16} 400,${y + 22}`,
  `M176,${y + 42} C240,${y + 36} 300,${y + 38} 352,${y + 42}`,
]

const bonedFace = face(92, 132)

/** A boned rib with its lip, its shoulder end to the left. */
export const bonedRib: Drawing = {
  title: 'A boned rib, lip on',
  width: 520,
  height: 256,
  lifeSize: { unitMm: 1.15, atKg: 5.5 },
  parts: [
    {
      id: 'fat',
      name: 'fat cover',
      tone: 'fat',
      paths: [
        'M98,62 C200,36 350,38 430,62 C474,82 486,150 452,186 L430,170 C456,146 452,100 424,82 C340,58 210,58 146,86 Z',
        bonedFace.rim,
      ],
      label: { x: 300, y: 28, anchor: 'middle', pointsAt: [300, 48] },
    },
    {
      id: 'roll',
      name: 'eye along its length',
      tone: 'flesh',
      paths: ['M146,86 C210,60 340,58 424,82 C452,100 456,146 430,170 C340,188 210,190 132,180 C150,150 150,116 146,86 Z'],
      label: { x: 290, y: 122, anchor: 'middle' },
    },
    {
      id: 'lip',
      name: 'lip',
      tone: 'fat',
      paths: ['M112,184 C210,192 340,190 430,170 L452,186 C440,196 420,200 404,206 C330,220 210,222 110,204 C98,198 100,186 112,184 Z'],
      label: { x: 280, y: 246, anchor: 'middle', pointsAt: [280, 206] },
    },
    {
      id: 'ends',
      name: 'ragged end',
      tone: 'dark',
      paths: ['M424,82 C450,100 456,146 430,170 C422,168 424,156 416,148 C422,138 412,128 418,116 C412,104 420,94 424,82 Z'],
      label: { x: 516, y: 226, anchor: 'end', pointsAt: [440, 150] },
    },
    { id: 'cap', name: 'cap', tone: 'dark', paths: [bonedFace.cap], label: { x: 4, y: 74, pointsAt: [54, 96] } },
    { id: 'eye', name: 'eye', tone: 'flesh', paths: [bonedFace.eye], label: { x: 94, y: 140, anchor: 'middle' } },
    { id: 'lines', name: 'grain', tone: 'contour', paths: [...bonedFace.marbling, ...grain(104)] },
  ],
  marks: [{ name: 'seam fat', at: [94, 96], label: { x: 30, y: 36 } }],
  cuts: [
    {
      id: 'cut-lip',
      name: 'lip off',
      paths: ['M108,184 C210,194 340,190 444,168'],
      at: [462, 196],
      hands: [{ at: [240, 232], toward: 0, grip: 'pinch' }],
      pulls: ['M330,200 Q340,222 362,232'],
      keepOff: { why: 'fat only: not into the eye', paths: ['M140,168 C220,178 340,174 430,156 L430,170 C340,188 210,190 134,180 Z'] },
    },
    {
      id: 'cut-ends',
      name: 'square both ends',
      paths: ['M158,50 L158,210', 'M408,50 L408,204'],
      at: [408, 36],
      hands: [{ at: [276, 122], toward: 90, grip: 'flat' }],
      keepOff: { why: 'as thin as straight allows: end cuts sell for less' },
    },
    {
      id: 'cut-portions',
      name: 'steaks across the grain',
      paths: ['M196,46 L196,212', 'M240,44 L240,214', 'M284,44 L284,212', 'M328,44 L328,210', 'M370,46 L370,206'],
      at: [240, 30],
      hands: [{ at: [430, 124], toward: -90, grip: 'flat' }],
      keepOff: { why: 'fingertips curled, behind the blade' },
    },
  ],
  handlings: [
    {
      id: 'do-dry',
      name: 'lifted from its bag, drained, and dried all round',
      hands: [{ at: [290, 130], toward: -80, grip: 'flat' }],
      pulls: ['M236,104 L180,100', 'M340,150 L400,152'],
    },
  ],
}

const ribFace = face(78, 118)
const ribs = Array.from({ length: 7 }, (_, index) => 132 + index * 52)
/** A rib below the eye: it bows toward the shoulder and thins to its end. */
const rib = (x: number) =>
  `M${x - 8},164 C${x - 8},190 ${x - 16},214 ${x - 34},236 C${x - 36},244 ${x - 26},248 ${x - 20},242 C${x - 2},220 ${x + 7},194 ${x + 9},164 C${x + 6},158 ${x - 5},158 ${x - 8},164 Z`

/** Seven ribs, bones below, the shoulder end to the left. */
export const boneInRib: Drawing = {
  title: 'A rib of seven bones',
  width: 520,
  height: 270,
  lifeSize: { unitMm: 1.1, atKg: 8 },
  bones: ribs.map((x) => `M${x - 9},170 C${x - 12},150 ${x - 8},136 ${x + 2},128 L${x + 12},130 C${x + 6},142 ${x + 6},156 ${x + 9},170 Z`),
  parts: [
    {
      id: 'back-ribs',
      name: 'meat between the ribs',
      tone: 'dark',
      paths: ['M70,166 L484,160 C478,180 470,198 458,212 C340,220 200,220 62,214 C70,198 72,182 70,166 Z'],
      label: { x: 516, y: 196, anchor: 'end' },
    },
    {
      id: 'bones',
      name: 'ribs',
      tone: 'bone',
      paths: ribs.map(rib),
      label: { x: 500, y: 250, anchor: 'end', pointsAt: [420, 234] },
    },
    {
      id: 'fat',
      name: 'fat cover',
      tone: 'fat',
      paths: ['M86,48 C180,30 380,34 468,62 C480,68 486,80 488,94 C380,64 220,60 130,84 Z', ribFace.rim],
      label: { x: 280, y: 22, anchor: 'middle', pointsAt: [280, 40] },
    },
    {
      id: 'cap',
      name: 'cap',
      tone: 'dark',
      paths: ['M130,84 C220,60 380,64 488,94 L489,112 C380,86 220,82 132,104 Z', ribFace.cap],
      label: { x: 2, y: 46, pointsAt: [44, 78] },
    },
    {
      id: 'eye',
      name: 'eye',
      tone: 'flesh',
      paths: ['M132,104 C220,82 380,86 489,112 C490,130 488,146 484,162 C360,170 220,174 112,168 C130,150 134,126 132,104 Z', ribFace.eye],
      label: { x: 300, y: 132, anchor: 'middle' },
    },
    { id: 'lines', name: 'grain', tone: 'contour', paths: [...ribFace.marbling, ...grain(116)] },
  ],
  marks: [
    { name: 'shoulder end', at: [62, 152], label: { x: 4, y: 262 } },
    { name: 'loin end', at: [486, 130], label: { x: 516, y: 50, anchor: 'end' } },
  ],
  cuts: [
    {
      id: 'cut-slab',
      name: 'bones off in a slab',
      paths: ['M492,162 C360,172 220,176 60,168'],
      at: [504, 150],
      hands: [{ at: [300, 244], toward: 0, grip: 'pinch' }],
      pulls: ['M210,200 Q206,230 190,252'],
      keepOff: {
        why: 'blade on the bones: not into the eye',
        paths: ['M128,150 C220,160 360,156 486,146 L484,160 C360,170 220,174 112,168 Z'],
      },
    },
    {
      id: 'cut-trim',
      name: 'trim the fat',
      paths: ['M490,90 C380,62 220,58 128,82'],
      at: [502, 80],
      hands: [{ at: [300, 132], toward: 0, grip: 'flat' }],
      keepOff: { why: 'fat only: the cap stays whole', paths: ['M132,88 C220,66 380,70 488,98 L489,110 C380,84 220,80 132,102 Z'] },
    },
    {
      id: 'cut-between',
      name: 'between the bones',
      paths: ribs.slice(0, -1).map((x) => `M${x + 28},44 L${x + 28},166 C${x + 24},190 ${x + 14},214 ${x},238`),
      at: [160, 32],
      hands: [{ at: [432, 120], toward: -90, grip: 'flat' }],
      keepOff: {
        why: 'between the bones, never through one',
        paths: ribs
          .slice(0, 2)
          .map((x) => `M${x - 8},164 C${x - 8},190 ${x - 14},210 ${x - 28},230 L${x - 18},238 C${x - 2},218 ${x + 7},194 ${x + 9},164 Z`),
      },
    },
    {
      id: 'cut-portions',
      name: 'steaks across the grain',
      paths: ribs.slice(0, -1).map((x) => `M${x + 28},44 L${x + 28},172`),
      at: [212, 30],
      hands: [{ at: [440, 120], toward: -90, grip: 'flat' }],
      keepOff: { why: 'fingertips curled, behind the blade' },
    },
  ],
  handlings: [
    {
      id: 'do-dry',
      name: 'lifted from its bag, drained, and dried all round',
      hands: [{ at: [300, 122], toward: -80, grip: 'flat' }],
      pulls: ['M240,108 L180,104', 'M350,140 L420,136'],
    },
  ],
}
