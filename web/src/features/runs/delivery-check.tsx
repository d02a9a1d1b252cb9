import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { temperatureDecision } from '@fleam/contract/runs'
import type { Price } from '@fleam/core/quantities/price'
import { gramsPerPound } from '@fleam/core/quantities/weight'
import { asShown } from '@fleam/core/runs/balance'
import { expectCut } from '@fleam/core/yield-book/expected-cut'
import { useQuery } from '@tanstack/react-query'
import { useId } from 'react'
import Form from 'react-bootstrap/Form'
import type * as z from 'zod'
import { useKitchen, yieldBookQuery } from '../../api/queries.ts'
import { CheckField, TextField } from '../../ui/fields.tsx'
import { Caution, Warning, Word } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'

export type Decision = z.infer<typeof temperatureDecision>

const decisions: readonly { value: Decision; label: string }[] = [
  { value: 'turn-away', label: 'Turned away' },
  { value: 'use-at-once', label: 'Taken in, chilled and cut at once' },
  { value: 'accept', label: 'Taken in' },
]

interface WarmDecisionProps {
  celsius: number
  limitC: number
  decision: { value: Decision | ''; onChange: (value: Decision) => void; error: string | undefined }
  note: { value: string; onChange: (value: string) => void; error: string | undefined }
}

/** What is done with a delivery that came too warm, and why. */
export function WarmDecision({ celsius, limitC, decision, note }: WarmDecisionProps) {
  const name = useId()
  return (
    <fieldset className="decision">
      <legend>
        {celsius} °C is over the house limit of {limitC} °C. What is done with it?
      </legend>
      {decisions.map((option) => (
        <Form.Check
          key={option.value}
          className="check"
          id={`${name}-${option.value}`}
          type="radio"
          name={name}
          label={option.label}
          checked={decision.value === option.value}
          onChange={() => decision.onChange(option.value)}
        />
      ))}
      <TextField label="Why, and what was done" {...note} error={note.error ?? decision.error} />
      <Caution>Warm product may not be safe whatever is done later. Local food code decides; when in doubt, turn it away.</Caution>
    </fieldset>
  )
}

/** What somebody who says that odd weights stand has looked at: other weights are asked about anew. */
export function weightsOf({ itemId, billed, received, pieces }: Record<'itemId' | 'billed' | 'received' | 'pieces', string>): string {
  return [itemId, billed, received, pieces].join(' ')
}

/** The same as a field that is so or not. */
export function checkOf(kept: { value: string; onChange: (value: string) => void; error: string | undefined }, weights: string) {
  return { value: kept.value === weights, onChange: (isChecked: boolean) => kept.onChange(isChecked ? weights : ''), error: kept.error }
}

/** Asks about weights that look wrong: they are mended above, or said to stand. */
export function WeightsQuestion({
  value,
  onChange,
  error,
}: {
  value: boolean
  onChange: (value: boolean) => void
  error: string | undefined
}) {
  if (!error && !value) return null
  return (
    <>
      {error && <Warning>{error}</Warning>}
      <CheckField label="Looked at again: the weights and the count stand" value={value} onChange={onChange} />
    </>
  )
}

/** What the yield book leads one to expect of the run, once there are tests. */
export function WhatToExpect({ itemId, sheet, pieces }: { itemId: string; sheet: CutSheet; pieces: number }) {
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
export function DeliveryCheck({
  billed,
  received,
  sentBack,
  price,
  limitPct,
}: {
  billed: string
  received: string
  /** What was refused at the door, as typed: it is short, and known to be. */
  sentBack: string
  price: Price | undefined
  limitPct: number
}) {
  const { read, weight, money } = useUnits()
  const bill = billed.trim() === '' ? undefined : read(billed)
  const scale = received.trim() === '' ? undefined : read(received)
  if (!bill?.ok || !scale?.ok) return null
  const back = sentBack.trim() === '' ? undefined : read(sentBack)
  const short = bill.tenths - scale.tenths - (back?.ok ? back.tenths : 0)
  if (short === 0) return <Word isGood>Billed and received agree.</Word>
  const pct = (short / bill.tenths) * 100
  const perGram = price?.per === 'kg' ? price.amount / 1000 : price?.per === 'lb' ? price.amount / gramsPerPound : undefined
  const worth = perGram === undefined ? '' : `, ${money((Math.abs(short) / 10) * perGram)} on the invoice`
  if (short < 0) return <Word isGood>{weight(-short)} more came than was billed.</Word>
  const sentence = `${weight(short)} short (${percentText(pct)})${worth}.`
  return asShown(pct) > asShown(limitPct) ? (
    <Warning>
      Short delivery: {sentence} Over the house limit of {percentText(limitPct)}: tell the supplier.
    </Warning>
  ) : (
    <Word isGood>{sentence}</Word>
  )
}
