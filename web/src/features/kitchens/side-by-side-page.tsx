import type { KitchenFigures, SideBySide } from '@fleam/contract/kitchens'
import { gramsPerPound } from '@fleam/core/quantities/weight'
import { useQuery } from '@tanstack/react-query'
import { format, subDays } from 'date-fns'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { useSearchParams } from 'react-router'
import { useHasRole, useKitchen } from '../../api/queries.ts'
import { lazyChart } from '../../ui/charts/lazy-chart.tsx'
import { counted } from '../../ui/counted.ts'
import { type Column, DataTable } from '../../ui/data-table.tsx'
import { DateField } from '../../ui/date-field.tsx'
import { Choice, SelectField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { percentText, unitsOf, useUnits } from '../../ui/units.ts'
import { KitchenTabs } from '../kitchen/kitchen-tabs.tsx'
import type { KitchensChartProps } from './kitchens-chart.tsx'
import { OpenKitchen } from './open-kitchen.tsx'
import { sideBySideQuery } from './queries.ts'
import { useMove } from './use-move.ts'
import './kitchens.scss'

const KitchensChart = lazyChart<KitchensChartProps>(async () => (await import('./kitchens-chart.tsx')).KitchensChart, 170)

const usualDays = 30
const dayOf = (date: Date) => format(date, 'yyyy-MM-dd')

/** Yield, cost, giveaway and waste of every kitchen that one looks after, over the same days. */
export function Page() {
  const [search, setSearch] = useSearchParams()
  const [isOpening, setIsOpening] = useState(false)
  const isManager = useHasRole('manager')
  const today = new Date()
  const asked = {
    from: search.get('from') ?? dayOf(subDays(today, usualDays - 1)),
    to: search.get('to') ?? dayOf(today),
    slug: search.get('cut') ?? '',
  }
  const set = (key: string, value: string) =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before)
        if (value) next.set(key, value)
        else next.delete(key)
        return next
      },
      { replace: true },
    )
  const figures = useQuery(sideBySideQuery(asked))
  const sheets = figures.data?.sheets ?? []
  return (
    <main className="page">
      <KitchenTabs />
      <section className="sheet stack">
        <header className="result-head">
          <h1>Kitchens side by side</h1>
          {isManager && (
            <Button variant="plain" className="no-print" onClick={() => setIsOpening(true)}>
              Open another kitchen
            </Button>
          )}
        </header>
        <div className="fields no-print">
          <DateField label="From" value={asked.from} onChange={(value) => set('from', value)} />
          <DateField label="To" value={asked.to} onChange={(value) => set('to', value)} />
          <SelectField
            label="What was cut"
            value={asked.slug}
            onChange={(value) => set('cut', value)}
            options={[
              { value: '', label: 'All that was cut' },
              ...sheets.map(({ slug, name, runs, kitchens }) => ({
                value: slug,
                label: `${name}: ${counted(runs, 'run')} in ${counted(kitchens, 'kitchen')}`,
              })),
            ]}
          />
        </div>
        {figures.isPending && <Loading what="the kitchens" />}
        {figures.error && <Failed error={figures.error} retry={figures.refetch} />}
        {figures.data && <Kitchens kitchens={figures.data.kitchens} isOfOneSheet={asked.slug !== ''} />}
      </section>
      {isOpening && <OpenKitchen onClose={() => setIsOpening(false)} />}
    </main>
  )
}

const measures = [
  { value: 'yield', label: 'Main yield' },
  { value: 'portion', label: 'A portion' },
  { value: 'giveaway', label: 'Given away' },
  { value: 'thrown', label: 'Thrown away' },
] as const
type Measure = (typeof measures)[number]['value']

/** Percent of what was paid; currencies do not matter for it. */
const shareOf = (cost: number, { netCost }: KitchenFigures) => (netCost > 0 ? (100 * cost) / netCost : null)

