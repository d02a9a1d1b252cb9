import { type Run, runFromPaper } from '@fleam/contract/runs'
import { gramsOf } from '@fleam/core/quantities/weight'
import { balanceOf } from '@fleam/core/runs/balance'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { cutSheetsQuery, itemsQuery, peopleQuery, runQuery, suppliersQuery, useHasRole, useKitchen, useSession } from '../../api/queries.ts'
import { DateField } from '../../ui/date-field.tsx'
import { momentAt, today } from '../../ui/days.ts'
import { numberOf, numberOrNull, SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { percentText, useUnits } from '../../ui/units.ts'
import { checkOf, WeightsQuestion, weightsOf } from './delivery-check.tsx'
import { PaperTable, type PaperWeights } from './paper-table.tsx'
import { useSheetFor } from './use-sheet-for.ts'
import { firstFields, usualOf } from './usual-delivery.ts'

/** A run that was written down on paper, entered all at once. */
export function Page() {
  const lists = [useQuery(itemsQuery), useQuery(cutSheetsQuery), useQuery(suppliersQuery)] as const
  const [items, sheets, suppliers] = lists
  const failed = lists.find((list) => list.error && !list.data)
  if (failed) {
    return (
      <main className="page">
        <Failed error={failed.error} retry={failed.refetch} />
      </main>
    )
  }
  if (!items.data || !sheets.data || !suppliers.data) return <Loading what="items and cut sheets" />
  const animals = new Set(sheets.data.map((sheet) => sheet.body.animal))
  const whole = items.data.filter((item) => item.kind === 'whole' && animals.has(item.animal))
  return (
    <main className="page">
      {whole.length === 0 ? (
        <section className="sheet">
          <Empty isPage title="There is nothing to enter yet.">
            <p>
              A manager adds what the kitchen buys whole, with its price, under <Link to="/kitchen/prices">Kitchen, Prices</Link>.
            </p>
          </Empty>
        </section>
      ) : (
        <PaperForm whole={whole} sheets={sheets.data} suppliers={suppliers.data} />
      )}
    </main>
  )
}

type Lists = {
  whole: Awaited<ReturnType<NonNullable<typeof itemsQuery.queryFn>>>
  sheets: Awaited<ReturnType<NonNullable<typeof cutSheetsQuery.queryFn>>>
  suppliers: Awaited<ReturnType<NonNullable<typeof suppliersQuery.queryFn>>>
}

function PaperForm({ whole, sheets, suppliers }: Lists) {
  const { withUnit, read, weight } = useUnits()
  const { limits } = useKitchen().settings
  const { person } = useSession()
  const isLead = useHasRole('lead')
  const people = useQuery({ ...peopleQuery, enabled: isLead }).data ?? []
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [weighingIds] = useState(() => new Map<string, string>())
  const start = useMemo(() => {
    const { id, itemId, cutSheetId, supplierId, target } = firstFields(whole, suppliers)
    return { id, itemId, cutSheetId, supplierId, target }
  }, [whole, suppliers])
  const { submit, field, form, refusalOf, message, busy } = useRequestForm({
    start: {
      ...start,
      ...{ cookId: person.id, day: today(-1), hour: '09:00', lot: '', billed: '', received: '', pieces: '1', coreTempC: '' },
      ...{ minutes: '', consumables: '0', unaccountedReason: '', weightsChecked: '', note: '', weights: {} as PaperWeights },
    },
    schema: runFromPaper,
    keepAs: 'paper',
    toRequest: (fields): object => ({
      id: fields.id,
      itemId: fields.itemId,
      cutSheetId: sheetOf(fields.cutSheetId)?.id ?? '',
      supplierId: fields.supplierId || null,
      ...(fields.cookId === person.id ? {} : { cookId: fields.cookId }),
      lot: fields.lot,
      billed: withUnit(fields.billed),
      received: withUnit(fields.received),
      pieces: numberOf(fields.pieces),
      coreTempC: numberOrNull(fields.coreTempC),
      temperature: isWarm(fields.coreTempC) ? { decision: 'accept', note: fields.note } : null,
      target: fields.target.trim() === '' ? null : withUnit(fields.target),
      weightsChecked: fields.weightsChecked === weightsOf(fields),
      startedAt: momentAt(fields.day, fields.hour),
      weighings: cellsOf(fields.weights).map(({ place, outputKey, text }) => ({ id: idOf(place), outputKey, weight: withUnit(text) })),
      minutes: numberOf(fields.minutes),
      consumables: numberOf(fields.consumables),
      unaccountedReason: isOver(fields) ? fields.unaccountedReason : '',
    }),
    send: (request) => send<Run>('POST', '/runs/from-paper', request),
  })
  const fields = form.watch()
  const item = whole.find((other) => other.id === fields.itemId)
  const { fitting, sheetOf } = useSheetFor(item, sheets)
  const sheet = sheetOf(fields.cutSheetId)
  const outputs = sheet?.body.outputs ?? []
  const asked = outputs.find((output) => output.portion?.askedAtReceiving)

  function isWarm(text: string): boolean {
    const celsius = numberOrNull(text)
    return celsius !== null && celsius > limits.receiveMaxC
  }
  /** What was typed, by output and place. */
  function cellsOf(weights: PaperWeights) {
    const keys = new Set(outputs.map(({ key }) => key))
    return Object.entries(weights)
      .filter(([key]) => keys.has(key))
      .flatMap(([outputKey, texts]) =>
        texts.flatMap((text, index) => (text.trim() === '' ? [] : [{ outputKey, text, place: `${outputKey} ${index}` }])),
      )
  }
  function idOf(place: string): string {
    const id = weighingIds.get(place) ?? newId()
    weighingIds.set(place, id)
    return id
  }
  function balance({ received, weights }: { received: string; weights: PaperWeights }) {
    const scale = received.trim() === '' ? undefined : read(received)
    if (!scale?.ok) return undefined
    const cells = cellsOf(weights).map(({ text }) => read(text))
    const tenths = cells.reduce((sum, cell) => sum + (cell.ok ? cell.tenths : 0), 0)
    return balanceOf(gramsOf(scale.tenths), tenths, cells.length, limits.unaccountedPct)
  }
  const isOver = (typed: { received: string; weights: PaperWeights }) => balance(typed)?.state === 'over-limit'
  const standing = balance(fields)

  function chooseItem(next: string) {
    field('itemId').onChange(next)
    const usual = usualOf(next, whole, suppliers)
    for (const key of ['cutSheetId', 'supplierId', 'target'] as const) field(key).onChange(usual[key])
    field('weights').onChange({})
  }

  async function enter(event: React.FormEvent) {
    event.preventDefault()
    const run = await submit()
    if (!run) return
    queryClient.setQueryData(runQuery(run.id).queryKey, run)
    for (const key of ['runs', 'yield-book', 'lots']) void queryClient.invalidateQueries({ queryKey: [key] })
    navigate(`/runs/${run.id}`)
  }

  const unread = message && !refusalOf('weightsChecked') && !refusalOf('weighings')
  return (
    <Form className="sheet stack" onSubmit={enter}>
      <h1>Enter a run from paper</h1>
      <p className="under-title">All of it at once: what came, every weight as it stands on the paper, and how long it took.</p>
      <div className="fields">
        <SelectField
          label="What came"
          {...field('itemId')}
          onChange={chooseItem}
          options={whole.map((entry) => ({ value: entry.id, label: entry.name }))}
        />
        <SelectField
          label="Cut sheet"
          {...field('cutSheetId')}
          value={sheet?.id ?? ''}
          options={fitting.map((entry) => ({ value: entry.id, label: entry.body.name }))}
        />
        <SelectField
          label="Supplier"
          {...field('supplierId')}
          options={[...suppliers.map((entry) => ({ value: entry.id, label: entry.name })), { value: '', label: 'not noted' }]}
        />
        {isLead && (
          <SelectField label="Who cut it" {...field('cookId')} options={people.map((one) => ({ value: one.id, label: one.name }))} />
        )}
        <DateField label="Day" {...field('day')} />
        <TextField
          label="Begun at, hour"
          {...field('hour')}
          placeholder="09:00"
          error={refusalOf('startedAt') && 'Write an hour such as 09:30.'}
        />
        <TextField label="Lot" {...field('lot')} autoComplete="off" />
        <WeightField label="Billed weight" {...field('billed')} />
        <WeightField label="Received weight" {...field('received')} />
        <TextField label="Pieces, how many" {...field('pieces')} inputMode="numeric" />
        <TextField label="Core temperature, °C" {...field('coreTempC')} inputMode="decimal" hint={`house limit ${limits.receiveMaxC} °C`} />
        {asked && <WeightField label={`Target weight, ${asked.name.toLowerCase()}`} {...field('target')} />}
      </div>
      {isWarm(fields.coreTempC) && (
        <TextField
          label="It was too warm: why it was taken in, and what was done"
          {...field('note')}
          error={refusalOf('temperature.note')}
        />
      )}
      <WeightsQuestion {...checkOf(field('weightsChecked'), weightsOf(fields))} />
      <PaperTable outputs={outputs} value={fields.weights} onChange={field('weights').onChange} />
      {refusalOf('weighings') && <Warning>{refusalOf('weighings')}</Warning>}
      {standing && cellsOf(fields.weights).length > 0 && (
        <Word isGood={standing.state !== 'over-limit' && standing.state !== 'more-than-received'}>
          {standing.state === 'more-than-received'
            ? `${weight(Math.round(-standing.unaccountedGrams * 10))} more came off than went on: a weight is wrong.`
            : `${weight(Math.round(standing.unaccountedGrams * 10))} unaccounted for, ${percentText(standing.unaccountedPct)}.`}
        </Word>
      )}
      {isOver(fields) && <TextField label="Where it went" {...field('unaccountedReason')} />}
      <div className="fields">
        <TextField label="Knife time, minutes" {...field('minutes')} inputMode="decimal" />
        <TextField label="Wrap, twine and the like" {...field('consumables')} inputMode="decimal" />
      </div>
      {unread && <Warning>{message}</Warning>}
      <div className="actions">
        <Button type="submit" variant="act" className="btn-large" disabled={busy}>
          Enter the run
        </Button>
      </div>
    </Form>
  )
}
