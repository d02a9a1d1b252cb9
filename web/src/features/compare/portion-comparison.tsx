import type { Comparison, ComparisonBody } from '@fleam/contract/compare'
import { withSharesAlong } from '@fleam/core/compare/portion-case'
import { priceOfYear } from '@fleam/core/prices/price-of-year'
import { mainsOf, testedCutOf } from '@fleam/core/yield-book/tested-cut'
import { useQuery } from '@tanstack/react-query'
import { useCallback, useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { quotesQuery, yieldTestsQuery } from '../../api/queries.ts'
import { today } from '../../ui/days.ts'
import { Failed, Loading, Warning } from '../../ui/notes.tsx'
import { Answer } from './answer.tsx'
import { ChoosePortion } from './choose-portion.tsx'
import { CompareTabs } from './compare-tabs.tsx'
import { KeepComparison } from './keep-comparison.tsx'
import { mainKeysOf, type OpenPortion, openPortion, type Sources } from './open-portion.ts'
import { groupsOf } from './try-inputs.ts'
import { TryOut } from './try-out.tsx'
import { shortName } from './words.ts'

/** Says what becomes of the comparison, from how it stands by then. */
export type ChangeBody = (change: (body: ComparisonBody) => ComparisonBody) => void

interface Props {
  sources: Sources
  body: ComparisonBody
  kept?: Comparison | undefined
  onChange: ChangeBody
}

/** One portion, cut here and bought, with everything that decides between them. */
export function PortionComparison({ sources, body, kept, onChange }: Props) {
  const tests = useQuery(yieldTestsQuery(body.itemId, body.cutSheetId))
  const quotes = useQuery(quotesQuery(body.itemId))
  const [isChoosing, setChoosing] = useState(body.readyCutIds.length === 0)
  const chosenTests = useMemo(
    () =>
      tests.data?.filter(
        (test) =>
          test.leftOut === null &&
          (body.supplierId === null || test.supplier?.id === body.supplierId) &&
          (body.cookId === null || test.cook.id === body.cookId),
      ),
    [tests.data, body.supplierId, body.cookId],
  )
  const price = body.supplierId === null ? undefined : quotes.data?.find((quote) => quote.supplier?.id === body.supplierId)?.price
  const sheet = sources.sheets.find((one) => one.id === body.cutSheetId)
  const isChosen = body.supplierId !== null || body.cookId !== null
  // without a choice the yield book goes by its own sums, which let go of what came before a change just so
  const tested = useMemo(
    () => (isChosen && chosenTests && sheet ? testedCutOf(chosenTests, mainKeysOf(sheet)) : undefined),
    [isChosen, chosenTests, sheet],
  )
  const { itemId, cutSheetId, outputKey, readyCutIds, byproducts, mains, asServed, idleHands } = body
  const { itemsPerBatch, itemGrams } = body.changed
  // opened anew only by what it is about: trying an input out leaves it as it is
  const open = useMemo(
    () => openPortion(sources, body, tested, price),
    [sources, itemId, cutSheetId, outputKey, readyCutIds, byproducts, mains, asServed, idleHands, itemsPerBatch, itemGrams, tested, price],
  )
  const other = useMemo(() => {
    if ('missing' in open || !open.hasOtherMains) return undefined
    const opened = openPortion(sources, { ...body, mains: body.mains === 'credited' ? 'together' : 'credited' }, tested, price)
    return 'missing' in opened ? undefined : opened
  }, [open])
  const choice = isChoosing && (
    <ChoosePortion
      sources={sources}
      body={body}
      tests={tests.data ?? []}
      onChange={(next) => onChange(() => next)}
      onClose={() => setChoosing(false)}
    />
  )
  const standing = 'missing' in open ? undefined : open.portionCase.price
  const year = useMemo(
    () =>
      standing &&
      priceOfYear(
        (quotes.data ?? []).filter((quote) => body.supplierId === null || quote.supplier?.id === body.supplierId),
        standing,
        today(),
      ),
    [quotes.data, body.supplierId, standing],
  )
  const yieldKeys = 'missing' in open ? undefined : open.yieldKeys
  const shares = useMemo(() => yieldKeys && chosenTests?.map((test) => mainsOf(test, yieldKeys)), [chosenTests, yieldKeys])
  const failed = [tests, quotes].find((query) => query.error)
  if (isChosen && !(tests.data && quotes.data)) {
    return failed ? <Failed error={failed.error} retry={failed.refetch} /> : <Loading what="the tests" />
  }
  if ('missing' in open) {
    return (
      <section className="sheet">
        <Warning>{open.missing}</Warning>
        <Button variant="plain" onClick={() => setChoosing(true)}>
          Compare something else
        </Button>
        {choice}
      </section>
    )
  }
  return (
    <>
      {failed && <Failed error={failed.error} retry={failed.refetch} />}
      <Compared
        key={`${body.itemId} ${body.cutSheetId} ${body.outputKey}`}
        open={open}
        other={other}
        body={body}
        kept={kept}
        onChange={onChange}
        shares={shares}
        year={year}
        onChoose={() => setChoosing(true)}
      />
      {choice}
    </>
  )
}

interface ComparedProps {
  open: OpenPortion
  other: OpenPortion | undefined
  body: ComparisonBody
  kept: Comparison | undefined
  onChange: ChangeBody
  shares: readonly number[] | undefined
  year: { low: number; high: number } | undefined
  onChoose: () => void
}

/** The answer and, below it, everything that can be tried out. */
function Compared({ open, other, body, kept, onChange, shares, year, onChoose }: ComparedProps) {
  const { portionCase, quotes } = open
  const base = useMemo(() => ({ ...portionCase.inputs, ...packsOf(open) }), [portionCase.inputs, open])
  const moved = useMemo(() => {
    const { yieldPct = base.yieldPct ?? 0 } = body.changed
    return { ...withSharesAlong(portionCase, { ...base, yieldPct }), yieldPct: base.yieldPct ?? 0 }
  }, [portionCase, base, body.changed])
  const yieldName = open.yieldKeys.length > 1 ? 'Yield of the mains that share the cost' : 'Yield of these portions'
  const groups = useMemo(() => groupsOf(portionCase, quotes, base, yieldName), [portionCase, quotes, base, yieldName])
  const change = useCallback((part: Partial<ComparisonBody>) => onChange((known) => ({ ...known, ...part })), [onChange])
  const changeInput = useCallback(
    (name: string, value: number | undefined) =>
      onChange((known) => {
        const { [name]: _before, ...others } = known.changed
        return { ...known, changed: value === undefined ? others : { ...others, [name]: value } }
      }),
    [onChange],
  )
  return (
    <>
      <div className="compare-bar">
        <CompareTabs />
        <div className="actions">
          <Button variant="plain" onClick={onChoose}>
            What is compared
          </Button>
          <KeepComparison body={body} kept={kept} suggestion={`${shortName(open.item.name)}, ${open.name.toLowerCase()}`} />
          <Button variant="plain" onClick={() => print()}>
            Print
          </Button>
        </div>
      </div>
      <Answer
        open={open}
        other={other}
        base={base}
        body={body}
        name={kept?.name}
        shares={shares}
        year={year}
        onChange={change}
        onInput={changeInput}
      />
      <TryOut open={open} base={moved} groups={groups} body={body} onChange={change} onInput={changeInput} />
    </>
  )
}

/** How the two sides come: in cases, boxes, or singly. */
function packsOf({ portionCase, quotes }: OpenPortion): Record<string, number> {
  return {
    makePerPack: portionCase.price.per === 'case' ? (portionCase.price.count ?? 1) : 1,
    makeMinimum: 0,
    buyPerPack: quotes[0]?.latestQuote?.price.count ?? 1,
    buyMinimum: 0,
    sidesCost: 0,
    menuPrice: 0,
    priceMovePct: 0,
  }
}
