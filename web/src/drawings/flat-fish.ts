import { type Drawing, limb } from './drawing.ts'

/** A short line above the middle of the fish, and its like below. */
const acrossMiddle = (path: string) => [path, path.replace(/,(\d+)/g, (_, y: string) => `,${264 - Number(y)}`)]

/** A flat fish seen from its dark side, its head to the left. */
export const flatFish: Drawing = {
  title: 'A flat fish, dark side up',
  width: 520,
  height: 270,
  lifeSize: { unitMm: 0.89, atKg: 0.6 },
  parts: [
    {
      id: 'fins',
      name: 'fringe of fins',
      tone: 'line',
      paths: ['M70,130 C100,40 220,8 310,30 C372,46 410,92 428,120 L428,144 C410,172 372,218 310,234 C220,256 100,224 70,130 Z'],
      label: { x: 392, y: 40, pointsAt: [352, 48] },
    },
    {
      id: 'skin',
      name: 'skin',
      tone: 'skin',
      paths: ['M84,132 C112,60 222,30 304,50 C360,64 396,100 416,124 L416,140 C396,166 360,200 304,214 C222,234 112,204 84,132 Z'],
      label: { x: 404, y: 232, pointsAt: [352, 196] },
    },
    {
      id: 'head',
      name: 'head',
      tone: 'skin',
      paths: ['M62,132 C74,100 96,84 126,76 C112,110 112,154 126,188 C96,178 74,164 62,132 Z'],
      label: { x: 50, y: 206, anchor: 'middle', pointsAt: [86, 160] },
    },
    {
      id: 'fillet',
      name: 'fillets: two here, two below',
      tone: 'flesh',
      paths: [
        'M134,82 C196,48 262,44 306,62 C352,78 384,106 404,126 L140,126 C132,112 130,98 134,82 Z',
        'M134,184 C196,218 262,220 306,204 C352,188 384,160 404,140 L140,140 C132,154 130,168 134,184 Z',
      ],
      label: { x: 240, y: 98, anchor: 'middle' },
    },
    {
      id: 'frame',
      name: 'frame',
      tone: 'bone',
      isHidden: true,
      paths: [
        limb(126, 133, 6, 420, 132, 4),
        ...Array.from({ length: 13 }, (_, index) => limb(150 + index * 20, 128, 2, 142 + index * 20, 78 + Math.abs(index - 5) * 4, 1)),
        ...Array.from({ length: 13 }, (_, index) => limb(150 + index * 20, 138, 2, 142 + index * 20, 188 - Math.abs(index - 5) * 4, 1)),
      ],
      label: { x: 150, y: 256, anchor: 'middle', pointsAt: [176, 172] },
    },
    {
      id: 'tail-fin',
      name: 'tail fin',
      tone: 'line',
      paths: ['M420,122 C450,104 474,96 494,94 C486,122 486,146 494,172 C474,168 450,160 420,142 Z'],
    },
    {
      id: 'lines',
      name: 'lines',
      tone: 'contour',
      paths: [
        ...Array.from({ length: 17 }, (_, index) => {
          const turn = (-0.42 + index * 0.112) * Math.PI
          const at = (share: number) => `${Math.round(262 + 168 * share * Math.sin(turn))},${Math.round(132 - 96 * share * Math.cos(turn))}`
          return `M${at(0.92)} L${at(1.04)}`
        }).flatMap((path) => acrossMiddle(path)),
        'M132,112 C140,96 156,98 160,112 C164,126 240,132 410,132',
        'M64,136 C72,138 78,144 82,152',
        'M430,128 L484,108',
        'M432,132 L486,132',
        'M430,137 L484,158',
      ],
    },
  ],
  marks: [
    { name: 'eyes', at: [92, 116], label: { x: 40, y: 74 } },
    { name: 'vent', at: [122, 196], label: { x: 40, y: 244 } },
  ],
  cuts: [
    {
      id: 'cut-middle',
      name: 'down the middle',
      paths: ['M128,133 L418,133'],
      at: [432, 108],
      hands: [{ at: [250, 214], toward: 0, grip: 'flat' }],
      keepOff: { why: 'to the bone, not through it' },
    },
    { id: 'cut-head', name: 'round the head', paths: ['M132,62 C112,108 112,158 132,204'], at: [134, 46] },
    {
      id: 'cut-fillet',
      name: 'over the bones to the fringe',
      paths: ['M140,124 C190,100 300,92 396,122', 'M140,142 C190,168 300,174 396,144'],
      at: [396, 92],
      hands: [{ at: [230, 76], toward: 180, grip: 'pinch' }],
      pulls: ['M276,112 Q280,84 270,46'],
      keepOff: {
        why: 'off the backbone, then flat on the bones: none cut, no meat left',
        paths: ['M140,129 L410,130 L410,136 L140,138 Z'],
      },
    },
    {
      id: 'cut-skin',
      name: 'skin from the tail',
      paths: ['M408,128 C330,110 230,104 140,116'],
      at: [236, 62],
      hands: [{ at: [462, 132], toward: -90, grip: 'pinch' }],
      pulls: ['M440,104 L492,84'],
      keepOff: { why: 'blade flat on the board: pull the skin, do not push the knife' },
    },
  ],
  handlings: [
    {
      id: 'do-look',
      name: 'felt along the middle, both sides looked at',
      hands: [{ at: [236, 150], toward: -10, grip: 'flat' }],
    },
  ],
}
