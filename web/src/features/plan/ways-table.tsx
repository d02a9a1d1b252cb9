import type { BestMixInput } from '@fleam/core/plan/best-mix'
import { DataTable } from '../../ui/data-table.tsx'
import { useUnits } from '../../ui/units.ts'
import { usePlanUnits } from './plan-units.tsx'
import type { waysOf } from './ways.ts'

/** Ways of cutting the same piece side by side, and why one is worth most. */
export function Ways({ input, ways }: { input: BestMixInput; ways: ReturnType<typeof waysOf> }) {
  const { money, grams } = useUnits()
  const { said } = usePlanUnits()
  const most = ways.reduce((best, way) => (way.worth > best.worth ? way : best))
  const second = ways
    .filter((way) => way !== most)
    .reduce<(typeof ways)[number] | undefined>((best, way) => (!best || way.worth > best.worth ? way : best), undefined)
  return (
    <>
      {second && (
        <p className="best-reason">
          <b>{most.name}</b> is worth most: {money(most.worth - second.worth)} more than{' '}
          {second.name.charAt(0).toLowerCase() + second.name.slice(1)}, because{' '}
          {reasonOf(most, second, (value) => grams(Math.round(value)))}.
        </p>
      )}
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard */}
      <section className="table-scroll" aria-label="Ways of cutting" tabIndex={0}>
        <DataTable
          label="Ways of cutting it"
          rows={ways}
          rowKey={(way) => way.name}
          rowClass={(way) => (way === most ? 'best-way' : '')}
          columns={[
            {
              id: 'way',
              heading: 'Way of cutting',
              kind: 'head',
              cell: (way) => (
                <>
                  {way.name} {way === most && <small>worth most</small>}
                  {way.note && <small> {said(way.note)}</small>}
                </>
              ),
            },
            {
              id: 'pieces',
              heading: 'Pieces',
              cell: (way) =>
                way.counts
                  .map((count, index) =>
                    count > 0 ? `${Number(count.toFixed(1))} ${input.types[index]?.id.replace(/^\d+ /, '').toLowerCase()}` : '',
                  )
                  .filter(Boolean)
                  .join(', ') || '–',
            },
            { id: 'spread', heading: 'Spread', sortBy: (way) => way.spreadGrams, cell: (way) => grams(Math.round(way.spreadGrams)) },
            { id: 'tips', heading: 'To tips', sortBy: (way) => way.tipsGrams, cell: (way) => grams(Math.round(way.tipsGrams)) },
            { id: 'off', heading: 'Off target', sortBy: (way) => way.offGrams, cell: (way) => `± ${grams(Math.round(way.offGrams))}` },
            { id: 'minutes', heading: 'Minutes', sortBy: (way) => way.minutes, cell: (way) => Math.round(way.minutes) },
            { id: 'enzyme', heading: 'Enzyme, rest', cell: (way) => (way.enzymeCost > 0 ? `${money(way.enzymeCost)}, 6–12 h` : '–') },
            { id: 'worth', heading: 'Worth', sortBy: (way) => way.worth, cell: (way) => money(way.worth) },
          ]}
        />
      </section>
    </>
  )
}

/** Why one way is worth more than another, in a few words. */
function reasonOf(
  most: ReturnType<typeof waysOf>[number],
  second: ReturnType<typeof waysOf>[number],
  whole: (grams: number) => string,
): string {
  const count = (way: typeof most) => way.counts.reduce((sum, one) => sum + one, 0)
  if (count(most) > count(second) + 0.01) return `it makes ${Number((count(most) - count(second)).toFixed(1))} more at weight`
  if (most.tipsGrams < second.tipsGrams - 5) return `${whole(second.tipsGrams - most.tipsGrams)} less goes to tips`
  if (most.enzymeCost < second.enzymeCost) return 'it needs no enzyme and no rest'
  if (most.tipsGrams > second.tipsGrams + 5) return `as many pieces leave ${whole(most.tipsGrams - second.tipsGrams)} more for tips`
  if (most.offGrams < second.offGrams) return 'its pieces lie nearer their targets'
  return 'more of its pieces are of the dearer kind'
}