function Kitchens({ kitchens, isOfOneSheet }: { kitchens: SideBySide['kitchens']; isOfOneSheet: boolean }) {
  const here = useKitchen()
  const { perUnit } = useUnits()
  const heavy = (grams: number) => `${(grams / (perUnit === 'kg' ? 1000 : gramsPerPound)).toFixed(1)} ${perUnit}`
  const { move, busy, trouble } = useMove()
  const [measure, setMeasure] = useState<Measure>('yield')
  const moneyOf = ({ currency }: KitchenFigures) => unitsOf({ currency, weightSystem: here.settings.weightSystem }).money
  const lost = (one: KitchenFigures, { cost, grams: weight }: KitchenFigures['giveaway']) => {
    const share = shareOf(cost, one)
    return (
      <>
        {moneyOf(one)(cost)}
        <small>
          {share === null ? '' : `${percentText(share, 2)} · `}
          {heavy(weight)}
        </small>
      </>
    )
  }
  const columns: Column<KitchenFigures>[] = [
    {
      id: 'kitchen',
      heading: 'Kitchen',
      kind: 'head',
      sortBy: ({ name }) => name,
      cell: ({ kitchenId, name }) =>
        kitchenId === here.id ? (
          name
        ) : (
          <Button variant="bare" className="kitchen-go" disabled={busy} aria-label={`Go to ${name}`} onClick={() => move(kitchenId)}>
            {name}
          </Button>
        ),
    },
    { id: 'runs', heading: 'Runs', sortBy: ({ runs }) => runs, cell: ({ runs }) => runs },
    { id: 'cut', heading: 'Cut', sortBy: ({ receivedGrams }) => receivedGrams, cell: ({ receivedGrams }) => heavy(receivedGrams) },
    {
      id: 'yield',
      heading: 'Main yield',
      sortBy: ({ mainPct }) => mainPct,
      cell: ({ mainPct }) => (mainPct === null ? '–' : percentText(mainPct)),
    },
    {
      id: 'portion',
      heading: 'A portion',
      sortBy: ({ costPerPortion }) => costPerPortion,
      cell: (one) => (one.costPerPortion === null ? '–' : moneyOf(one)(one.costPerPortion)),
    },
    {
      id: 'giveaway',
      heading: 'Given away',
      sortBy: (one) => shareOf(one.giveaway.cost, one),
      cell: (one) => lost(one, one.giveaway),
    },
    {
      id: 'thrown',
      heading: 'Thrown away',
      sortBy: (one) => shareOf(one.thrownAway.cost, one),
      cell: (one) => lost(one, one.thrownAway),
    },
  ]
  const figureOf: Record<Measure, (one: KitchenFigures) => number | null> = {
    yield: ({ mainPct }) => mainPct,
    portion: ({ currency, costPerPortion }) => (currency === here.settings.currency ? costPerPortion : null),
    giveaway: (one) => shareOf(one.giveaway.cost, one),
    thrown: (one) => shareOf(one.thrownAway.cost, one),
  }
  const textOf = (one: KitchenFigures, value: number) =>
    measure === 'portion' ? moneyOf(one)(value) : percentText(value, measure === 'yield' ? 1 : 2)
  const bars = kitchens
    .flatMap((one) => {
      const value = figureOf[measure](one)
      return value === null ? [] : [{ name: one.name, value, text: textOf(one, value) }]
    })
    .sort((a, b) => b.value - a.value)
  const chosen = measures.find(({ value }) => value === measure)?.label ?? ''
  const otherMoney = measure === 'portion' ? kitchens.filter(({ currency }) => currency !== here.settings.currency) : []
  if (kitchens.every(({ runs }) => runs === 0)) return <Empty title="Nothing was finished in these days." />
  return (
    <>
      {trouble && <Warning>{trouble}</Warning>}
      {!isOfOneSheet && <Word>Kitchens that cut other things have other yields: choose what was cut above to compare like with like.</Word>}
      <DataTable
        label="Kitchens side by side"
        columns={columns}
        rows={kitchens}
        rowKey={({ kitchenId }) => kitchenId}
        className="kitchens"
      />
      <p className="field-hint">
        Percent of given away and thrown away are of what was paid for what was cut. Given away counts portions that are weighed one by one.{' '}
        {isOfOneSheet ? 'Thrown away counts what came of runs by this sheet.' : 'Thrown away counts the whole walk-in.'} Each kitchen’s days
        are by its own clock, its money is its own.
      </p>
      <Choice label="What is drawn" value={measure} onChange={setMeasure} options={measures} />
      {otherMoney.length > 0 && (
        <p className="field-hint">Left out, as they count in other money: {otherMoney.map(({ name }) => name).join(', ')}.</p>
      )}
      <KitchensChart says={`${chosen} of ${counted(bars.length, 'kitchen')}`} measure={chosen} bars={bars} />
    </>
  )
}
