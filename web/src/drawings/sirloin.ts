import type { Drawing } from './drawing.ts'

/** A top sirloin with its cap, fat side up, seams shown. */
export const sirloin: Drawing = {
  title: 'A top sirloin, cap on',
  width: 520,
  height: 270,
  lifeSize: { unitMm: 0.86, atKg: 5 },
  parts: [
    {
      id: 'fat',
      name: 'fat',
      tone: 'fat',
      paths: [
        'M34,146 C30,96 96,46 176,34 C256,20 352,26 420,60 C472,88 498,128 484,172 C470,214 404,236 330,244 C240,254 128,254 78,222 C50,204 38,176 34,146 Z',
      ],
      label: { x: 470, y: 250, anchor: 'end', pointsAt: [418, 222] },
    },
    {
      id: 'cap',
      name: 'cap',
      tone: 'dark',
      paths: [
        'M50,142 C54,102 112,60 184,48 C264,36 352,42 410,72 C442,88 464,108 472,128 C450,112 424,108 400,100 C340,88 280,86 222,96 C160,104 100,122 50,142 Z',
      ],
      label: { x: 250, y: 72, anchor: 'middle' },
    },
    {
      id: 'fillet',
      name: 'fillet centre',
      tone: 'flesh',
      paths: ['M50,156 C96,132 150,116 216,107 C224,150 220,200 206,240 C150,240 104,232 80,212 C60,198 52,178 50,156 Z'],
      label: { x: 140, y: 176, anchor: 'middle' },
    },
    {
      id: 'sirloin',
      name: 'sirloin',
      tone: 'flesh',
      paths: ['M222,106 C272,98 322,98 366,106 C372,150 366,204 348,230 C304,238 256,242 214,240 C228,200 232,150 222,106 Z'],
      label: { x: 292, y: 176, anchor: 'middle' },
    },
    {
      id: 'stew',
      name: 'ends, for stew',
      tone: 'dark',
      paths: ['M374,107 C414,112 452,124 474,140 C480,182 424,214 356,228 C372,204 380,150 374,107 Z'],
      label: { x: 420, y: 160, anchor: 'middle' },
    },
    {
      id: 'lines',
      name: 'grain',
      tone: 'contour',
      paths: [
        'M96,110 C150,80 220,66 290,66',
        'M200,84 C270,70 350,78 410,96',
        'M74,164 C110,150 150,140 200,132',
        'M86,196 C120,186 160,178 206,172',
        'M120,220 C150,214 180,208 202,206',
        'M240,126 C280,120 320,120 356,126',
        'M240,196 C280,190 310,192 350,196',
        'M392,128 C400,150 396,180 384,206',
        'M424,130 C430,150 424,176 408,200',
      ],
    },
  ],
  marks: [
    { name: 'seam under the cap', at: [150, 116], label: { x: 8, y: 62 } },
    { name: 'grain turns here', at: [369, 150], label: { x: 512, y: 60, anchor: 'end' } },
  ],
  cuts: [
    {
      id: 'cut-cap',
      name: 'cap off along its seam',
      paths: ['M474,130 C410,100 330,86 240,96 C180,102 110,118 46,148'],
      at: [498, 116],
      hands: [{ at: [280, 40], toward: 180, grip: 'pinch' }],
      pulls: ['M340,70 Q350,40 376,22'],
      keepOff: { why: 'in the seam: neither muscle cut', paths: ['M80,146 C150,120 240,108 366,112 L366,124 C240,120 150,132 78,160 Z'] },
    },
    {
      id: 'cut-seam',
      name: 'seam the rest',
      paths: ['M219,104 C228,150 224,204 208,246', 'M370,104 C376,150 370,204 352,236'],
      at: [206, 258],
      hands: [{ at: [290, 216], toward: -20, grip: 'flat' }],
      keepOff: {
        why: 'follow the sinew: neither muscle cut',
        paths: ['M196,116 L214,112 C220,150 216,196 204,232 L190,232 C204,196 206,150 196,116 Z'],
      },
    },
    {
      id: 'cut-portions',
      name: 'steaks across the grain',
      paths: ['M100,130 L92,222', 'M136,120 L130,236', 'M172,112 L168,242', 'M256,98 L250,244', 'M292,96 L288,242', 'M328,98 L322,238'],
      at: [292, 258],
      hands: [{ at: [412, 164], toward: -90, grip: 'flat' }],
      keepOff: { why: 'fingertips curled, behind the blade' },
    },
  ],
  handlings: [
    {
      id: 'do-dry',
      name: 'lifted from its bag, drained, and dried all round',
      hands: [{ at: [270, 150], toward: -60, grip: 'flat' }],
      pulls: ['M200,130 L130,140', 'M330,190 L410,180'],
    },
  ],
}
