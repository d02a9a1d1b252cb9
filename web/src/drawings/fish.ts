import { type Drawing, ellipse, limb } from './drawing.ts'

const pinBones = Array.from({ length: 9 }, (_, index) =>
  limb(132 + index * 13, 98 - index * 0.6, 1.6, 128 + index * 13, 112 - index * 0.6, 1.6),
)
const spine = Array.from({ length: 20 }, (_, index) =>
  limb(132 + index * 15, 120 - Math.abs(index - 9) * 0.4, 2, 128 + index * 15, 138 - index * 0.7, 1),
)

/** A round fish, its head to the left. */
export const roundFish: Drawing = {
  title: 'A round fish',
  width: 520,
  height: 250,
  parts: [
    {
      id: 'fins',
      name: 'fins',
      tone: 'line',
      paths: [
        'M190,52 C214,20 262,18 300,58 Z',
        'M318,66 C334,48 352,50 366,82 Z',
        'M322,158 C336,184 352,184 362,146 Z',
        'M186,178 C196,206 214,208 222,178 Z',
      ],
      label: { x: 250, y: 20, anchor: 'middle' },
    },
    {
      id: 'skin',
      name: 'skin',
      tone: 'skin',
      paths: ['M104,60 C170,30 280,40 360,78 C390,92 412,100 432,104 L432,130 C408,134 384,142 356,152 C280,186 170,192 104,166 Z'],
      label: { x: 470, y: 190, pointsAt: [330, 164] },
    },
    {
      id: 'loin',
      name: 'loin',
      tone: 'flesh',
      paths: ['M118,66 C176,42 270,50 340,82 L340,112 C270,108 190,106 122,112 Z'],
      label: { x: 216, y: 86, anchor: 'middle' },
    },
    {
      id: 'belly',
      name: 'belly and flap',
      tone: 'fat',
      paths: ['M120,132 C180,130 240,132 292,136 C250,170 170,184 116,162 Z'],
      label: { x: 190, y: 158, anchor: 'middle' },
    },
    {
      id: 'tail',
      name: 'tail piece',
      tone: 'flesh',
      paths: ['M344,84 C384,98 408,104 428,108 L428,126 C404,130 372,140 300,140 L344,114 Z'],
      label: { x: 384, y: 122, anchor: 'middle' },
    },
    {
      id: 'tail-fin',
      name: 'tail fin',
      tone: 'line',
      paths: ['M432,104 C458,84 474,70 494,64 C486,98 486,136 494,170 C474,164 456,150 432,130 Z'],
    },
    {
      id: 'head',
      name: 'head',
      tone: 'skin',
      paths: ['M18,122 C34,90 66,66 104,60 C92,96 92,132 104,166 C66,162 34,150 18,122 Z'],
      label: { x: 58, y: 196, anchor: 'middle', pointsAt: [66, 150] },
    },
    { id: 'gill', name: 'gill cover', tone: 'line', paths: ['M78,76 C98,96 98,136 78,156 C90,134 90,98 78,76 Z'] },
    {
      id: 'guts',
      name: 'guts',
      tone: 'dark',
      isHidden: true,
      paths: [ellipse(168, 152, 46, 16)],
      label: { x: 150, y: 226, anchor: 'middle', pointsAt: [158, 164] },
    },
    {
      id: 'frame',
      name: 'bone',
      tone: 'bone',
      isHidden: true,
      paths: [limb(112, 118, 5, 428, 117, 3), ...spine],
      label: { x: 410, y: 36, anchor: 'middle', pointsAt: [348, 110] },
    },
    { id: 'pin-bones', name: 'pin bones', tone: 'bone', paths: pinBones, label: { x: 186, y: 28, anchor: 'middle', pointsAt: [170, 96] } },
  ],
  marks: [{ name: 'eye', at: [50, 106], label: { x: 12, y: 78 } }],
  cuts: [
    { id: 'cut-head', name: 'behind the head, at a slant', paths: ['M124,46 C106,88 106,128 96,180'], at: [126, 38] },
    { id: 'cut-back', name: 'along the back, on the bone', paths: ['M116,62 C180,34 284,46 430,106'], at: [320, 50] },
    { id: 'cut-ribs', name: 'over the ribs', paths: ['M122,122 C170,134 220,138 280,140'], at: [292, 150] },
    { id: 'cut-tail', name: 'free the tail', paths: ['M420,96 L424,138'], at: [420, 86] },
    { id: 'cut-belly', name: 'trim the belly', paths: ['M118,140 C180,148 240,148 300,142'], at: [312, 164] },
    { id: 'cut-vent', name: 'open the belly', paths: ['M96,168 C160,196 240,188 300,172'], at: [246, 200] },
    { id: 'cut-pin', name: 'narrow V along the pin bones', paths: ['M122,94 L254,90 L122,116'], at: [266, 92] },
    { id: 'cut-skin', name: 'skin from the tail', paths: ['M430,124 C370,128 250,126 120,124'], at: [440, 148] },
    {
      id: 'cut-portions',
      name: 'portions from the thick end',
      paths: ['M172,52 L170,180', 'M224,46 L222,186', 'M278,52 L276,180', 'M330,72 L328,162'],
      at: [172, 44],
    },
    { id: 'cut-loin', name: 'loin from the flap', paths: ['M120,114 C190,110 270,110 342,112'], at: [322, 100] },
  ],
}

/** A flat fish seen from its dark side, its head to the left. */
export const flatFish: Drawing = {
  title: 'A flat fish, dark side up',
  width: 520,
  height: 270,
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
  ],
  marks: [
    { name: 'eyes', at: [92, 116], label: { x: 40, y: 74 } },
    { name: 'vent', at: [122, 196], label: { x: 40, y: 244 } },
  ],
  cuts: [
    { id: 'cut-middle', name: 'down the middle', paths: ['M128,133 L418,133'], at: [430, 116] },
    { id: 'cut-head', name: 'round the head', paths: ['M130,66 C112,110 112,156 130,200'], at: [134, 56] },
    {
      id: 'cut-fillet',
      name: 'over the bones to the fringe',
      paths: ['M140,124 C190,100 300,92 396,122', 'M140,142 C190,168 300,174 396,144'],
      at: [396, 96],
    },
    { id: 'cut-skin', name: 'skin from the tail', paths: ['M408,128 C330,110 230,104 140,116'], at: [236, 74] },
  ],
}
