import { percentText } from '../../ui/units.ts'

/** How far what was said is from what the scale says, in words. */
export function offText({ said, weighed }: { said: number; weighed: number }): string {
  const pct = (said / weighed - 1) * 100
  if (Math.abs(pct) < 0.5) return 'on the gram'
  return `${percentText(Math.abs(pct), 1)} ${pct > 0 ? 'too much' : 'too little'}`
}
