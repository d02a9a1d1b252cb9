import type { CutSheet } from '@fleam/contract/cut-sheets'
import { type Run, type RunSummary, runCreate, type temperatureDecision } from '@fleam/contract/runs'
import type { Price } from '@fleam/core/quantities/price'
import { expectCut } from '@fleam/core/yield-book/expected-cut'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate } from 'react-router'
import type * as z from 'zod'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { cutSheetsQuery, itemsQuery, quotesQuery, runQuery, suppliersQuery, useKitchen, yieldBookQuery } from '../../api/queries.ts'
import { Choice, numberOf, numberOrNull, SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Caution, Empty, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { useSubmission } from '../../ui/submission.ts'
import { dayText, percentText, useUnits } from '../../ui/units.ts'
import { type FishEntry, FishFields } from './fish-fields.tsx'

type Decision = z.infer<typeof temperatureDecision>
const remembered = 'fleam.receive'

/** Weigh in a delivery and start its run. */
export function Page() {
  const items = useQuery(itemsQuery)
  const sheets = useQuery(cutSheetsQuery)
  const suppliers = useQuery(suppliersQuery)
  const trouble = items.error ?? sheets.error ?? suppliers.error
  if (trouble) {
    return (
      <main className="page">
        <Failed error={trouble} retry={() => Promise.all([items.refetch(), sheets.refetch(), suppliers.refetch()])} />
      </main>
    )
  }
  if (!items.data || !sheets.data || !suppliers.data) return <Loading what="prices and cut sheets" />
  const animals = new Set(sheets.data.map((sheet) => sheet.body.animal))
  const whole = items.data.filter((item) => item.kind === 'whole' && animals.has(item.animal))
  if (whole.length === 0) {
    return (
      <main className="page">
        <section className="sheet">
          <Empty title="There is nothing to receive yet.">
            <p>A manager adds what the kitchen buys whole, with its price, under Kitchen, Prices.</p>
          </Empty>
        </section>
      </main>
    )
  }
  return <ReceiveForm whole={whole} sheets={sheets.data} suppliers={suppliers.data} />
}

type Lists = {
  whole: Awaited<ReturnType<NonNullable<typeof itemsQuery.queryFn>>>
  sheets: Awaited<ReturnType<NonNullable<typeof cutSheetsQuery.queryFn>>>
  suppliers: Awaited<ReturnType<NonNullable<typeof suppliersQuery.queryFn>>>
}

function ReceiveForm({ whole, sheets, suppliers }: Lists) {
  const { withUnit, weight, price, defaultUnit } = useUnits()
  const { limits } = useKitchen().settings
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const [fields, setFields] = useState(() => firstFields(whole, suppliers))
  const [decision, setDecision] = useState<Decision | ''>('')
  const [note, setNote] = useState('')
  const [byItem, setByItem] = useState<'pooled' | 'by-item'>('pooled')
  const [fish, setFish] = useState<FishEntry>({ species: '', length: '', condition: '' })
  const { submit, errors, message, busy } = useSubmission(runCreate, (request: object) => send<Run>('POST', '/runs', request))
  const item = whole.find((other) => other.id === fields.itemId)
  const fitting = sheets.filter((sheet) => !sheet.retired && sheet.body.animal === item?.animal)
  const lastRun = useQuery({
    queryKey: ['runs', 'last', fields.itemId],
    queryFn: () => get<{ entries: RunSummary[] }>(`/runs?limit=1&itemId=${fields.itemId}`),
    enabled: fields.itemId !== '',
  }).data?.entries[0]
  const sheet =
    fitting.find((other) => other.id === fields.cutSheetId) ?? fitting.find((other) => other.id === lastRun?.cutSheet.id) ?? fitting[0]
  const kinds = sheet?.body.fishKinds
  const asked = sheet?.body.outputs.find((output) => output.portion?.askedAtReceiving)
  const quotes = useQuery({ ...quotesQuery(fields.itemId), enabled: fields.itemId !== '' })
  const quote = quotes.data?.find((other) => other.supplier?.id === fields.supplierId) ?? quotes.data?.[0]
  const temperature = numberOrNull(fields.coreTempC)
  const tooWarm = temperature !== null && temperature > limits.receiveMaxC
  const field = (key: keyof typeof fields) => ({
    value: fields[key],
    onChange: (value: string) => setFields({ ...fields, [key]: value }),
    error: errors[key],
  })

  async function start(event: React.FormEvent) {
    event.preventDefault()
    const run = await submit({
      id,
      itemId: fields.itemId,
      cutSheetId: sheet?.id ?? '',
      supplierId: fields.supplierId || null,
      lot: fields.lot,
      billed: withUnit(fields.billed),
      received: withUnit(fields.received),
      pieces: numberOf(fields.pieces),
      coreTempC: temperature,
      temperature: tooWarm && decision !== '' ? { decision, note } : null,
      target: asked && fields.target.trim() !== '' ? withUnit(fields.target) : null,
      byItem: byItem === 'by-item',
      fish: kinds
        ? {
            species: fish.species || (kinds[0]?.name ?? ''),
            lengthCm: numberOrNull(fish.length),
            condition: fish.condition === '' ? null : fish.condition,
          }
        : null,
      startedAt: new Date().toISOString(),
    })
    if (!run) return
    localStorage.setItem(
      remembered,
      JSON.stringify({ itemId: fields.itemId, cutSheetId: sheet?.id, supplierId: fields.supplierId, target: fields.target }),
    )
    queryClient.setQueryData(runQuery(run.id).queryKey, run)
    void queryClient.invalidateQueries({ queryKey: ['runs'] })
    navigate(run.status === 'open' ? `/bench/${run.id}` : `/runs/${run.id}`)
  }

  return (
    <main className="page receive">
      <Form className="sheet" onSubmit={start}>
        <h1>Receive and weigh in</h1>
        <div className="fields">
          <SelectField label="What came" {...field('itemId')} options={whole.map((entry) => ({ value: entry.id, label: entry.name }))} />
          <SelectField
            label="Cut sheet"
            {...field('cutSheetId')}
            value={sheet?.id ?? ''}
            options={fitting.map((entry) => ({ value: entry.id, label: entry.body.name }))}
            hint={sheet?.body.school}
          />
          <SelectField
            label="Supplier"
            {...field('supplierId')}
            options={[...suppliers.map((entry) => ({ value: entry.id, label: entry.name })), { value: '', label: 'not noted' }]}
            hint={
              quote
                ? `${price(quote.price)}, quoted ${dayText(quote.quotedOn)}${quote.supplier ? ` by ${quote.supplier.name}` : ''}`
                : quotes.data
                  ? 'No price yet'
                  : undefined
            }
          />
          <TextField label="Lot" {...field('lot')} autoComplete="off" hint="as on the label; may stay empty" />
          <WeightField label="Billed weight, from the invoice" {...field('billed')} />
          <WeightField label="Received weight, on your scale" {...field('received')} />
          <TextField label="Items, how many" {...field('pieces')} inputMode="numeric" hint="birds, fish, loins or racks in this run" />
          <TextField
            label="Core temperature, °C"
            {...field('coreTempC')}
            inputMode="decimal"
            hint={`house limit ${limits.receiveMaxC} °C; local food code comes first`}
          />
          {asked && (
            <WeightField
              label={`Target weight, ${asked.name.toLowerCase()}`}
              {...field('target')}
              placeholder={`${asked.portion?.targetGrams ?? ''} g`}
              hint={`the sheet says ${weight((asked.portion?.targetGrams ?? 0) * 10)}; a bare number is ${defaultUnit}`}
            />
          )}
        </div>
        {item && sheet && <WhatToExpect itemId={item.id} sheet={sheet} pieces={Number(fields.pieces) || 1} />}
        {Number(fields.pieces) > 1 && (
          <Choice
            label="Weighed"
            value={byItem}
            onChange={setByItem}
            options={[
              { value: 'pooled', label: 'All together' },
              { value: 'by-item', label: 'Item by item, where each one’s yield matters' },
            ]}
          />
        )}
        {kinds && (
          <FishFields
            kinds={kinds}
            fields={fish}
            onChange={setFish}
            received={fields.received}
            pieces={Number(fields.pieces) || 1}
            error={errors['fish.lengthCm']}
          />
        )}
        <DeliveryCheck billed={fields.billed} received={fields.received} price={quote?.price} limitPct={limits.shortDeliveryPct} />
        {tooWarm && (
          <fieldset className="decision">
            <legend>
              {temperature} °C is over the house limit of {limits.receiveMaxC} °C. What is done with it?
            </legend>
            {decisions.map((option) => (
              <label key={option.value} className={decision === option.value ? 'chosen' : ''}>
                <input type="radio" name="decision" checked={decision === option.value} onChange={() => setDecision(option.value)} />
                {option.label}
              </label>
            ))}
            <TextField
              label="Why, and what was done"
              value={note}
              onChange={setNote}
              error={errors['temperature.note'] ?? errors.temperature}
            />
            <Caution>Warm product may not be safe whatever is done later. Local food code decides; when in doubt, turn it away.</Caution>
          </fieldset>
        )}
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" className="btn-large" disabled={busy}>
          {decision === 'turn-away' && tooWarm ? 'Turn it away' : 'To the bench'}
        </Button>
      </Form>
    </main>
  )
}

const decisions: readonly { value: Decision; label: string }[] = [
  { value: 'turn-away', label: 'Turned away' },
  { value: 'use-at-once', label: 'Taken in, chilled and cut at once' },
  { value: 'accept', label: 'Taken in' },
]

/** What the yield book leads one to expect of the run, once there are tests. */
function WhatToExpect({ itemId, sheet, pieces }: { itemId: string; sheet: CutSheet; pieces: number }) {
  const { settings } = useKitchen()
  const book = useQuery(yieldBookQuery)
  const tested = book.data?.find((entry) => entry.itemId === itemId && entry.cutSheetId === sheet.id)
  if (!tested) return null
  const { mains, minutesPerItem, tests } = expectCut(sheet.body, tested, pieces, settings.cutting.priorTests)
  return (
    <Word>
      To expect, from {tests} {tests === 1 ? 'test' : 'tests'}: <b>{percentText(mains.mean)}</b> on plates, nine of ten between{' '}
      {percentText(mains.low)} and {percentText(Math.min(100, mains.high))}; <b>{Math.round(minutesPerItem.mean * pieces)} min</b> of knife
      time.
    </Word>
  )
}

/** Says at once what a delivery is short or long, in weight and money. */
function DeliveryCheck({
  billed,
  received,
  price,
  limitPct,
}: {
  billed: string
  received: string
  price: Price | undefined
  limitPct: number
}) {
  const { read, weight, money } = useUnits()
  const bill = billed.trim() === '' ? undefined : read(billed)
  const scale = received.trim() === '' ? undefined : read(received)
  if (!bill?.ok || !scale?.ok) return null
  const short = bill.tenths - scale.tenths
  if (short === 0) return <Word isGood>Billed and received agree.</Word>
  const pct = (short / bill.tenths) * 100
  const perGram = price?.per === 'kg' ? price.amount / 1000 : price?.per === 'lb' ? price.amount / 453.59237 : undefined
  const worth = perGram === undefined ? '' : `, ${money((Math.abs(short) / 10) * perGram)} on the invoice`
  if (short < 0) return <Word isGood>{weight(-short)} more came than was billed.</Word>
  const sentence = `${weight(short)} short (${percentText(pct)})${worth}.`
  return pct > limitPct ? (
    <Warning>
      Short delivery: {sentence} Over the house limit of {percentText(limitPct)}: tell the supplier.
    </Warning>
  ) : (
    <Word isGood>{sentence}</Word>
  )
}

function firstFields(whole: Lists['whole'], suppliers: Lists['suppliers']) {
  const last = readRemembered()
  const item = whole.find((entry) => entry.id === last.itemId) ?? whole[0]
  const supplier =
    suppliers.find((entry) => entry.id === last.supplierId) ?? suppliers.find((entry) => entry.id === item?.latestQuote?.supplier?.id)
  return {
    itemId: item?.id ?? '',
    cutSheetId: item?.id === last.itemId ? (last.cutSheetId ?? '') : '',
    supplierId: supplier?.id ?? '',
    lot: '',
    billed: '',
    received: '',
    pieces: '1',
    coreTempC: '',
    target: last.target ?? '',
  }
}

function readRemembered(): { itemId?: string; cutSheetId?: string; supplierId?: string; target?: string } {
  try {
    return JSON.parse(localStorage.getItem(remembered) ?? '{}')
  } catch {
    return {}
  }
}
