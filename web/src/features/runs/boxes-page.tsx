import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { KitchenOrder } from '@fleam/contract/ordering'
import type { Item } from '@fleam/contract/prices'
import type { Run } from '@fleam/contract/runs'
import type { Lot } from '@fleam/contract/walk-in'
import { readBoxCode } from '@fleam/core/receiving/box-code'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useEffect, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useSearchParams } from 'react-router'
import { messageOf, ProblemFailure, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { boxItemsQuery, cutSheetsQuery, itemsQuery, lotsQuery, suppliersQuery, useKitchen } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { dayText } from '../../ui/days.ts'
import { CheckField, Choice, numberOrNull, SelectField, TextField } from '../../ui/fields.tsx'
import { Caution, Empty, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import { say } from '../../ui/toasts.ts'
import { useUnits } from '../../ui/units.ts'
import { OrderToReceive } from '../orders/order-to-receive.tsx'
import { useLatestReading } from '../scales/latest-reading.ts'
import { useScale } from '../scales/use-scale.ts'
import { sheetByName } from './usual-delivery.ts'

const ScanCode = lazy(() => import('../../ui/scan-code.tsx').then((module) => ({ default: module.ScanCode })))

/** A box that was scanned and is not on the books yet. */
interface Box {
  id: string
  gtin: string | null
  itemId: string
  billedTenths: number | null
  /** As typed; as billed where it is empty. */
  received: string
  pieces: string
  lot: string
  useBy: string | null
  bestBefore: string | null
  coreTempC: string
  action: string
  what: 'cut' | 'wait'
  cutSheetId: string
  /** What its code said that was odd. */
  odd: string[]
  refusal: string
  /** Weights that look wrong were looked at again and stand. */
  isChecked: boolean
}

const draft = 'fleam.boxes'

function readBoxes(): Box[] {
  try {
    return JSON.parse(sessionStorage.getItem(draft) ?? '[]') as Box[]
  } catch {
    return []
  }
}

/** Several boxes of one delivery: scanned one after the other, on the books with one press. */
export function Page() {
  const [items, sheets, suppliers, known] = [
    useQuery(itemsQuery),
    useQuery(cutSheetsQuery),
    useQuery(suppliersQuery),
    useQuery(boxItemsQuery),
  ]
  const failed = [items, sheets, suppliers, known].find(({ error, data }) => error && !data)
  if (failed)
    return (
      <main className="page">
        <Failed error={failed.error} retry={failed.refetch} />
      </main>
    )
  if (!items.data || !sheets.data || !suppliers.data || !known.data) return <Loading what="prices and cut sheets" />
  return (
    <Boxes
      whole={items.data.filter(({ kind }) => kind === 'whole')}
      sheets={sheets.data.filter(({ retired }) => !retired)}
      suppliers={suppliers.data}
      known={known.data}
    />
  )
}

interface BoxesProps {
  whole: Item[]
  sheets: CutSheet[]
  suppliers: { id: string; name: string }[]
  known: { gtin: string; supplierId: string | null; itemId: string }[]
}

function Boxes({ whole, sheets, suppliers, known }: BoxesProps) {
  const units = useUnits()
  const queryClient = useQueryClient()
  const orderId = useSearchParams()[0].get('order') ?? ''
  const { limits, walkIn } = useKitchen().settings
  const [supplierId, setSupplierId] = useRemembered('boxes-supplier', suppliers[0]?.id ?? '')
  const [place, setPlace] = useRemembered('boxes-place', walkIn.places[0] ?? '')
  // scanned and not on the books yet: kept through a reload
  const [boxes, setBoxes] = useState(readBoxes)
  useEffect(() => sessionStorage.setItem(draft, JSON.stringify(boxes)), [boxes])
  const [code, setCode] = useState('')
  const [trouble, setTrouble] = useState<string>()
  const [isScanning, setScanning] = useState(false)
  const [isSending, setSending] = useState(false)
  const scale = useScale(() => undefined)
  const reading = useLatestReading(scale.latest)
  const change = (id: string, part: Partial<Box>) =>
    setBoxes((all) => all.map((box) => (box.id === id ? { ...box, refusal: '', ...part } : box)))
  const sheetsFor = (itemId: string) => sheets.filter(({ body }) => body.animal === whole.find(({ id }) => id === itemId)?.animal)
  const sheetFor = (itemId: string) => sheetByName(whole.find(({ id }) => id === itemId)?.name ?? '', sheetsFor(itemId))?.id ?? ''

  function scan(text: string): string | undefined {
    setCode('')
    return take(text)
  }

  /** @param knownItemId which item it is, where somebody has said so */
  function take(text: string, knownItemId?: string): string | undefined {
    const box = readBoxCode(text)
    const refusal = box ? undefined : 'That is no GS1 code: scan the one with the item number and the weight, or receive it by hand.'
    setTrouble(refusal)
    if (!box) return refusal
    const itemId =
      knownItemId ??
      known.find(({ gtin, supplierId: whose }) => gtin === box.gtin && (whose ?? '') === supplierId)?.itemId ??
      boxes.find(({ gtin }) => gtin !== null && gtin === box.gtin)?.itemId ??
      ''
    const odd = [...box.troubles, ...box.others.map(({ title, text: words }) => `Also read: ${title} ${words}`)]
    const fresh: Box = {
      ...{ id: newId(), gtin: box.gtin, itemId, billedTenths: box.tenths, odd, lot: box.lot, useBy: box.useBy, bestBefore: box.bestBefore },
      ...{
        received: '',
        pieces: String(box.count ?? 1),
        coreTempC: boxes.at(-1)?.coreTempC ?? '',
        action: '',
        what: boxes.at(-1)?.what ?? 'wait',
      },
      ...{ cutSheetId: itemId === '' ? '' : sheetFor(itemId), refusal: '', isChecked: false },
    }
    setBoxes((all) => [...all, fresh])
    return undefined
  }

  /** The boxes of a delivery note, as if each had been scanned. */
  function takeNote({ lines }: NonNullable<KitchenOrder['note']>, whose: string) {
    setSupplierId(whose)
    for (const { article, boxes: sent } of lines) {
      const item = whole.find(({ name }) => name.toLowerCase() === article.toLowerCase())
      for (const { code: text } of sent) take(text, item?.id)
    }
  }

  /** The same number stands for the same item from now on. */
  function chooseItem(box: Box, itemId: string) {
    setBoxes((all) =>
      all.map((one) =>
        one.id === box.id || (box.gtin !== null && one.gtin === box.gtin && one.itemId === '')
          ? { ...one, itemId, cutSheetId: sheetFor(itemId), refusal: '' }
          : one,
      ),
    )
    if (box.gtin === null) return
    void send('PUT', '/box-items', { gtin: box.gtin, supplierId: supplierId || null, itemId }).then(
      () => queryClient.invalidateQueries({ queryKey: boxItemsQuery.queryKey }),
      (error) => say(`The number is not remembered: ${messageOf(error)}`),
    )
  }

  async function book() {
    if (isSending) return
    setSending(true)
    let done = 0
    for (const box of boxes) {
      const refusal = await bookOne(box).catch((error: unknown) => messageOf(error))
      if (refusal === undefined) {
        done += 1
        setBoxes((all) => all.filter(({ id }) => id !== box.id))
      } else setBoxes((all) => all.map((one) => (one.id === box.id ? { ...one, refusal } : one)))
    }
    setSending(false)
    await Promise.all([lotsQuery.queryKey, ['runs']].map((queryKey) => queryClient.invalidateQueries({ queryKey })))
    if (done > 0) say(`${counted(done, 'box', 'boxes')} on the books.`)
  }

  /** @returns why it is not on the books */
  async function bookOne(box: Box): Promise<string | undefined> {
    const { id, itemId, lot, billedTenths, cutSheetId, isChecked, action } = box
    const typed = box.received.trim() === '' ? undefined : units.read(box.received)
    if (itemId === '') return 'Say which item it is.'
    if (typed && !typed.ok) return typed.message
    const tenths = typed?.ok ? typed.tenths : billedTenths
    if (!tenths) return 'Its code says no weight: weigh it.'
    const pieces = numberOrNull(box.pieces) ?? 1
    const coreTempC = numberOrNull(box.coreTempC)
    const billed = billedTenths ?? tenths
    const at = new Date().toISOString()
    try {
      if (box.what === 'wait')
        await send<Lot>('POST', '/lots', {
          ...{ id, itemId, tenths, pieces, coreTempC, action, place, at },
          ...{ supplierId: supplierId || null, billedTenths: billed, supplierLot: lot, useBy: box.useBy, bestBefore: box.bestBefore },
        })
      else
        await send<Run>('POST', '/runs', {
          ...{ id, itemId, cutSheetId, lot, pieces, coreTempC, supplierId: supplierId || null },
          billed: `${billed / 10} g`,
          received: `${tenths / 10} g`,
          temperature: coreTempC !== null && coreTempC > limits.receiveMaxC ? { decision: 'accept', note: action } : null,
          weightsChecked: isChecked,
          startedAt: at,
        })
      return undefined
    } catch (error) {
      return error instanceof ProblemFailure ? (error.problem.errors?.[0]?.message ?? error.message) : messageOf(error)
    }
  }

  return (
    <main className="page receive">
      <section className="sheet stack">
        <h1>Receive boxes</h1>
        {orderId !== '' && <OrderToReceive orderId={orderId} onTake={takeNote} />}
        <div className="fields">
          <SelectField
            label="Supplier"
            value={supplierId}
            onChange={setSupplierId}
            options={[...suppliers.map(({ id, name }) => ({ value: id, label: name })), { value: '', label: 'not noted' }]}
          />
          <TextField
            label="Scan a box"
            value={code}
            onChange={setCode}
            onEnter={() => void scan(code)}
            error={trouble}
            autoFocus
            autoComplete="off"
            hint="the GS1 code on it; a scanner that types ends with Enter"
          />
          <SelectField
            label="What waits lies in"
            value={place}
            onChange={setPlace}
            options={walkIn.places.map((one) => ({ value: one, label: one }))}
          />
        </div>
        <div className="actions">
          <Button variant="plain" onClick={() => setScanning(true)}>
            By the camera
          </Button>
          <Link className="btn btn-plain" to="/receive">
            By hand
          </Link>
        </div>
        <Caution>House limit {limits.receiveMaxC} °C at the core; local food code comes first.</Caution>
      </section>
      {boxes.length === 0 && (
        <section className="sheet">
          <Empty title="No box scanned yet.">
            <p>Item, weight, lot, dates and count are read from the code. A number seen for the first time is matched to an item once.</p>
          </Empty>
        </section>
      )}
      {boxes.map((box, at) => (
        <BoxLine
          key={box.id}
          box={box}
          number={at + 1}
          whole={whole}
          sheets={sheetsFor(box.itemId)}
          limitC={limits.receiveMaxC}
          onItem={(itemId) => chooseItem(box, itemId)}
          onChange={(part) => change(box.id, part)}
          onDrop={() => setBoxes((all) => all.filter(({ id }) => id !== box.id))}
          scaleTenths={reading?.state === 'steady' && reading.tenths > 0 ? reading.tenths : undefined}
        />
      ))}
      {boxes.length > 0 && (
        <div className="actions">
          <Button variant="act" className="btn-large" disabled={isSending} onClick={() => void book()}>
            Put {counted(boxes.length, 'box', 'boxes')} on the books
          </Button>
        </div>
      )}
      {isScanning && (
        <Suspense>
          <ScanCode title="Hold the box’s code before the camera" of="box" onClose={() => setScanning(false)} onCode={scan} />
        </Suspense>
      )}
    </main>
  )
}

interface BoxLineProps {
  box: Box
  number: number
  whole: readonly Item[]
  sheets: readonly CutSheet[]
  limitC: number
  /** What lies still on the bench's scale. */
  scaleTenths: number | undefined
  onItem: (itemId: string) => void
  onChange: (part: Partial<Box>) => void
  onDrop: () => void
}

function BoxLine({ box, number, whole, sheets, limitC, scaleTenths, onItem, onChange, onDrop }: BoxLineProps) {
  const units = useUnits()
  const celsius = numberOrNull(box.coreTempC)
  const isWarm = celsius !== null && celsius > limitC
  const dates = [box.useBy && `use by ${dayText(box.useBy)}`, box.bestBefore && `best before ${dayText(box.bestBefore)}`]
    .filter(Boolean)
    .join(', ')
  return (
    <section className="sheet stack" aria-label={`Box ${number}`}>
      <header className="result-head">
        <h2>
          Box {number}
          {box.billedTenths !== null && `: ${units.weight(box.billedTenths)}`}
        </h2>
        <Button variant="line" onClick={onDrop}>
          Take it off
        </Button>
      </header>
      <p className="under-title">
        {[box.lot && `lot ${box.lot}`, dates, box.gtin && `item number ${box.gtin}`].filter(Boolean).join(' · ')}
      </p>
      {box.odd.length > 0 && <Word>{box.odd.join(' ')}</Word>}
      <div className="fields">
        <SelectField
          label={box.itemId === '' ? 'Which item is it? Asked once' : 'Item'}
          value={box.itemId}
          onChange={onItem}
          options={[
            ...(box.itemId === '' ? [{ value: '', label: 'choose …' }] : []),
            ...whole.map(({ id, name }) => ({ value: id, label: name })),
          ]}
        />
        <TextField
          label="Received weight"
          value={box.received}
          onChange={(received) => onChange({ received })}
          autoComplete="off"
          hint={box.billedTenths === null ? 'its code says none' : 'as billed where it is empty'}
        />
        <TextField label="Pieces" value={box.pieces} onChange={(pieces) => onChange({ pieces })} inputMode="numeric" />
        <TextField
          label="Core temperature, °C"
          value={box.coreTempC}
          onChange={(coreTempC) => onChange({ coreTempC })}
          inputMode="decimal"
        />
      </div>
      {scaleTenths !== undefined && (
        <Button variant="plain" onClick={() => onChange({ received: units.weight(scaleTenths) })}>
          Take the scale’s {units.weight(scaleTenths)}
        </Button>
      )}
      {isWarm && (
        <>
          <Warning>
            {celsius} °C is over the house limit of {limitC} °C.
          </Warning>
          <TextField
            label="Why it is taken in all the same, and what was done"
            value={box.action}
            onChange={(action) => onChange({ action })}
          />
        </>
      )}
      <Choice
        label="It is"
        value={box.what}
        onChange={(what) => onChange({ what })}
        options={[
          { value: 'wait', label: 'Put into the walk-in, whole' },
          { value: 'cut', label: 'Cut now' },
        ]}
      />
      {box.what === 'cut' && (
        <SelectField
          label="Cut sheet"
          value={box.cutSheetId}
          onChange={(cutSheetId) => onChange({ cutSheetId })}
          options={sheets.map(({ id, body }) => ({ value: id, label: body.name }))}
        />
      )}
      {box.refusal && <Warning>{box.refusal}</Warning>}
      {box.refusal && box.what === 'cut' && (
        <CheckField
          label="The weights were looked at again and stand"
          value={box.isChecked}
          onChange={(isChecked) => onChange({ isChecked, refusal: box.refusal })}
        />
      )}
    </section>
  )
}
