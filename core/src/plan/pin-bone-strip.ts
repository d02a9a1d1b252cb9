import { InputError } from '../input-error.ts'
import { profileOf, type Station } from './profile.ts'

/** A strip cut out along part of a fillet, such as the narrow V along the pin bones. Places and width in cm. */
export interface Strip {
  fromCm: number
  toCm: number
  widthCm: number
}

export interface StrippedFillet {
  stations: Station[]
  grams: number
  lossGrams: number
}

/**
 * A fillet of width × thickness without its pin-bone strip: narrower by the strip along its stretch, lighter by what the
 * strip weighs. The fillet was weighed with the strip in it.
 *
 * @throws InputError naming the field
 * @example withoutStrip({ stations: [{ cm: 0, widthCm: 10, heightCm: 3 }, { cm: 20, widthCm: 10, heightCm: 3 }], grams: 600 }, { fromCm: 0, toCm: 20, widthCm: 1 }).lossGrams === 60
 */
export function withoutStrip(fillet: { stations: readonly Station[]; grams: number }, strip: Strip): StrippedFillet {
  const { stations, grams } = fillet
  const whole = profileOf(fillet)
  if (strip.widthCm === 0 || strip.fromCm === strip.toCm) return { stations: [...stations], grams, lossGrams: 0 }
  if (!(strip.fromCm < strip.toCm))
    throw new InputError('strip.toCm', `From ${strip.fromCm} to ${strip.toCm} cm is no stretch: put the smaller first.`)
  if (strip.fromCm < 0 || strip.toCm > whole.lengthCm)
    throw new InputError('strip.toCm', `The strip lies outside the fillet of ${whole.lengthCm} cm.`)
  const start = stations[0]?.cm ?? 0
  const hair = 1e-6
  const places = [...stations.map((station) => station.cm - start), strip.fromCm, strip.fromCm - hair, strip.toCm, strip.toCm + hair]
    .filter((cm) => cm >= 0 && cm <= whole.lengthCm)
    .sort((a, b) => a - b)
    .filter((cm, index, all) => index === 0 || cm - (all[index - 1] as number) > hair / 2)
  const before = places.map((cm): Station => ({ cm, ...sizeAt(stations, start + cm) }))
  const narrowed = before.map(({ cm, widthCm = 0, heightCm }): Station => {
    const isInside = cm >= strip.fromCm && cm <= strip.toCm
    if (isInside && strip.widthCm >= widthCm)
      throw new InputError('strip.widthCm', `A strip of ${strip.widthCm} cm is wider than the fillet at ${Math.round(cm * 10) / 10} cm.`)
    return { cm, widthCm: isInside ? widthCm - strip.widthCm : widthCm, heightCm }
  })
  // both outlines at the same places: between more of them an outline holds a little more or less, which is not the strip
  const volumeOf = (outline: readonly Station[]) => 1 / profileOf({ stations: outline, grams: 1 }).densityGPerCm3
  const share = volumeOf(narrowed) / volumeOf(before)
  const left = Math.round(grams * share * 10) / 10
  return { stations: narrowed, grams: left, lossGrams: Math.round((grams - left) * 10) / 10 }
}

function sizeAt(stations: readonly Station[], cm: number): { widthCm: number; heightCm: number } {
  const next = Math.max(
    1,
    stations.findIndex((station) => station.cm >= cm - 1e-12),
  )
  const [a, b] = [stations[next - 1], stations[next]]
  if (!a?.widthCm || !a.heightCm || !b?.widthCm || !b.heightCm) {
    throw new InputError('stations', 'A fillet is measured by its width and thickness.')
  }
  const share = Math.min(1, Math.max(0, (cm - a.cm) / (b.cm - a.cm)))
  return { widthCm: a.widthCm + share * (b.widthCm - a.widthCm), heightCm: a.heightCm + share * (b.heightCm - a.heightCm) }
}
