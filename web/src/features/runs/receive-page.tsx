import { type Run, runCreate } from '@fleam/contract/runs'
import type { Lot } from '@fleam/contract/walk-in'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { get, send } from '../../api/http.ts'
import { cutSheetsQuery, itemsQuery, quotesQuery, runQuery, suppliersQuery, useHasRole, useKitchen } from '../../api/queries.ts'
import { outbox } from '../../outbox/tablet-outbox.ts'
import { dayText } from '../../ui/days.ts'
import { Choice, numberOf, numberOrNull, SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { useUnits } from '../../ui/units.ts'
import { heldPictures, letGoOfHeld } from '../pictures/held.ts'
import { Pictures } from '../pictures/pictures.tsx'
import { SupplierForm } from '../prices/supplier-form.tsx'
import { TakeScale } from '../scales/take-scale.tsx'
import { checkOf, DeliveryCheck, WarmDecision, WeightsQuestion, WhatToExpect, weightsOf } from './delivery-check.tsx'
import { FishFields, fishCheckOf } from './fish-fields.tsx'
import { LookFields, lookOf, nothingLooked } from './look-fields.tsx'
import { useSheetFor } from './use-sheet-for.ts'
import { firstFields, remember, usualOf } from './usual-delivery.ts'

/** Weigh in a delivery and start its run. */
export function Page() {
  const items = useQuery(itemsQuery)
  const sheets = useQuery(cutSheetsQuery)
  const suppliers = useQuery(suppliersQuery)
  const lotId = useSearchParams()[0].get('lot') ?? ''
  const lot = useQuery({ queryKey: ['lot', lotId], queryFn: () => get<Lot>(`/lots/${lotId}`), enabled: lotId !== '' })
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
          <Empty isPage title="There is nothing to receive yet.">
            <p>
              A manager adds what the kitchen buys whole, with its price, under <Link to="/kitchen/prices">Kitchen, Prices</Link>.
            </p>
          </Empty>
        </section>
      </main>
    )
  }
  if (lotId !== '' && lot.isPending) return <Loading what="the lot" />
  return (
    <ReceiveForm key={lotId} whole={whole} sheets={sheets.data} suppliers={suppliers.data} lot={lot.data?.whole ? lot.data : undefined} />
  )
}

type Lists = {
  whole: Awaited<ReturnType<NonNullable<typeof itemsQuery.queryFn>>>
  sheets: Awaited<ReturnType<NonNullable<typeof cutSheetsQuery.queryFn>>>
  suppliers: Awaited<ReturnType<NonNullable<typeof suppliersQuery.queryFn>>>
}

/** What lay there whole, as it came and as it weighs now. */
function fieldsOfLot({ whole, leftTenths, supplierLot }: Lot, weight: (tenths: number) => string) {
  const { itemId = '', supplierId, billedTenths = leftTenths, pieces = 1 } = whole ?? {}
  return {
    itemId,
    supplierId: supplierId ?? '',
    lot: supplierLot,
    billed: weight(billedTenths),
    received: weight(leftTenths),
    pieces: String(pieces),
  }
}

