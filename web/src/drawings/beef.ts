import { type Drawing, ellipse, limb } from './drawing.ts'

/** A tenderloin with its side muscle on, the head to the left. */
export const tenderloin: Drawing = {
  title: 'A tenderloin, side muscle on',
  width: 520,
  height: 230,
  parts: [
    {
      id: 'fat',
      name: 'hard fat',
      tone: 'fat',
      paths: [
        'M22,118 C22,70 64,44 116,46 C220,40 360,62 450,98 C484,110 502,120 502,128 C500,140 470,146 430,150 C330,172 210,186 120,184 C60,184 22,164 22,118 Z',
      ],
      label: { x: 120, y: 218, anchor: 'middle', pointsAt: [130, 182] },
    },
    {
      id: 'side-muscle',
      name: 'side muscle',
      tone: 'dark',
      paths: ['M96,170 C190,178 320,166 440,140 C444,146 436,152 424,156 C320,184 190,196 104,186 C92,184 88,174 96,170 Z'],
      label: { x: 300, y: 206, anchor: 'middle', pointsAt: [290, 176] },
    },
    {
      id: 'head',
      name: 'head',
      tone: 'flesh',
      paths: ['M36,118 C36,82 70,60 116,60 L150,62 L150,166 L112,166 C66,164 36,150 36,118 Z'],
      label: { x: 84, y: 118, anchor: 'middle' },
    },
    {
      id: 'ear',
      name: 'ear',
      tone: 'dark',
      paths: ['M60,72 C70,34 118,18 150,30 C160,36 156,54 142,62 C116,60 84,62 60,72 Z'],
      label: { x: 182, y: 28, pointsAt: [150, 40] },
    },
    {
      id: 'centre',
      name: 'centre',
      tone: 'flesh',
      paths: ['M150,62 C220,62 290,72 344,86 L344,152 C280,162 210,168 150,166 Z'],
      label: { x: 246, y: 120, anchor: 'middle' },
    },
    {
      id: 'tail',
      name: 'tail',
      tone: 'flesh',
      paths: ['M344,86 C400,100 450,114 486,126 C478,134 450,138 420,142 C396,146 370,150 344,152 Z'],
      label: { x: 392, y: 126, anchor: 'middle' },
    },
    {
      id: 'silverskin',
      name: 'silverskin',
      tone: 'sinew',
      paths: ['M96,78 C180,70 280,86 380,112 C376,120 366,122 356,120 C270,100 180,90 100,98 C90,92 90,84 96,78 Z'],
      label: { x: 392, y: 62, pointsAt: [330, 100] },
    },
  ],
  marks: [{ name: 'seam of the side muscle', at: [340, 168], label: { x: 516, y: 204, anchor: 'end' } }],
  cuts: [
    { id: 'cut-fat', name: 'fat off', paths: ['M30,90 C70,48 240,44 440,98'], at: [24, 92] },
    { id: 'cut-side', name: 'side muscle off along its seam', paths: ['M92,168 C190,174 320,162 442,138'], at: [456, 160] },
    { id: 'cut-silver', name: 'under the silverskin, edge turned up', paths: ['M92,88 C190,80 290,98 384,118'], at: [396, 100] },
    { id: 'cut-ear', name: 'ear off', paths: ['M58,76 C86,60 116,58 146,64'], at: [46, 62] },
    { id: 'cut-head', name: 'head off', paths: ['M150,50 L150,180'], at: [150, 40] },
    { id: 'cut-tail', name: 'tail off', paths: ['M344,74 L344,164'], at: [344, 64] },
    {
      id: 'cut-portions',
      name: 'steaks across the grain',
      paths: ['M182,56 L182,178', 'M214,58 L214,178', 'M246,62 L246,176', 'M278,66 L278,172', 'M310,72 L310,168'],
      at: [214, 46],
    },
  ],
}

