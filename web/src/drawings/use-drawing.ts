import { use } from 'react'
import type { Drawing, Part } from './drawing.ts'

const loads: Record<Part, () => Promise<Drawing>> = {
  bird: async () => (await import('./bird.ts')).bird,
  'round fish': async () => (await import('./round-fish.ts')).roundFish,
  'flat fish': async () => (await import('./flat-fish.ts')).flatFish,
  tenderloin: async () => (await import('./tenderloin.ts')).tenderloin,
  'boned rib': async () => (await import('./rib.ts')).bonedRib,
  'bone-in rib': async () => (await import('./rib.ts')).boneInRib,
  sirloin: async () => (await import('./sirloin.ts')).sirloin,
  rack: async () => (await import('./rack.ts')).rack,
}
const asked = new Map<Part, Promise<Drawing | undefined>>()

/** The drawing of one part, read when it is first needed; suspends until then. Nothing where it cannot be had: words carry on. */
export function useDrawing(part: Part): Drawing | undefined {
  let drawing = asked.get(part)
  if (!drawing) {
    drawing = loads[part]().catch(() => {
      asked.delete(part)
      return undefined
    })
    asked.set(part, drawing)
  }
  return use(drawing)
}
