import type { Item } from '@fleam/contract/prices'
import { type WayOfCutting, wayOfCuttingChange } from '@fleam/contract/yield-book'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { waysQuery } from '../../api/queries.ts'
import { numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useSubmission } from '../../ui/submission.ts'
import { useUnits } from '../../ui/units.ts'
import { type Sources, sheetsFor, wayOf } from './open-portion.ts'
import type { WayInParts } from './ways.ts'

function useWayChange(itemId: string, cutSheetId: string) {
  const queryClient = useQueryClient()
  const submission = useSubmission(wayOfCuttingChange, (request: object) =>
    send<WayOfCutting>('PUT', `/items/${itemId}/ways-of-cutting/${cutSheetId}`, request),
  )
  return {
    ...submission,
    change: async (request: Omit<WayOfCutting, 'itemId' | 'cutSheetId'>) => {
      const changed = await submission.submit(request)
      await queryClient.invalidateQueries({ queryKey: waysQuery.queryKey })
      return changed
    },
  }
}

/** What each part of one way is worth: the ready-cut item that it stands for, and the kitchen's own value. */
export function WorthPanel({ sources, way, onClose }: { sources: Sources; way: WayInParts; onClose: () => void }) {
  const { currency, perUnit, perKgFrom, fromPerKg } = useUnits()
  const { item, sheet, parts } = way
  const known = wayOf(sources, item.id, sheet.id)
  const { change, errors, message, busy } = useWayChange(item.id, sheet.id)
  const [fields, setFields] = useState(() =>
    Object.fromEntries(
      parts
        .filter((part) => part.role !== 'waste')
        .map((part) => [
          part.key,
          { readyCutId: part.readyCut?.id ?? '', own: part.ownPerKg === null ? '' : fromPerKg(part.ownPerKg).toFixed(2) },
        ]),
    ),
  )
  const readyCut = sources.items.filter((one) => one.kind === 'ready-cut' && one.animal === item.animal)
  const worths = () =>
    Object.fromEntries(
      Object.entries(fields).map(([key, { readyCutId, own }]) => [
        key,
        { readyCutId: readyCutId || null, ownPerKg: own.trim() === '' ? null : perKgFrom(numberOf(own)) },
      ]),
    )

  async function keep(shown: boolean) {
    const parts = shown ? worths() : (known?.parts ?? {})
    if (await change({ shown, parts, version: known?.version ?? 0 })) onClose()
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
                value={fields[part.key]?.readyCutId ?? ''}
                options={[{ value: '', label: 'none' }, ...readyCut.map((one) => ({ value: one.id, label: one.name }))]}
                onChange={(readyCutId) => setFields({ ...fields, [part.key]: { own: fields[part.key]?.own ?? '', readyCutId } })}
                error={errors[`parts.${part.key}.readyCutId`]}
              />
              <TextField
                label={`Own value, ${currency} / ${perUnit}`}
                inputMode="decimal"
                value={fields[part.key]?.own ?? ''}
                onChange={(own) => setFields({ ...fields, [part.key]: { readyCutId: fields[part.key]?.readyCutId ?? '', own } })}
                error={errors[`parts.${part.key}.ownPerKg`]}
              />
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

/** Another sheet of the same animal to weigh up, tried or not. */
export function AddWay({ sources, item }: { sources: Sources; item: Item }) {
  const [sheetId, setSheetId] = useState('')
  const shown = new Set(sheetsFor(sources, item).map((sheet) => sheet.id))
  const others = sources.sheets.filter((sheet) => sheet.body.animal === item.animal && !shown.has(sheet.id) && !sheet.retired)
  const { change, message, busy } = useWayChange(item.id, sheetId)
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
        onClick={() => change({ shown: true, parts: known?.parts ?? {}, version: known?.version ?? 0 }).then(() => setSheetId(''))}
      >
        Put it beside
      </Button>
      {message && <Warning>{message}</Warning>}
    </div>
  )
}
