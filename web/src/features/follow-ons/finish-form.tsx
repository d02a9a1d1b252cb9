import { type FollowOn, followOnFinish } from '@fleam/contract/follow-ons'
import type { FollowOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import { weighedOut } from '@fleam/core/follow-ons/weighed-out'
import { jointCostMethods } from '@fleam/core/runs/joint-cost'
import { keptKinds } from '@fleam/core/walk-in/keeping'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate } from 'react-router'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { followOnSheetsQuery, followOnsQuery, lotsQuery, savedValuesQuery, useKitchen } from '../../api/queries.ts'
import { useOutbox } from '../../outbox/tablet-outbox.ts'
import { counted } from '../../ui/counted.ts'
import { numberOf, numberOrNull, SelectField, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { amountHint, amountText, tenthsTyped } from '../walk-in/amounts.ts'
import { expectedText, gramsIn, outcomesOf } from './outcomes.ts'
import { followOnQuery } from './use-follow-on.ts'
import { methodWords, roleOptions, unitWords } from './words.ts'

const linesOf = ({ body }: FollowOn) => body.weighings.map(({ id }) => id).join()

interface OutputFields {
  id: string
  name: string
  role: string
  unit: string
  /** `null` is as it was weighed. */
  amount: string | null
  portions: string
  valuePerUnit: string
  kind: string
  place: string
}

interface FinishFormProps {
  followOn: FollowOn
  sheet: FollowOnSheet
  book: Parameters<typeof outcomesOf>[2]
}

/** What came out, as weighed unless something else is typed; what was added; what it took: it makes lots of it. */
export function FinishForm({ followOn, sheet, book }: FinishFormProps) {
  const units = useUnits()
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const { places } = useKitchen().settings.walkIn
  const started = gramsIn(followOn)
  const outcomes = outcomesOf(followOn, sheet, book)
  const { totals } = weighedOut(followOn.body.weighings)
  const weighed = (name: string, unit: string) => {
    const so = totals.get(name)
    return so ? amountText(units, unit as 'g', so.tenths) : ''
  }
  const [added, setAdded] = useState(() =>
    sheet.added.map(({ name, pctOfInput }) => ({
      name,
      grams: pctOfInput ? String(Math.round((started * pctOfInput) / 100)) : '',
      cost: '',
    })),
  )
  const [outputs, setOutputs] = useState<OutputFields[]>(() =>
    sheet.outputs.map(({ name, role, unit, kind }) => ({
      id: newId(),
      name: name || followOn.name,
      role,
      unit,
      amount: null,
      portions: '',
      valuePerUnit: '',
      kind,
      place: places[0] ?? '',
    })),
  )
  const { submit, field, message, busy, form } = useRequestForm({
    start: {
      minutes: String(Math.round(book?.minutes ?? sheet.minutes)),
      energy: '0',
      consumables: '0',
      bought: '',
      method: sheet.method as string,
      note: '',
    },
    schema: followOnFinish,
    toRequest: (fields) => ({
      version: followOn.version,
      minutes: numberOf(fields.minutes),
      energy: numberOf(fields.energy),
      consumables: numberOf(fields.consumables),
      method: fields.method,
      boughtPerUnit: numberOrNull(fields.bought),
      note: fields.note,
      added: added
        .filter(({ cost, grams }) => cost.trim() !== '' || grams.trim() !== '')
        .map(({ name, grams, cost }) => ({ name, grams: numberOrNull(grams), cost: cost.trim() === '' ? 0 : numberOf(cost) })),
      outputs: outputs
        .filter(({ amount, name }) => (amount === null ? totals.has(name) : amount.trim() !== ''))
        .map(({ amount, portions, valuePerUnit, ...output }) => ({
          ...output,
          tenths: (amount === null ? totals.get(output.name)?.tenths : tenthsTyped(units, output.unit as 'g', amount)) ?? Number.NaN,
          portions: numberOrNull(portions),
          valuePerUnit: numberOrNull(valuePerUnit),
          allergens: sheet.allergens ?? [],
          isFormed: sheet.outputs.find(({ name }) => name === output.name)?.isFormed ?? false,
        })),
    }),
    send: async (request) => {
      // lines that were just stored have moved its version on: the same weighings are the same follow-on
      const now = await get<FollowOn>(`/follow-ons/${followOn.id}`)
      const isSame = linesOf(now) === linesOf(followOn)
      return send<FollowOn>('POST', `/follow-ons/${followOn.id}/finish`, { ...request, ...(isSame ? { version: now.version } : {}) })
    },
  })
  const { change: strike, busy: isStriking } = useChange({
    send: () =>
      send<FollowOn>('POST', `/follow-ons/${followOn.id}/discard`, { version: followOn.version, reason: 'It was not made after all.' }),
    refresh: [followOnQuery(followOn.id).queryKey, followOnsQuery.queryKey, lotsQuery.queryKey],
    said: () => `${followOn.name} is struck: what had gone in lies where it lay.`,
  })
  async function finish(event: React.FormEvent) {
    event.preventDefault()
    const done = await submit()
    if (!done) return void queryClient.invalidateQueries({ queryKey: followOnQuery(followOn.id).queryKey })
    queryClient.setQueryData(followOnQuery(followOn.id).queryKey, done)
    await Promise.all(
      [lotsQuery, followOnsQuery, followOnSheetsQuery, savedValuesQuery].map(({ queryKey }) => queryClient.invalidateQueries({ queryKey })),
    )
  }
  const set = (at: number, part: Partial<OutputFields>) =>
    setOutputs(outputs.map((one, index) => (index === at ? { ...one, ...part } : one)))
  const { lines } = useOutbox()
  const waiting = lines.filter((line) => line.kind === 'follow-on' && line.followOnId === followOn.id && line.refusal === null).length
  const main = outputs.find(({ role }) => role === 'main')
  const errors = form.formState.errors as Record<string, unknown>
  return (
    <Form className="sheet stack" onSubmit={finish}>
      <h2>What came out</h2>
      {outputs.map((output, at) => {
        const usual = outcomes.find((one) => one.output === output.name)
        const unit = output.unit as keyof typeof unitWords
        return (
          <fieldset key={output.id} className="follow-on-output">
            <legend>{output.name || 'What is it?'}</legend>
            <div className="fields">
              {(sheet.key === 'own' || at >= sheet.outputs.length) && (
                <TextField label="Called" value={output.name} onChange={(name) => set(at, { name })} autoComplete="off" />
              )}
              <TextField
                label={`How much, ${unitWords[unit]}`}
                value={output.amount ?? weighed(output.name, unit)}
                onChange={(amount) => set(at, { amount })}
                autoComplete="off"
                hint={
                  output.amount === null && totals.has(output.name)
                    ? 'as weighed'
                    : (usual && expectedText(units, usual)) || amountHint[unit]
                }
              />
              <TextField
                label="Portions"
                value={output.portions}
                onChange={(portions) => set(at, { portions })}
                inputMode="numeric"
                hint="where they are counted"
              />
              {output.role !== 'main' && output.role !== 'waste' && (
                <TextField
                  label={`Worth per ${unit === 'ml' ? 'litre' : unit === 'piece' ? 'piece' : 'kg'}`}
                  value={output.valuePerUnit}
                  onChange={(valuePerUnit) => set(at, { valuePerUnit })}
                  inputMode="decimal"
                />
              )}
              {output.role !== 'waste' && (
                <SelectField
                  label="Put away in"
                  value={output.place}
                  onChange={(place) => set(at, { place })}
                  options={places.map((place) => ({ value: place, label: place }))}
                />
              )}
            </div>
            {(sheet.key === 'own' || at >= sheet.outputs.length) && (
              <div className="fields">
                <SelectField label="As" value={output.role} onChange={(role) => set(at, { role })} options={roleOptions} />
                <SelectField
                  label="Measured in"
                  value={output.unit}
                  onChange={(other) => set(at, { unit: other })}
                  options={Object.entries(unitWords).map(([value, label]) => ({ value, label }))}
                />
                <SelectField
                  label="Keeps as"
                  value={output.kind}
                  onChange={(kind) => set(at, { kind })}
                  options={keptKinds.map((kind) => ({ value: kind, label: kind }))}
                />
              </div>
            )}
          </fieldset>
        )
      })}
      <Button
        variant="plain"
        onClick={() =>
          setOutputs([
            ...outputs,
            {
              id: newId(),
              name: '',
              role: 'coproduct',
              unit: 'g',
              amount: '',
              portions: '',
              valuePerUnit: '',
              kind: 'cooked and sliced',
              place: places[0] ?? '',
            },
          ])
        }
      >
        Something else came out
      </Button>
      <h2>What was added</h2>
      {added.map((line, at) => {
        const change = (part: Partial<typeof line>) => setAdded(added.map((one, index) => (index === at ? { ...one, ...part } : one)))
        return (
          <div key={at} className="fields">
            <TextField label="Ingredient" value={line.name} onChange={(name) => change({ name })} autoComplete="off" />
            <TextField label="Grams" value={line.grams} onChange={(grams) => change({ grams })} inputMode="decimal" />
            <TextField label="Cost" value={line.cost} onChange={(cost) => change({ cost })} inputMode="decimal" />
          </div>
        )
      })}
      <Button variant="plain" onClick={() => setAdded([...added, { name: '', grams: '', cost: '' }])}>
        Something else was added
      </Button>
      <h2>What it took</h2>
      <div className="fields">
        <TextField label="Hands-on minutes" {...field('minutes')} inputMode="decimal" />
        <TextField label="Energy, in money" {...field('energy')} inputMode="decimal" />
        <TextField label="Consumables, in money" {...field('consumables')} inputMode="decimal" />
        <TextField
          label={`Bought ready, a ${main?.unit === 'ml' ? 'litre' : main?.unit === 'piece' ? 'piece' : 'kg'} costs`}
          {...field('bought')}
          inputMode="decimal"
          hint="where it can be bought: what went in is then worth what it saved"
        />
        <SelectField
          label="Cost shared"
          {...field('method')}
          options={jointCostMethods.map((method) => ({ value: method, label: methodWords[method] }))}
        />
      </div>
      {'outputs' in errors && <Warning>Say how much came out, of one thing at least, with its name.</Warning>}
      {'added' in errors && <Warning>What was added has a name, and grams and cost that are numbers.</Warning>}
      {waiting > 0 && (
        <Warning>
          {counted(waiting, 'line still waits', 'lines still wait')} on this tablet: they must reach the server before it is closed.
        </Warning>
      )}
      {message && <Warning>{message}</Warning>}
      <div className="actions">
        <Button type="submit" variant="act" disabled={busy || waiting > 0}>
          Finish and put away
        </Button>
        <Button variant="plain" disabled={isStriking} onClick={() => void strike().then((done) => done && navigate('/walk-in/follow-ons'))}>
          It was not made after all
        </Button>
      </div>
    </Form>
  )
}
