/** How a simulated bench scale behaves. Weights in grams, times in seconds. */
export interface ScaleCharacter {
  noiseGrams: number
  settleSeconds: number
  driftGramsPerMinute: number
  stepGrams: number
  maximumGrams: number
}

export const benchScaleCharacter: ScaleCharacter = {
  noiseGrams: 0.04,
  settleSeconds: 0.12,
  driftGramsPerMinute: 0.02,
  stepGrams: 0.1,
  maximumGrams: 15_000,
}

export interface SimulatedReading {
  grams: number
  tareGrams: number
  state: 'steady' | 'moving' | 'overload' | 'underload'
}

export interface SimulatedScale {
  /** Sets what lies on the pan, in grams. */
  load(grams: number): void
  /** Takes what lies on the pan as nothing, as soon as it reads steady. */
  tare(): void
  clearTare(): void
  behave(change: Partial<ScaleCharacter>): void
  /** Lets time pass and reads the scale. */
  advance(seconds: number): SimulatedReading
}

const windowSeconds = 0.35

/**
 * A bench scale as its cell behaves: it follows a new load with a short swing, never quite stands still and wanders a
 * little over minutes. A reading is steady once it has kept within three steps for a third of a second.
 *
 * @param random numbers in [0, 1) from a seeded generator, so that a script gives the same readings every time
 */
export function simulateScale(random: () => number, given: Partial<ScaleCharacter> = {}): SimulatedScale {
  let character = { ...benchScaleCharacter, ...given }
  let loaded = 0
  let shown = 0
  let swing = 0
  let sinceChange = Number.POSITIVE_INFINITY
  let drift = 0
  let tare = 0
  let isTareAsked = false
  let recent: { at: number; grams: number }[] = []
  let now = 0

  const gaussian = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
  const rounded = (grams: number) => Number((Math.round(grams / character.stepGrams) * character.stepGrams).toFixed(1))

  function gross(): number {
    const swinging = swing * Math.exp(-sinceChange / character.settleSeconds) * Math.cos(2 * Math.PI * 7 * sinceChange)
    return shown + swinging + drift + gaussian() * character.noiseGrams
  }

  function settled(): number | undefined {
    const grams = recent.map((sample) => sample.grams)
    const [first] = recent
    if (!first || now - first.at < windowSeconds * 0.8) return undefined
    if (Math.max(...grams) - Math.min(...grams) > 3 * character.stepGrams + 1e-9) return undefined
    return [...grams].sort((a, b) => a - b)[Math.floor(grams.length / 2)]
  }

  return {
    load(grams) {
      swing = (grams - loaded) * 0.12
      loaded = grams
      sinceChange = 0
      recent = []
    },
    tare() {
      isTareAsked = true
    },
    clearTare() {
      tare = 0
      isTareAsked = false
      recent = []
    },
    behave(change) {
      character = { ...character, ...change }
    },
    advance(seconds) {
      now += seconds
      sinceChange += seconds
      shown += (loaded - shown) * (1 - Math.exp(-seconds / (character.settleSeconds / 2)))
      drift += (gaussian() * character.driftGramsPerMinute * seconds) / 60
      const grams = gross()
      recent = [...recent.filter((sample) => now - sample.at <= windowSeconds), { at: now, grams }]
      if (grams > character.maximumGrams) return { grams: rounded(grams - tare), tareGrams: tare, state: 'overload' }
      if (grams < -20 * character.stepGrams) return { grams: rounded(grams - tare), tareGrams: tare, state: 'underload' }
      const steady = settled()
      if (isTareAsked && steady !== undefined) {
        tare = rounded(steady)
        isTareAsked = false
      }
      return { grams: rounded((steady ?? grams) - tare), tareGrams: tare, state: steady === undefined ? 'moving' : 'steady' }
    },
  }
}
