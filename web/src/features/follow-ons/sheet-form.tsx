import { type FollowOnSheetBody, type FollowOnSheetEntry, followOnSheetCreate } from '@fleam/contract/follow-ons'
import { allergens } from '@fleam/contract/walk-in'
import { jointCostMethods } from '@fleam/core/runs/joint-cost'
import { keptKinds } from '@fleam/core/walk-in/keeping'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { followOnSheetsQuery } from '../../api/queries.ts'
import { CheckField, LinesField, numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { methodWords, roleOptions, unitWords } from './words.ts'

interface SheetFormProps {
  /** Of which it starts; a blank one without. */
  entry?: FollowOnSheetEntry
  isCopy?: boolean
  onClose: () => void
}

const text = (value: number | undefined) => (value === undefined ? '' : String(value))
const linesOf = (written: string) =>
  written
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')

const blankOutput = {
  name: '',
  role: 'main',
  unit: 'g',
  kind: 'cooked and sliced',
  per: 'input',
  low: '',
  typical: '',
  high: '',
  isFormed: false,
}
const startingOutput = ({ yieldPct, isFormed = false, ...output }: FollowOnSheetBody['outputs'][number]) => ({
  ...output,
  isFormed,
  low: text(yieldPct.low),
  typical: text(yieldPct.typical),
  high: text(yieldPct.high),
})
const coreOptions = [
  { value: '', label: 'not cooked, or not measured' },
  { value: 'poultryCoreC', label: 'poultry’s' },
  { value: 'groundCoreC', label: 'bonded, rolled or ground meat’s' },
]
const perOptions = [
  { value: 'input', label: 'of what it is made of' },
  { value: 'all', label: 'of all that goes in' },
]

/** A way of making of the kitchen's own: from nothing, or from another. */
export function SheetForm({ entry, isCopy = false, onClose }: SheetFormProps) {
  const queryClient = useQueryClient()
  const [newSheetId] = useState(newId)
  const body = entry?.body
  const [outputs, setOutputs] = useState(() => (body ? body.outputs.map(startingOutput) : [blankOutput]))
  const [added, setAdded] = useState(() => (body?.added ?? []).map(({ name, pctOfInput }) => ({ name, pct: text(pctOfInput) })))
  const [madeOf, setMadeOf] = useState<readonly string[]>(body?.madeOf ?? [])
  const [contains, setContains] = useState<readonly string[]>(body?.allergens ?? [])
  const isNew = !entry || isCopy
  const { submit, field, form, message, busy } = useRequestForm({
    start: {
      body: {
        name: body ? (isCopy ? `${body.name}, ours` : body.name) : '',
        minutes: text(body?.minutes ?? 10),
        low: text(body?.waitHours.low ?? 0),
        high: text(body?.waitHours.high ?? 0),
        method: (body?.method ?? 'byproduct-credit') as string,
        steps: (body?.steps ?? []).join('\n'),
        checks: (body?.checks ?? []).join('\n'),
        cautions: (body?.cautions ?? ['Local food code comes first; the kitchen’s own figures stand under Kitchen.']).join('\n'),
        core: body?.core ?? '',
        cools: body?.cools ?? false,
        doneAtLossPct: text(body?.doneAtLossPct),
      },
    },
    schema: followOnSheetCreate,
    toRequest: ({ body: { name, minutes, low, high, method, steps, checks, cautions, core, cools, doneAtLossPct } }) => ({
      id: newSheetId,
      body: {
        ...{ name, method, madeOf, allergens: contains, cools },
        minutes: numberOf(minutes),
        waitHours: { low: numberOf(low), high: numberOf(high) },
        steps: linesOf(steps),
        checks: linesOf(checks),
        cautions: linesOf(cautions),
        ...(core === '' ? {} : { core }),
        ...(doneAtLossPct.trim() === '' ? {} : { doneAtLossPct: numberOf(doneAtLossPct) }),
        added: added
          .filter(({ name: what }) => what.trim() !== '')
          .map(({ name: what, pct }) => ({ name: what, ...(pct.trim() === '' ? {} : { pctOfInput: numberOf(pct) }) })),
        outputs: outputs.map(({ low: least, typical, high: most, ...output }) => ({
          ...output,
          yieldPct: { low: numberOf(least), typical: numberOf(typical), high: numberOf(most) },
        })),
      },
    }),
    send: async (request) => {
      const { id, body: written } = request as { id: string; body: FollowOnSheetBody }
      if (isNew) return send<FollowOnSheetEntry>('POST', '/follow-on-sheets', { id, body: written })
      return send<FollowOnSheetEntry>('PUT', `/follow-on-sheets/${entry.id}`, {
        version: entry.version,
        body: written,
        isRetired: entry.isRetired,
      })
    },
  })
  const { errors } = form.formState as { errors: { body?: Record<string, unknown> } }
  const toggled = (all: readonly string[], one: string, is: boolean) => (is ? [...all, one] : all.filter((other) => other !== one))
  async function keep(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit())) return
    await queryClient.invalidateQueries({ queryKey: followOnSheetsQuery.queryKey })
    onClose()
  }
  return (
    <SidePanel title={isNew ? 'A way of making of our own' : `Change ${entry.body.name}`} onClose={onClose} isWide>
      <Form className="stack" onSubmit={keep}>
        <TextField label="Called" {...field('body.name')} autoComplete="off" />
        <fieldset>
          <legend>Made of</legend>
          <div className="chips">
            {keptKinds.map((kind) => (
              <CheckField key={kind} label={kind} value={madeOf.includes(kind)} onChange={(is) => setMadeOf(toggled(madeOf, kind, is))} />
            ))}
          </div>
        </fieldset>
        <h3>What comes out, for 100 g</h3>
        {outputs.map((output, at) => {
          const set = (part: Partial<typeof output>) => setOutputs(outputs.map((one, index) => (index === at ? { ...one, ...part } : one)))
          return (
            <fieldset key={at} className="follow-on-output">
              <legend>{output.name || 'What is it?'}</legend>
              <div className="fields">
                <TextField label="Output" value={output.name} onChange={(name) => set({ name })} autoComplete="off" />
                <SelectField label="As" value={output.role} onChange={(role) => set({ role: role as 'main' })} options={roleOptions} />
                <SelectField
                  label="Measured in"
                  value={output.unit}
                  onChange={(unit) => set({ unit: unit as 'g' })}
                  options={Object.entries(unitWords).map(([value, label]) => ({ value, label }))}
                />
                <SelectField
                  label="Keeps as"
                  value={output.kind}
                  onChange={(kind) => set({ kind: kind as 'stock' })}
                  options={keptKinds.map((kind) => ({ value: kind, label: kind }))}
                />
              </div>
              <div className="fields">
                <TextField label="Least" value={output.low} onChange={(low) => set({ low })} inputMode="decimal" />
                <TextField label="Usual" value={output.typical} onChange={(typical) => set({ typical })} inputMode="decimal" />
                <TextField label="Most" value={output.high} onChange={(high) => set({ high })} inputMode="decimal" />
                <SelectField label="For 100 g" value={output.per} onChange={(per) => set({ per: per as 'all' })} options={perOptions} />
              </div>
              <CheckField label="Formed or bonded: labelled so" value={output.isFormed} onChange={(isFormed) => set({ isFormed })} />
              {outputs.length > 1 && (
                <Button variant="line" onClick={() => setOutputs(outputs.filter((_one, index) => index !== at))}>
                  Take it off
                </Button>
              )}
            </fieldset>
          )
        })}
        <Button variant="plain" onClick={() => setOutputs([...outputs, { ...blankOutput, role: 'coproduct' }])}>
          Something else comes out
        </Button>
        {errors.body?.outputs !== undefined && (
          <Warning>
            Every output has a name of its own and three figures from least over usual to most, and one of them is what it is made for.
          </Warning>
        )}
        <h3>What is added</h3>
        {added.map((line, at) => {
          const set = (part: Partial<typeof line>) => setAdded(added.map((one, index) => (index === at ? { ...one, ...part } : one)))
          return (
            <div key={at} className="fields">
              <TextField label="Ingredient" value={line.name} onChange={(name) => set({ name })} autoComplete="off" />
              <TextField label="% of what it is made of" value={line.pct} onChange={(pct) => set({ pct })} inputMode="decimal" />
            </div>
          )
        })}
        <Button variant="plain" onClick={() => setAdded([...added, { name: '', pct: '' }])}>
          Something else is added
        </Button>
        {errors.body?.added !== undefined && <Warning>What is added has a name, and a share that is a number.</Warning>}
        <details className="lot-part">
          <summary>It brings allergens{contains.length > 0 && `: ${contains.join(', ')}`}</summary>
          <div className="chips">
            {allergens.map((one) => (
              <CheckField key={one} label={one} value={contains.includes(one)} onChange={(is) => setContains(toggled(contains, one, is))} />
            ))}
          </div>
        </details>
        <div className="fields">
          <TextField label="Hands-on minutes" {...field('body.minutes')} inputMode="decimal" />
          <TextField label="Waits from, hours" {...field('body.low')} inputMode="decimal" />
          <TextField label="to, hours" {...field('body.high')} inputMode="decimal" />
          <TextField label="Done when it has lost, %" {...field('body.doneAtLossPct')} inputMode="decimal" hint="where it dries" />
        </div>
        <div className="fields">
          <SelectField
            label="Cost shared"
            {...field('body.method')}
            options={jointCostMethods.map((method) => ({ value: method, label: methodWords[method] }))}
          />
          <SelectField label="Core must reach" {...field('body.core')} options={coreOptions} />
        </div>
        <CheckField label="It is cooked and cooled: its cooling is checked" {...field('body.cools')} />
        <LinesField label="Steps, one a line" {...field('body.steps')} rows={5} />
        <LinesField label="Look at, one a line" {...field('body.checks')} />
        <LinesField label="Cautions, one a line" {...field('body.cautions')} />
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          {isNew ? 'Keep it' : 'Keep the change'}
        </Button>
      </Form>
    </SidePanel>
  )
}