function ReceiveForm({ whole, sheets, suppliers, lot }: Lists & { lot: Lot | undefined }) {
  const { withUnit, weight, price, defaultUnit } = useUnits()
  const { limits } = useKitchen().settings
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const isManager = useHasRole('manager')
  const [isAdding, setAdding] = useState(false)
  const { submit, field, form, refusalOf, message, busy } = useRequestForm({
    start: { ...firstFields(whole, suppliers), ...(lot ? fieldsOfLot(lot, weight) : {}) },
    schema: runCreate,
    keepAs: lot ? undefined : 'receive',
    toRequest: (fields): object => {
      const sheet = sheetOf(fields.cutSheetId)
      return {
        id: fields.id,
        itemId: fields.itemId,
        cutSheetId: sheet?.id ?? '',
        supplierId: fields.supplierId || null,
        lot: fields.lot,
        billed: withUnit(fields.billed),
        received: withUnit(fields.received),
        pieces: numberOf(fields.pieces),
        coreTempC: numberOrNull(fields.coreTempC),
        temperature: isRefused(fields)
          ? { ...fields.temperature, decision: 'turn-away' }
          : tooWarm && fields.temperature.decision !== ''
            ? fields.temperature
            : null,
        weightsChecked: fields.weightsChecked === weightsOf(fields),
        target: asked && fields.target.trim() !== '' ? withUnit(fields.target) : null,
        byPiece: fields.weighed === 'by-piece',
        fish: kinds ? fishCheckOf(fields.fish, kinds) : null,
        deliveryCheck: item ? lookOf(fields.look, item.animal, withUnit) : null,
        fromLotId: lot?.id ?? null,
        startedAt: new Date().toISOString(),
      }
    },
    send: (request) => send<Run>('POST', '/runs', request),
  })
  const { itemId, cutSheetId, supplierId, billed, received, pieces, coreTempC, temperature, refused, id, look } = form.watch()
  useEffect(() => void outbox.opened.then(() => letGoOfHeld(id)), [id])
  const weights = weightsOf({ itemId, billed, received, pieces })
  const checked = checkOf(field('weightsChecked'), weights)
  const item = whole.find((other) => other.id === itemId)
  const { fitting, sheetOf } = useSheetFor(item, sheets)
  const sheet = sheetOf(cutSheetId)
  const kinds = sheet?.body.fishKinds
  const asked = sheet?.body.outputs.find((output) => output.portion?.askedAtReceiving)
  const quotes = useQuery({ ...quotesQuery(itemId), enabled: itemId !== '' })
  const quote = quotes.data?.find((other) => other.supplier?.id === supplierId) ?? quotes.data?.[0]
  const celsius = numberOrNull(coreTempC)
  const tooWarm = celsius !== null && celsius > limits.receiveMaxC
  const isRefused = ({ refused }: { refused: string }) => !tooWarm && refused !== ''
  const isTurnedAway = isRefused({ refused }) || (tooWarm && temperature.decision === 'turn-away')

  function chooseItem(next: string) {
    field('itemId').onChange(next)
    const usual = usualOf(next, whole, suppliers)
    for (const key of ['cutSheetId', 'supplierId', 'target'] as const) field(key).onChange(usual[key])
    field('look').onChange(nothingLooked)
  }

  async function start(event: React.FormEvent) {
    event.preventDefault()
    const run = await submit()
    if (!run) return
    remember(itemId, { cutSheetId: sheet?.id ?? '', supplierId, target: form.getValues('target') })
    queryClient.setQueryData(runQuery(run.id).queryKey, run)
    for (const picture of heldPictures(run.id)) void outbox.release(picture.id)
    void queryClient.invalidateQueries({ queryKey: ['runs'] })
    navigate(run.status === 'open' ? `/bench/${run.id}` : `/runs/${run.id}`)
  }

  return (
    <main className="page receive">
      <Form className="sheet" onSubmit={start}>
        <h1>{lot ? `Cut lot ${lot.number}` : 'Receive and weigh in'}</h1>
        {!lot && (
          <p className="under-title">
            <Link to="/receive/boxes">Scan boxes</Link> where they carry a GS1 code, or{' '}
            <Link to="/receive/paper">enter a run from paper</Link>.
          </p>
        )}
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
          <TextField label="Pieces, how many" {...field('pieces')} inputMode="numeric" hint="birds, fish, loins or racks in this run" />
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
        <TakeScale onTake={field('received').onChange} />
        {item && sheet && <WhatToExpect itemId={item.id} sheet={sheet} pieces={Number(pieces) || 1} />}
        {Number(pieces) > 1 && (
          <Choice
            label="Weighed"
            {...field('weighed')}
            options={[
              { value: 'pooled', label: 'All together' },
              { value: 'by-piece', label: 'Piece by piece, where each one’s yield matters' },
            ]}
          />
        )}
        {kinds && (
          <FishFields
            kinds={kinds}
            {...field('fish')}
            received={received}
            pieces={Number(pieces) || 1}
            error={refusalOf('fish.lengthCm')}
          />
        )}
        {item && !lot && (
          <LookFields key={item.animal} animal={item.animal} {...field('look')} refusalOf={refusalOf} isTurnedAway={isTurnedAway} />
        )}
        <Pictures runId={id} about="delivery" of="the delivery" isHeld />
        <DeliveryCheck
          sentBack={look.outcome === 'in-part' ? look.refused : ''}
          billed={billed}
          received={received}
          price={quote?.price}
          limitPct={limits.shortDeliveryPct}
        />
        {tooWarm && (
          <WarmDecision
            celsius={celsius}
            limitC={limits.receiveMaxC}
            decision={{ ...field('temperature.decision'), error: refusalOf('temperature') }}
            note={field('temperature.note')}
          />
        )}
        <WeightsQuestion {...checked} />
        {message && !refusalOf('weightsChecked') && <Warning>{message}</Warning>}
        {isRefused({ refused }) && (
          <div className="receive-actions">
            <TextField label="Why it is turned away" {...field('temperature.note')} />
          </div>
        )}
        <div className="actions receive-actions">
          <Button type="submit" variant="act" className="btn-large" disabled={busy}>
            {isTurnedAway ? 'Turn it away' : 'To the bench'}
          </Button>
          {!tooWarm && (
            <Button variant="plain" onClick={() => field('refused').onChange(refused === '' ? 'yes' : '')}>
              {refused === '' ? 'Not taken in …' : 'It is taken in after all'}
            </Button>
          )}
          {isManager && (
            <Button variant="plain" onClick={() => setAdding(true)}>
              Add a supplier
            </Button>
          )}
        </div>
      </Form>
      {isAdding && (
        <SupplierForm supplier={undefined} onClose={() => setAdding(false)} onKept={(added) => field('supplierId').onChange(added.id)} />
      )}
    </main>
  )
}
