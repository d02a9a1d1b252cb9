import type { Drawing } from './drawing.ts'

const places = Array.from({ length: 8 }, (_, index) => 50 + index * 26)
/** A rib that leans and curves toward the shoulder, thinner to its end. */
function rib(x: number, from: number, to: number): string {
  const third = (from - to) / 3
  return `M${x - 4.5},${from} C${x - 6},${from - third} ${x - 9},${to + third} ${x - 17},${to + 4} Q${x - 15},${to - 5} ${x - 9},${to - 1} C${x - 1},${to + third} ${x + 3},${from - third} ${x + 4.5},${from} Z`
}
const bones = (shift: number, from: number, to: number) => places.map((x) => rib(x + shift, from, to))
const shift = 264

/** A rack of eight ribs from its fat side and from its bone side, the shoulder end to the left. */
export const rack: Drawing = {
  title: 'A rack of eight ribs, from both sides',
  width: 556,
  height: 286,
  lifeSize: { unitMm: 1.05, atKg: 0.9 },
  views: [
    { name: 'fat side', x: 140 },
    { name: 'bone side', x: 404 },
  ],
  parts: [
    {
      id: 'bones',
      name: 'bones',
      tone: 'bone',
      paths: [...bones(0, 150, 34), ...bones(shift, 200, 34)],
      label: { x: 140, y: 24, anchor: 'middle' },
    },
    {
      id: 'strip',
      name: 'rib strip',
      tone: 'dark',
      paths: [
        'M34,66 C90,56 190,56 252,64 L252,122 L34,122 Z',
        `M${34 + shift},66 C${90 + shift},56 ${190 + shift},56 ${252 + shift},64 L${252 + shift},122 L${34 + shift},122 Z`,
      ],
      label: { x: 140, y: 100, anchor: 'middle' },
    },
    {
      id: 'cover',
      name: 'fat cover',
      tone: 'fat',
      paths: ['M30,122 L254,122 C258,160 254,190 246,206 C180,218 96,218 36,208 C28,190 26,150 30,122 Z'],
      label: { x: 140, y: 168, anchor: 'middle' },
    },
    {
      id: 'blade',
      name: 'blade and lean under it',
      tone: 'dark',
      isHidden: true,
      paths: ['M34,132 C64,126 96,134 104,156 C92,176 58,182 36,176 Z'],
      label: { x: 8, y: 252, pointsAt: [60, 166] },
    },
    {
      id: 'strap',
      name: 'back strap',
      tone: 'sinew',
      isHidden: true,
      paths: ['M36,196 C96,206 180,206 244,196 L245,202 C180,212 96,212 37,203 Z'],
      label: { x: 196, y: 252, anchor: 'middle', pointsAt: [180, 204] },
    },
    {
      id: 'eye',
      name: 'eye',
      tone: 'flesh',
      paths: [
        `M${30 + shift},164 C${90 + shift},152 ${180 + shift},136 ${254 + shift},138 C${260 + shift},156 ${258 + shift},176 ${250 + shift},190 L${36 + shift},190 C${30 + shift},184 ${28 + shift},174 ${30 + shift},164 Z`,
      ],
      label: { x: 140 + shift, y: 174, anchor: 'middle' },
    },
    {
      id: 'chine',
      name: 'chine bone',
      tone: 'bone',
      paths: [
        `M${32 + shift},190 L${250 + shift},190 C${254 + shift},206 ${250 + shift},220 ${242 + shift},224 L${40 + shift},224 C${32 + shift},220 ${28 + shift},206 ${32 + shift},190 Z`,
      ],
      label: { x: 140 + shift, y: 212, anchor: 'middle' },
    },
  ],
  marks: [
    { name: 'shoulder end', at: [34, 140], label: { x: 4, y: 50 } },
    { name: 'companion muscle', at: [70 + shift, 146], label: { x: 286, y: 254 } },
  ],
  cuts: [
    {
      id: 'cut-french',
      name: 'straight line above the companion muscle',
      paths: ['M26,124 L258,124', `M${26 + shift},124 L${258 + shift},124`],
      at: [270, 124],
      hands: [{ at: [140, 196], toward: 0, grip: 'flat' }],
      keepOff: {
        why: 'above the line: the companion muscle stays',
        paths: [`M${34 + shift},138 L${252 + shift},132 L${254 + shift},146 L${34 + shift},156 Z`],
      },
    },
    {
      id: 'cut-strip',
      name: 'pierced and peeled between the ribs',
      paths: places.slice(0, -1).map((x) => `M${x + 12 + shift},60 L${x + 11 + shift},122`),
      at: [534, 92],
      hands: [{ at: [shift + 228, 70], toward: 190, grip: 'pinch' }],
      pulls: [`M${shift + 140},108 L${shift + 140},26`],
    },
    {
      id: 'cut-chine',
      name: 'chine off',
      tool: 'saw',
      paths: [`M${256 + shift},190 L${28 + shift},190`],
      at: [538, 176],
      hands: [{ at: [shift + 140, 120], toward: 180, grip: 'flat' }],
      keepOff: {
        why: 'to the ribs: no cut into the eye',
        paths: [`M${34 + shift},172 L${252 + shift},170 L${251 + shift},186 L${35 + shift},187 Z`],
      },
    },
    {
      id: 'cut-blade',
      name: 'skin and blade off',
      paths: ['M112,150 C104,126 64,122 28,130', 'M112,150 C98,182 60,188 30,182'],
      at: [124, 136],
      hands: [{ at: [46, 158], toward: 80, grip: 'pinch' }],
      pulls: ['M100,112 Q130,96 160,106'],
      keepOff: {
        why: 'close to the blade: the fat cover stays on',
        paths: ['M120,150 C150,146 200,146 244,152 L244,172 C200,170 150,172 118,174 Z'],
      },
    },
    {
      id: 'cut-cover',
      name: 'trim the cover',
      paths: ['M254,142 C184,134 96,134 32,142'],
      at: [268, 148],
      hands: [{ at: [140, 206], toward: -10, grip: 'flat' }],
      keepOff: { why: 'leave the thickness the house wants: not into the eye' },
    },
    {
      id: 'cut-between',
      name: 'between the bones',
      paths: places.slice(0, -1).map((x) => `M${x - 2},36 C${x + 5},90 ${x + 12},140 ${x + 13},212`),
      at: [63, 226],
      hands: [{ at: [226, 150], toward: -90, grip: 'flat' }],
      keepOff: { why: 'between the bones, never through one', paths: places.slice(0, 2).map((x) => rib(x, 150, 60)) },
    },
    {
      id: 'cut-score',
      name: 'scored at the chine',
      paths: places.slice(0, -1).map((x) => `M${x + 13 + shift},178 L${x + 13 + shift},208`),
      at: [shift + 176, 240],
      hands: [{ at: [shift + 60, 130], toward: 160, grip: 'flat' }],
      keepOff: {
        why: 'bone deep: not into the eye',
        paths: [`M${34 + shift},156 L${250 + shift},150 L${250 + shift},172 L${34 + shift},174 Z`],
      },
    },
  ],
  handlings: [
    { id: 'do-look', name: 'bones counted and felt, end to end', hands: [{ at: [150, 150], toward: -12, grip: 'flat' }] },
    {
      id: 'do-tie',
      name: 'bent into a ring, bones out, and tied',
      hands: [{ at: [shift + 246, 150], toward: -80, grip: 'pinch' }],
      pulls: [`M${shift + 40},232 Q${shift + 140},262 ${shift + 240},232`],
      twine: [`M${shift + 24},150 Q${shift + 140},166 ${shift + 260},142`, `M${shift + 24},98 Q${shift + 140},110 ${shift + 260},92`],
    },
  ],
}
