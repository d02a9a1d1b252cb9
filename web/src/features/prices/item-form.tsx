import { type Animal, animal, type Item, itemChange, itemCreate } from '@fleam/contract/prices'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { itemsQuery } from '../../api/queries.ts'
import { numberOf, numberOrNull, SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useUnits } from '../../ui/units.ts'

interface ItemFormProps {
  item: Item | undefined
  kind: Item['kind']
  /** Of a new item, where it is known already. */
  of?: Animal
  all: readonly Item[]
  onClose: () => void
  onKept?: (item: Item) => void
}

export function ItemForm({ item, kind, of, all, onClose, onKept }: ItemFormProps) {
  const { withUnit, currency } = useUnits()
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const { submit, field, form, message, busy } = useRequestForm({
    start: {
      name: item?.name ?? '',
      animal: item?.animal ?? ((of ?? 'beef') as string),
      againstId: item?.againstId ?? '',
      readyCut: {
        portion: item?.readyCut?.portionEntered ?? '',
        trimPct: String(item?.readyCut?.trimPct ?? 0),
        lossPct: String(item?.readyCut?.lossPct ?? 0),
        feePerOrder: String(item?.readyCut?.feePerOrder ?? 0),
        portionsPerOrder: String(item?.readyCut?.portionsPerOrder ?? ''),
      },
    },
    schema: item ? itemChange : itemCreate,
    keepAs: item ? undefined : `item-${kind}`,
    toRequest: (fields) => ({
      ...(item ? { version: item.version } : { id }),
      name: fields.name,
      kind,
      animal: fields.animal as Animal,
      againstId: kind === 'whole' && partnersOf(fields.animal).some((other) => other.id === fields.againstId) ? fields.againstId : null,
      readyCut:
        kind === 'whole'
          ? null
          : {
              portion: withUnit(fields.readyCut.portion),
              trimPct: numberOf(fields.readyCut.trimPct),
              lossPct: numberOf(fields.readyCut.lossPct),
              feePerOrder: numberOf(fields.readyCut.feePerOrder),
              portionsPerOrder: numberOrNull(fields.readyCut.portionsPerOrder),
            },
    }),
    send: (request) => (item ? send<Item>('PUT', `/items/${item.id}`, request) : send<Item>('POST', '/items', request)),
  })
  const partnersOf = (of: string) => all.filter((other) => other.kind === 'ready-cut' && other.animal === of)
  const partners = partnersOf(form.watch('animal'))

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    const kept = await submit()
    if (!kept) return
    await queryClient.invalidateQueries({ queryKey: itemsQuery.queryKey })
    onClose()
    onKept?.(kept)
  }

  return (
    <SidePanel title={item ? item.name : kind === 'whole' ? 'Add what is bought whole' : 'Add a ready-cut item'} onClose={onClose}>
      <Form className="stack" onSubmit={keep}>
        <TextField label="Name" {...field('name')} autoComplete="off" />
        <SelectField label="Animal" {...field('animal')} options={animal.options.map((value) => ({ value, label: value }))} />
        {kind === 'whole' ? (
          <SelectField
            label="Set its portions against"
            {...field('againstId')}
            options={[{ value: '', label: 'nothing yet' }, ...partners.map((other) => ({ value: other.id, label: other.name }))]}
            hint="the ready-cut item that it would replace"
          />
        ) : (
          <>
            <WeightField label="Weight of a portion" {...field('readyCut.portion')} />
            <TextField label="Trimmed off each portion, %" {...field('readyCut.trimPct')} inputMode="decimal" />
            <TextField label="Lost in storage and thaw, %" {...field('readyCut.lossPct')} inputMode="decimal" />
            <TextField label={`Fee per order, ${currency}`} {...field('readyCut.feePerOrder')} inputMode="decimal" />
            <TextField label="Portions per order" {...field('readyCut.portionsPerOrder')} inputMode="numeric" />
          </>
        )}
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Keep
        </Button>
      </Form>
    </SidePanel>
  )
}
