import { InputError } from '../input-error.ts'

/** A place along a piece, from the thick end: a girth with the tape, or a width and a height, all in cm. */
export interface Station {
  cm: number
  girthCm?: number | undefined
  widthCm?: number | undefined
  heightCm?: number | undefined
}

export interface ProfileInput {
  stations: readonly Station[]
  /** Weighed weight of the trimmed piece, grams. */
  grams: number
}

/** A tapered piece: weight along its length from its measured outline. Between stations it is a conical frustum. */
export interface Profile {
  lengthCm: number
  grams: number
  densityGPerCm3: number
  /**
   * Whether tape and scale agree. Meat and fish are of 0.80 to 1.15 g/cm³ where the section is round, as a tape takes it to be. Of
   * a width and a height the section may be anything from a wedge, which fills 64 % of the ellipse, to a block, which fills 127 %.
   */
  densityIsPlausible: boolean
  /** Weight from the thick end to `cm`, grams. */
  weightTo(cm: number): number
  /** The place up to which the piece weighs `grams`: the inverse of `weightTo`. */
  placeOf(grams: number): number
  /** Diameter of a round face of the same area at `cm`. */
  diameterAt(cm: number): number
}

const ofRoundSection = { low: 0.8, high: 1.15 }
const ofAnySection = { low: 0.6, high: 1.4 }

export const mostStations = 200
const longestCm = 500

/**
 * Makes a profile from stations. Areas are girth² / 4π or π/4 × width × height; the square root of the area is linear
 * between stations, so volumes and their inverse are exact. Weight is that share of the weighed total: density cancels.
 *
 * @throws InputError that names the station
 * @example profileOf({ stations: [{ cm: 0, girthCm: 20 }, { cm: 10, girthCm: 20 }], grams: 300 }).weightTo(5) === 150
 */
export function profileOf({ stations, grams }: ProfileInput): Profile {
  const roots = checkStations(stations)
  if (!(grams > 0)) throw new InputError('grams', 'The weight must be over 0 g.')
  const places = stations.map((station) => station.cm)
  const start = places[0] as number
  const last = stations.length - 1
  const lengthCm = (places[last] as number) - start
  const volumes = new Float64Array(stations.length)
  for (let at = 1; at <= last; at += 1) {
    const [thick, thin] = [roots[at - 1] as number, roots[at] as number]
    const height = (places[at] as number) - (places[at - 1] as number)
    volumes[at] = (volumes[at - 1] as number) + (height / 3) * (thick * thick + thick * thin + thin * thin)
  }
  const volume = volumes[last] as number
  const gramsPerVolume = grams / volume
  const plausible = stations.every((station) => station.girthCm === undefined) ? ofAnySection : ofRoundSection
  const slopeOf = (at: number) =>
    ((roots[at + 1] as number) - (roots[at] as number)) / ((places[at + 1] as number) - (places[at] as number))
  const segmentAt = (cm: number) => {
    let at = 0
    while (at < last - 1 && cm > (places[at + 1] as number) - start) at += 1
    return at
  }
  const rootAt = (cm: number) => {
    const at = segmentAt(cm)
    return (roots[at] as number) + slopeOf(at) * (cm - ((places[at] as number) - start))
  }
  return {
    lengthCm,
    grams,
    densityGPerCm3: gramsPerVolume,
    densityIsPlausible: gramsPerVolume >= plausible.low && gramsPerVolume <= plausible.high,
    weightTo(cm) {
      if (cm <= 0) return 0
      if (cm >= lengthCm) return grams
      const at = segmentAt(cm)
      const thick = roots[at] as number
      const reached = rootAt(cm)
      const height = cm - ((places[at] as number) - start)
      return ((volumes[at] as number) + (height / 3) * (thick * thick + thick * reached + reached * reached)) * gramsPerVolume
    },
    placeOf(weight) {
      if (weight <= 0) return 0
      if (weight >= grams) return lengthCm
      const wanted = weight / gramsPerVolume
      let at = 0
      while (at < last - 1 && wanted > (volumes[at + 1] as number)) at += 1
      const from = (places[at] as number) - start
      return from + heightOfVolume(roots[at] as number, slopeOf(at), wanted - (volumes[at] as number))
    },
    diameterAt: (cm) => 2 * Math.sqrt(rootAt(Math.min(lengthCm, Math.max(0, cm))) ** 2 / Math.PI),
  }
}

/** Height at which a frustum that starts at root area `root` with `slope` holds `volume`: root³ + 3 × slope × volume. */
function heightOfVolume(root: number, slope: number, volume: number): number {
  if (Math.abs(slope) * volume < 1e-7 * root ** 3) {
    const straight = volume / (root * root)
    return straight * (1 - (slope * straight) / root)
  }
  return (Math.cbrt(root ** 3 + 3 * slope * volume) - root) / slope
}

function checkStations(stations: readonly Station[]): number[] {
  if (stations.length < 2) throw new InputError('stations', 'Measure at two places at least: one at each end.')
  if (stations.length > mostStations) throw new InputError('stations', `At most ${mostStations} places can be measured.`)
  const roots = stations.map((station, index) => {
    const before = stations[index - 1]
    if (before && station.cm === before.cm)
      throw new InputError(`stations.${index}.cm`, `Two measurements stand at ${station.cm} cm: take one out.`)
    if (before && station.cm < before.cm) {
      throw new InputError(`stations.${index}.cm`, `${station.cm} cm comes after ${before.cm} cm: go from the thick end to the thin one.`)
    }
    return Math.sqrt(areaOf(station, index))
  })
  const length = (stations.at(-1)?.cm ?? 0) - (stations[0]?.cm ?? 0)
  if (length > longestCm) throw new InputError('stations', `A piece of ${length} cm is over 5 m: check the places.`)
  return roots
}

function areaOf({ girthCm, widthCm, heightCm }: Station, index: number): number {
  const area = girthCm !== undefined ? (girthCm * girthCm) / (4 * Math.PI) : (Math.PI / 4) * (widthCm ?? 0) * (heightCm ?? 0)
  if (area > 0) return area
  throw new InputError(
    `stations.${index}.${girthCm === undefined ? 'widthCm' : 'girthCm'}`,
    'A girth, or a width and a height, must be over 0 cm.',
  )
}
