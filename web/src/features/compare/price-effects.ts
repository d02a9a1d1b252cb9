import type { PriceMove } from '@fleam/contract/prices'
import { makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { inputOfCase, quoteInput, valueInput } from '@fleam/core/compare/portion-case'
import { linkTo } from './body-link.ts'
import { firstBody, openPortion, partsOf, type Sources, sheetsFor } from './open-portion.ts'
import { shortName } from './words.ts'

/** What a price move does to every portion that stands on it: as what is bought, what it is set against, or what comes off beside. */
export function effectsOf({ itemId, movePct }: Pick<PriceMove, 'itemId' | 'movePct'>, sources: Sources) {
  const before = (amount: number) => amount / (1 + movePct / 100)
  return sources.items
    .filter((item) => item.kind === 'whole')
    .flatMap((item) => sheetsFor(sources, item).map((sheet) => ({ item, sheet })))
    .flatMap(({ item, sheet }) => {
      const body = firstBody(sources, item, sheet)
      const open = body && openPortion(sources, body)
      const quote = open && 'quotes' in open ? open.quotes[0] : undefined
      if (!body || !open || 'missing' in open || !quote) return []
      const { inputs } = open.portionCase
      const standing = [
        ...(item.id === itemId ? ['itemPrice'] : []),
        ...(quote.id === itemId ? [quoteInput(itemId, 'amount')] : []),
        ...partsOf(sources, item, sheet, open.expected).flatMap((part) =>
          part.readyCut?.id === itemId && valueInput(part.key) in inputs ? [valueInput(part.key)] : [],
        ),
      ]
      const at = (given: typeof inputs) => makeOrBuy(inputOfCase(open.portionCase, given, quote.id, body.idleHands))
      const [was, is] = [at({ ...inputs, ...Object.fromEntries(standing.map((name) => [name, before(inputs[name] ?? 0)])) }), at(inputs)]
      const side = quote.id === itemId ? ('buy' as const) : ('make' as const)
      const move = is[side].costPerPortion - was[side].costPerPortion
      if (Math.abs(move) < 0.005) return []
      const hasTurned = was.savingPerPortion >= 0 !== is.savingPerPortion >= 0
      return [
        {
          name: `${shortName(item.name)}: ${open.name}${side === 'buy' ? ', ready-cut' : ''}`,
          link: linkTo(body),
          before: was[side].costPerPortion,
          after: is[side].costPerPortion,
          perWeek: move * (inputs.portionsPerWeek ?? 0),
          turned: hasTurned
            ? is.savingPerPortion >= 0
              ? 'Cutting here is the cheaper one now'
              : 'Ready-cut is the cheaper one now'
            : undefined,
        },
      ]
    })
}
