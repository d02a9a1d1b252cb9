import { seededRandom } from '../random/seeded-random.ts'
import type { PlanValues } from './buying-model.ts'
import type { BuyingPlanInput } from './buying-plan.ts'

/**
 * How often each demand is met over so many draws of the day: items weigh and yield as they vary, guests come as they vary. Sums of
 * many items are drawn as the normal sums that they are. A follow-on that finds too little of what it uses makes less.
 */
export function drawDay(
  input: BuyingPlanInput,
  values: PlanValues,
  draws: number,
  seed: number,
): { product: string; probability: number; shortGrams: number }[] {
  const random = seededRandom(seed)
  const counts = new Map(values.cut.map(({ way, items }) => [way, items]))
  const batches = new Map(values.make.map(({ followOn, batches: count }) => [followOn, count]))
  const packs = new Map(values.readyCut.map(({ id, packs: count }) => [id, count]))
  const sums = input.demands.map(() => ({ met: 0, short: 0 }))
  for (let draw = 0; draw < draws; draw += 1) {
    const there = new Map<string, number>(input.products.map(({ id, onHandGrams = 0 }) => [id, onHandGrams]))
    const add = (product: string, grams: number) => there.set(product, (there.get(product) ?? 0) + grams)
    for (const { meanGrams, sdGrams = 0, ways } of input.items) {
      for (const { id, outputs } of ways) {
        const items = counts.get(id) ?? 0
        if (items === 0) continue
        const root = Math.sqrt(items)
        const weight = items * meanGrams + (sdGrams > 0 ? random.normal(0, sdGrams * root) : 0)
        for (const { product, pct, sdPct = 0 } of outputs) {
          const more = sdPct > 0 ? random.normal(0, (meanGrams * sdPct * root) / 100) : 0
          add(product, Math.max(0, (weight * pct) / 100 + more))
        }
      }
    }
    for (const { id, product, packGrams } of input.readyCut ?? []) add(product, (packs.get(id) ?? 0) * packGrams)
    for (const { id, uses, gives } of input.followOns ?? []) {
      const wanted = batches.get(id) ?? 0
      if (wanted === 0) continue
      const share = Math.min(1, ...uses.map(({ product, grams }) => Math.max(0, there.get(product) ?? 0) / (grams * wanted)))
      for (const { product, grams } of uses) add(product, -grams * wanted * share)
      add(gives.product, gives.grams * wanted * share)
    }
    for (const [index, { product, grams, sdPct = 0 }] of input.demands.entries()) {
      const asked = Math.max(0, sdPct > 0 ? random.normal(grams, (grams * sdPct) / 100) : grams)
      const missing = asked - (there.get(product) ?? 0)
      add(product, -Math.min(asked, there.get(product) ?? 0))
      const sum = sums[index]
      if (!sum) continue
      // a tenth of a gram is what a scale can be out by
      if (missing <= 0.1) sum.met += 1
      else sum.short += missing
    }
  }
  return input.demands.map(({ product }, index) => {
    const { met, short } = sums[index] ?? { met: 0, short: 0 }
    return { product, probability: met / draws, shortGrams: met === draws ? 0 : short / (draws - met) }
  })
}
