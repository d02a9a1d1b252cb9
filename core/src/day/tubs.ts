/** What a cut fills, from one minute of the schedule to another. */
export interface Filling {
  bench: string
  from: number
  until: number
  gives: readonly { product: string; name: string; grams: number }[]
}

export interface ProductTubs {
  product: string
  name: string
  grams: number
  /** How many are filled in all. */
  tubs: number
  /** How many stand at the benches at once. */
  atBench: number
  /** The minutes at which a full one is fetched, the last one when the cutting ends. */
  fetch: number[]
}

interface Tallied extends ProductTubs {
  /** What stands in each bench's own tub, and when that bench was last at it. */
  level: Map<string, { grams: number; until: number }>
}

/**
 * How many tubs of what the cutting needs, how many stand at the benches at once, and when the sorter fetches a full one: each bench
 * fills its own tub of each product evenly over the minutes of the cut.
 */
export function tubsOf(fillings: readonly Filling[], tubGrams: number): ProductTubs[] {
  const products = new Map<string, Tallied>()
  for (const { bench, from, until, gives } of [...fillings].sort((a, b) => a.from - b.from)) {
    for (const { product, name, grams } of gives) {
      if (grams <= 0) continue
      const known: Tallied = products.get(product) ?? { product, name, grams: 0, tubs: 0, atBench: 0, fetch: [], level: new Map() }
      products.set(product, known)
      known.grams += grams
      const before = known.level.get(bench)?.grams ?? 0
      const full = Math.floor((before + grams) / tubGrams + 1e-9)
      for (let count = 1; count <= full; count += 1)
        known.fetch.push(Math.ceil(from + ((count * tubGrams - before) / grams) * (until - from)))
      known.tubs += full
      known.level.set(bench, { grams: before + grams - full * tubGrams, until })
    }
  }
  return [...products.values()]
    .map(({ level, ...tubs }) => {
      const rest = [...level.values()].filter(({ grams }) => grams > 0.05)
      return {
        ...tubs,
        atBench: mostAtOnce(fillings, tubs.product),
        tubs: tubs.tubs + rest.length,
        fetch: [...tubs.fetch, ...rest.map(({ until }) => until)].sort((a, b) => a - b),
      }
    })
    .sort((a, b) => b.grams - a.grams)
}

/** How many benches fill the same product at one time. */
function mostAtOnce(fillings: readonly Filling[], product: string): number {
  const those = fillings.filter(({ gives }) => gives.some((one) => one.product === product && one.grams > 0))
  return Math.max(
    0,
    ...those.map(({ from }) => new Set(those.filter((one) => one.from <= from && one.until > from).map(({ bench }) => bench)).size),
  )
}