const ribEnd = (x: number) => ({
  eye: ellipse(x, 132, 42, 34),
  cap: `M${x - 44},112 C${x - 34},72 ${x + 34},66 ${x + 52},104 C${x + 40},98 ${x + 20},92 ${x},94 C${x - 20},94 ${x - 36},102 ${x - 44},112 Z`,
})

/** A boned rib with its lip, standing on its loin end's right. */
export const bonedRib: Drawing = {
  title: 'A boned rib, lip on',
  width: 520,
  height: 250,
  parts: [
    {
      id: 'fat',
      name: 'fat cover',
      tone: 'fat',
      paths: ['M96,60 C200,36 350,38 430,66 C470,84 480,150 446,188 C350,214 200,216 96,196 C50,180 50,80 96,60 Z'],
      label: { x: 300, y: 32, anchor: 'middle', pointsAt: [300, 48] },
    },
    {
      id: 'roll',
      name: 'eye along its length',
      tone: 'flesh',
      paths: ['M110,74 C210,54 340,54 424,80 C452,96 456,146 430,170 C340,190 210,192 110,178 Z'],
      label: { x: 300, y: 122, anchor: 'middle' },
    },
    {
      id: 'lip',
      name: 'lip',
      tone: 'fat',
      paths: ['M110,178 C210,194 340,192 430,170 L446,190 C350,218 200,220 98,200 Z'],
      label: { x: 300, y: 240, anchor: 'middle', pointsAt: [300, 204] },
    },
    {
      id: 'ends',
      name: 'ragged end',
      tone: 'dark',
      paths: ['M424,80 C452,96 456,146 430,170 C414,172 408,160 410,126 C410,98 414,84 424,80 Z'],
      label: { x: 516, y: 216, anchor: 'end', pointsAt: [444, 150] },
    },
    { id: 'cap', name: 'cap', tone: 'dark', paths: [ribEnd(100).cap], label: { x: 24, y: 66, pointsAt: [72, 92] } },
    { id: 'eye', name: 'eye', tone: 'flesh', paths: [ribEnd(100).eye], label: { x: 100, y: 137, anchor: 'middle' } },
  ],
  marks: [{ name: 'seam fat', at: [100, 97], label: { x: 16, y: 36 } }],
  cuts: [
    { id: 'cut-lip', name: 'lip off', paths: ['M104,180 C210,196 340,194 438,170'], at: [452, 186] },
    { id: 'cut-ends', name: 'square both ends', paths: ['M150,58 L150,196', 'M408,66 L408,184'], at: [408, 56] },
    {
      id: 'cut-portions',
      name: 'steaks across the grain',
      paths: ['M196,54 L196,198', 'M240,52 L240,200', 'M284,52 L284,200', 'M328,54 L328,196', 'M370,58 L370,192'],
      at: [240, 42],
    },
  ],
}

const ribs = Array.from({ length: 7 }, (_, index) => 90 + index * 56)

/** Seven ribs, bones below, the shoulder end to the left. */
export const boneInRib: Drawing = {
  title: 'A rib of seven bones',
  width: 520,
  height: 260,
  parts: [
    {
      id: 'fat',
      name: 'fat cover',
      tone: 'fat',
      paths: ['M56,66 C160,34 380,40 472,76 L478,96 C380,66 160,62 52,92 Z'],
      label: { x: 260, y: 28, anchor: 'middle', pointsAt: [260, 48] },
    },
    {
      id: 'cap',
      name: 'cap',
      tone: 'dark',
      paths: ['M52,92 C160,62 380,66 478,96 L476,112 C380,88 160,84 52,112 Z'],
      label: { x: 18, y: 60, pointsAt: [60, 100] },
    },
    {
      id: 'eye',
      name: 'eye',
      tone: 'flesh',
      paths: ['M52,112 C160,84 380,88 476,112 L474,164 L54,164 Z'],
      label: { x: 262, y: 132, anchor: 'middle' },
    },
    {
      id: 'back-ribs',
      name: 'meat between the ribs',
      tone: 'dark',
      paths: ['M54,164 L474,164 L470,206 L60,206 Z'],
      label: { x: 500, y: 200, anchor: 'end' },
    },
    {
      id: 'bones',
      name: 'ribs',
      tone: 'bone',
      paths: ribs.map((x) => limb(x, 158, 18, x - 14, 232, 13)),
      label: { x: 470, y: 246, anchor: 'end', pointsAt: [414, 226] },
    },
  ],
  marks: [
    { name: 'shoulder end', at: [54, 140], label: { x: 14, y: 246 } },
    { name: 'loin end', at: [474, 140], label: { x: 500, y: 66, anchor: 'end' } },
  ],
  cuts: [
    { id: 'cut-slab', name: 'bones off in a slab', paths: ['M48,164 L480,164'], at: [490, 164] },
    { id: 'cut-trim', name: 'trim the fat', paths: ['M52,90 C160,60 380,64 478,94'], at: [488, 84] },
    { id: 'cut-between', name: 'between the bones', paths: ribs.slice(0, -1).map((x) => `M${x + 28},54 L${x + 14},236`), at: [118, 46] },
    {
      id: 'cut-portions',
      name: 'steaks across the grain',
      paths: ribs.slice(0, -1).map((x) => `M${x + 28},56 L${x + 28},164`),
      at: [174, 44],
    },
  ],
}

