import { bird } from './bird.ts'
import type { Drawing, Part } from './drawing.ts'
import { flatFish } from './flat-fish.ts'
import { rack } from './rack.ts'
import { bonedRib, boneInRib } from './rib.ts'
import { roundFish } from './round-fish.ts'
import { sirloin } from './sirloin.ts'
import { tenderloin } from './tenderloin.ts'

/** Every drawing, for pages that ask about all of them. A page that draws one has it by `useDrawing`. */
export const drawings: Record<Part, Drawing> = {
  bird,
  'round fish': roundFish,
  'flat fish': flatFish,
  tenderloin,
  'boned rib': bonedRib,
  'bone-in rib': boneInRib,
  sirloin,
  rack,
}
