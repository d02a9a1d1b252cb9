import { gramsPerPound, type Tenths, type WeightSystem } from './weight.ts'

export interface WrittenWeight {
  figure: string
  unit: string
}

/**
 * A weight as it is read on screen and paper: whole grams (tenths only where they were weighed), no-break spaces between
 * thousands; or pounds and ounces to the tenth of an ounce.
 *
 * @example writeWeight(12505, 'metric') // { figure: '1 250.5', unit: 'g' }
 * @example writeWeight(10100, 'imperial') // { figure: '2 lb 3.6', unit: 'oz' }
 */
export function writeWeight(tenths: Tenths, system: WeightSystem): WrittenWeight {
  const sign = tenths < 0 ? '−' : ''
  const size = Math.abs(tenths)
  if (system === 'metric') return { figure: sign + writeGrams(size), unit: 'g' }
  const ounceTenths = Math.round((size * 16) / gramsPerPound)
  const pounds = Math.floor(ounceTenths / 160)
  const ounces = ((ounceTenths % 160) / 10).toString()
  return { figure: pounds === 0 ? sign + ounces : `${sign}${pounds}\u00a0lb\u00a0${ounces}`, unit: 'oz' }
}

/**
 * The same in one string.
 * @example formatWeight(12500, 'metric') // '1 250 g'
 */
export function formatWeight(tenths: Tenths, system: WeightSystem): string {
  const { figure, unit } = writeWeight(tenths, system)
  return `${figure}\u00a0${unit}`
}

function writeGrams(tenths: Tenths): string {
  const whole = Math.floor(tenths / 10)
    .toString()
    .replace(/\B(?=(\d{3}){1,4}$)/g, '\u00a0')
  return tenths % 10 === 0 ? whole : `${whole}.${tenths % 10}`
}