/** A top sirloin with its cap, fat side up, seams shown. */
export const sirloin: Drawing = {
  title: 'A top sirloin, cap on',
  width: 520,
  height: 270,
  parts: [
    {
      id: 'fat',
      name: 'fat',
      tone: 'fat',
      paths: ['M40,150 C40,70 140,26 260,28 C390,30 484,76 484,146 C484,214 390,250 250,250 C130,250 40,220 40,150 Z'],
      label: { x: 470, y: 250, anchor: 'end', pointsAt: [418, 222] },
    },
    {
      id: 'cap',
      name: 'cap',
      tone: 'dark',
      paths: ['M56,148 C58,84 150,42 258,42 C376,44 452,80 470,120 C400,92 300,84 220,96 C150,106 92,126 56,148 Z'],
      label: { x: 250, y: 72, anchor: 'middle' },
    },
    {
      id: 'fillet',
      name: 'centre, for fillet steaks',
      tone: 'flesh',
      paths: ['M60,158 C96,134 150,116 216,108 C224,150 220,200 206,238 C130,234 66,208 60,158 Z'],
      label: { x: 140, y: 176, anchor: 'middle' },
    },
    {
      id: 'sirloin',
      name: 'sirloin',
      tone: 'flesh',
      paths: ['M222,107 C272,102 322,102 366,108 C372,150 366,204 348,232 C304,240 256,242 214,238 C228,200 232,150 222,107 Z'],
      label: { x: 292, y: 176, anchor: 'middle' },
    },
    {
      id: 'stew',
      name: 'ends, for stew',
      tone: 'dark',
      paths: ['M374,109 C414,114 450,124 470,136 C470,180 424,212 356,230 C372,204 380,150 374,109 Z'],
      label: { x: 420, y: 160, anchor: 'middle' },
    },
  ],
  marks: [
    { name: 'seam under the cap', at: [150, 116], label: { x: 8, y: 62 } },
    { name: 'grain turns here', at: [369, 150], label: { x: 512, y: 60, anchor: 'end' } },
  ],
  cuts: [
    { id: 'cut-cap', name: 'cap off along its seam', paths: ['M54,152 C110,118 180,100 240,98 C330,88 410,98 472,124'], at: [484, 116] },
    {
      id: 'cut-seam',
      name: 'seam the rest',
      paths: ['M219,106 C228,150 224,204 208,244', 'M370,108 C376,150 370,204 352,236'],
      at: [206, 256],
    },
    {
      id: 'cut-portions',
      name: 'steaks across the grain',
      paths: ['M100,132 L92,214', 'M136,120 L130,228', 'M172,112 L168,236', 'M256,104 L250,240', 'M292,102 L288,240', 'M328,104 L322,236'],
      at: [292, 256],
    },
  ],
}
