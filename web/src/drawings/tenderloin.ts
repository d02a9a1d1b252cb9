import type { Drawing } from './drawing.ts'

const silverskin = 'M96,78 C180,74 284,88 376,112 C384,116 378,122 368,121 C282,104 184,94 104,96 C90,94 86,82 96,78 Z'

/** A tenderloin with its side muscle on, the head to the left. */
export const tenderloin: Drawing = {
  title: 'A tenderloin, side muscle on',
  width: 520,
  height: 236,
  lifeSize: { unitMm: 1.15, atKg: 2.2 },
  parts: [
    {
      id: 'fat',
      name: 'hard fat',
      tone: 'fat',
      paths: [
        'M18,122 C14,80 50,48 96,46 C170,44 260,58 340,76 C380,84 400,90 424,98 C470,110 512,124 510,138 C508,152 470,158 446,166 C340,192 210,210 120,206 C60,204 22,170 18,122 Z',
      ],
      label: { x: 92, y: 228, anchor: 'middle', pointsAt: [106, 200] },
    },
    {
      id: 'side-muscle',
      name: 'side muscle',
      tone: 'dark',
      paths: [
        'M84,178 C92,170 110,174 150,175 C230,172 330,162 430,149 C446,147 452,153 442,158 C424,166 404,166 386,172 C350,176 330,184 300,184 C270,190 250,188 226,194 C180,198 108,202 90,192 C80,188 78,182 84,178 Z',
      ],
      label: { x: 266, y: 226, anchor: 'middle', pointsAt: [266, 184] },
    },
    {
      id: 'head',
      name: 'head',
      tone: 'flesh',
      paths: ['M30,122 C26,88 54,62 100,58 C120,56 136,58 150,61 C156,98 156,136 150,172 C104,178 36,174 30,122 Z'],
      label: { x: 84, y: 138, anchor: 'middle' },
    },
    {
      id: 'ear',
      name: 'ear',
      tone: 'dark',
      paths: ['M60,70 C56,42 88,20 122,22 C148,24 168,40 165,56 C162,67 150,67 138,63 C112,58 82,60 60,70 Z'],
      label: { x: 190, y: 28, pointsAt: [158, 38] },
    },
    {
      id: 'centre',
      name: 'centre',
      tone: 'flesh',
      paths: ['M150,61 C220,66 284,75 344,89 C349,112 349,136 344,157 C280,165 214,170 150,172 C156,136 156,98 150,61 Z'],
      label: { x: 230, y: 142, anchor: 'middle' },
    },
    {
      id: 'tail',
      name: 'tail',
      tone: 'flesh',
      paths: ['M344,89 C400,102 470,118 498,134 C502,140 496,144 486,144 C440,146 390,152 344,157 C349,136 349,112 344,89 Z'],
      label: { x: 404, y: 142, anchor: 'middle' },
    },
    {
      id: 'lines',
      name: 'grain',
      tone: 'contour',
      paths: [
        'M52,112 C70,104 92,106 110,114',
        'M60,152 C84,160 110,158 132,152',
        'M168,112 C220,112 270,118 330,128',
        'M176,128 C226,130 280,134 326,142',
        'M170,158 C214,158 270,154 322,148',
        'M362,116 C396,122 430,128 470,136',
        'M120,186 C170,188 220,184 260,178',
        'M300,176 C340,172 380,164 416,156',
        'M78,56 C92,40 122,34 146,44',
      ],
    },
    { id: 'silverskin', name: 'silverskin', tone: 'sinew', paths: [silverskin], label: { x: 392, y: 58, pointsAt: [336, 103] } },
  ],
  marks: [{ name: 'seam of the side muscle', at: [386, 154], label: { x: 516, y: 206, anchor: 'end' } }],
  cuts: [
    {
      id: 'cut-fat',
      name: 'fat off',
      paths: ['M440,104 C240,50 70,50 28,94'],
      at: [24, 74],
      hands: [{ at: [300, 62], toward: -100, grip: 'pinch' }],
      pulls: ['M250,54 Q232,34 206,30'],
      keepOff: { why: 'under the fat, not into the meat', paths: ['M70,72 C160,64 300,82 420,112 L420,120 C300,92 160,76 70,86 Z'] },
    },
    {
      id: 'cut-side',
      name: 'side muscle off along its seam',
      paths: ['M90,174 C190,176 320,166 444,146'],
      at: [466, 166],
      hands: [{ at: [130, 192], toward: 10, grip: 'pinch' }],
      pulls: ['M190,192 Q188,210 176,222'],
      keepOff: {
        why: 'in the seam: not into the centre',
        paths: ['M160,160 C230,158 300,152 340,146 L340,157 C280,165 214,170 160,172 Z'],
      },
    },
    {
      id: 'cut-silver',
      name: 'under the silverskin, edge turned up',
      paths: ['M386,120 C290,98 190,84 92,88'],
      at: [398, 96],
      hands: [{ at: [384, 116], toward: -80, grip: 'pinch' }],
      pulls: ['M330,100 Q348,76 376,70'],
      keepOff: {
        why: 'edge up against the silverskin: no meat with it',
        paths: ['M110,98 C186,96 280,106 364,124 L360,132 C280,116 186,106 112,108 Z'],
      },
    },
    {
      id: 'cut-ear',
      name: 'ear off',
      paths: ['M56,76 C86,60 116,58 150,66'],
      at: [44, 56],
      hands: [{ at: [126, 26], toward: 190, grip: 'pinch' }],
      keepOff: { why: 'in the seam: the head keeps its shape', paths: ['M62,80 C88,68 116,66 146,72 L146,84 C116,76 90,78 66,92 Z'] },
    },
    {
      id: 'cut-head',
      name: 'head off',
      paths: ['M150,46 L150,190'],
      at: [172, 208],
      hands: [{ at: [74, 120], toward: 85, grip: 'flat' }],
      keepOff: { why: 'fingertips curled, behind the blade' },
    },
    { id: 'cut-tail', name: 'tail off', paths: ['M344,74 L344,172'], at: [344, 62] },
    {
      id: 'cut-portions',
      name: 'steaks across the grain',
      paths: ['M182,54 L182,182', 'M214,56 L214,182', 'M246,60 L246,178', 'M278,64 L278,174', 'M310,70 L310,170'],
      at: [226, 44],
      hands: [{ at: [392, 124], toward: -90, grip: 'flat' }],
      keepOff: { why: 'fingertips curled, behind the blade' },
    },
  ],
  handlings: [
    {
      id: 'do-dry',
      name: 'lifted from its bag, drained, and dried all round',
      hands: [{ at: [250, 122], toward: -80, grip: 'flat' }],
      pulls: ['M196,100 L110,84', 'M300,148 L400,136'],
    },
    {
      id: 'do-wrap',
      name: 'head to tail, wrapped tightly from the middle',
      hands: [{ at: [476, 132], toward: -90, grip: 'pinch' }],
      twine: [90, 150, 210, 270, 330, 390].map(
        (x) => `M${x},${54 + Math.max(0, x - 90) * 0.13} Q${x + 12},120 ${x},${196 - Math.max(0, x - 90) * 0.1}`,
      ),
      keepOff: { why: 'bonded meat: cooked through as one piece, said on its label' },
    },
  ],
}
