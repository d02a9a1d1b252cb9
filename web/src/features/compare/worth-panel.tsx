import type { Item } from '@fleam/contract/prices'
import { type WayOfCutting, wayOfCuttingChange } from '@fleam/contract/yield-book'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { waysQuery } from '../../api/queries.ts'
import { numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { type Sources, sheetsFor, wayOf } from './open-portion.ts'
import type { WayInParts } from './ways.ts'

interface WaySent {
  shown: boolean
  parts: WayOfCutting['parts']
  version: number
}

function sendWay(itemId: string, cutSheetId: string) {
  return (request: object) => send<WayOfCutting>('PUT', `/items/${itemId}/ways-of-cutting/${cutSheetId}`, request)
}

/** What each part of one way is worth: the ready-cut item that it stands for, and the kitchen's own value. */
export function WorthPanel({ sources, way, onClose }: { sources: Sources; way: WayInParts; onClose: () => void }) {
  const { currency, perUnit, perKgFrom, fromPerKg } = useUnits()
  const queryClient = useQueryClient()
  const { item, sheet, parts } = way
  const known = wayOf(sources, item.id, sheet.id)
  const { submit, field, form, message, busy } = useRequestForm({
    start: {
      shown: true,
      parts: Object.fromEntries(
        parts
          .filter((part) => part.role !== 'waste')
          .map((part) => [
            part.key,
            { readyCutId: part.readyCut?.id ?? '', ownPerKg: part.ownPerKg === null ? '' : fromPerKg(part.ownPerKg).toFixed(2) },
          ]),
      ),
    },
    schema: wayOfCuttingChange,
    toRequest: ({ shown, parts }) => ({
      shown,
      parts: shown ? worthsOf(parts, perKgFrom) : (known?.parts ?? {}),
      version: known?.version ?? 0,
    }),
    send: sendWay(item.id, sheet.id),
  })
  const readyCut = sources.items.filter((one) => one.kind === 'ready-cut' && one.animal === item.animal)

  async function keep(shown: boolean) {
    form.setValue('shown', shown)
    const changed = await submit()
    await queryClient.invalidateQueries({ queryKey: waysQuery.queryKey })
    if (changed) onClose()
  }
  return (
    <SidePanel title={`${sheet.body.name}: what the parts are worth`} onClose={onClose}>
      <div className="stack">
        <p className="field-hint">At market a part counts for what the same thing costs ready-cut; without one, for the own value.</p>
        {parts
          .filter((part) => part.role !== 'waste')
          .map((part) => (
            <fieldset key={part.key} className="fields fields-two">
              <legend className="legend">{part.name}</legend>
              <SelectField
                label="Ready-cut it stands for"
                {...field(`parts.${part.key}.readyCutId`)}
                options={[{ value: '', label: 'none' }, ...readyCut.map((one) => ({ value: one.id, label: one.name }))]}
              />
              <TextField label={`Own value, ${currency} / ${perUnit}`} inputMode="decimal" {...field(`parts.${part.key}.ownPerKg`)} />
            </fieldset>
          ))}
        {message && <Warning>{message}</Warning>}
        <Button variant="act" disabled={busy} onClick={() => keep(true)}>
          Keep
        </Button>
        <Button variant="plain" disabled={busy} onClick={() => keep(false)}>
          Leave this way out of the comparison
        </Button>
      </div>
    </SidePanel>
  )
}

function worthsOf(fields: Record<string, { readyCutId: string; ownPerKg: string }>, perKgFrom: (amount: number) => number) {
  return Object.fromEntries(
    Object.entries(fields).map(([key, { readyCutId, ownPerKg }]) => [
      key,
      { readyCutId: readyCutId || null, ownPerKg: ownPerKg.trim() === '' ? null : perKgFrom(numberOf(ownPerKg)) },
    ]),
  )
}

/** Another sheet of the same animal to weigh up, tried or not. */
export function AddWay({ sources, item }: { sources: Sources; item: Item }) {
  const [sheetId, setSheetId] = useState('')
  const shown = new Set(sheetsFor(sources, item).map((sheet) => sheet.id))
  const others = sources.sheets.filter((sheet) => sheet.body.animal === item.animal && !shown.has(sheet.id) && !sheet.retired)
  const { change, trouble, busy } = useChange({
    send: (way: WaySent) => sendWay(item.id, sheetId)(way),
    refresh: [waysQuery.queryKey],
  })
  const known = wayOf(sources, item.id, sheetId)
  if (others.length === 0) return null
  return (
    <div className="add-way">
      <SelectField
        label="Weigh up another way"
        value={sheetId}
        options={[{ value: '', label: 'choose a cut sheet' }, ...others.map((sheet) => ({ value: sheet.id, label: sheet.body.name }))]}
        onChange={setSheetId}
      />
      <Button
        variant="plain"
        disabled={busy || sheetId === ''}
        onClick={() =>
          change({ shown: true, parts: known?.parts ?? {}, version: known?.version ?? 0 }).then((way) => way && setSheetId(''))
        }
      >
        Put it beside
      </Button>
      {trouble && <Warning>{trouble}</Warning>}
    </div>
  )
}
