import { bonedRib, boneInRib, sirloin, tenderloin } from './beef.ts'
import { bird } from './bird.ts'
import type { Drawing, Part } from './drawing.ts'
import { flatFish, roundFish } from './fish.ts'
import { rack } from './lamb.ts'

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
