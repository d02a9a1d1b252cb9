import { type Kitchen, type KitchenSettings, kitchenChange } from '@fleam/contract/kitchen'
import type { Session } from '@fleam/contract/people'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { sessionQuery, useHasRole, useKitchen } from '../../api/queries.ts'
import { Choice, numberOf, TextField } from '../../ui/fields.tsx'
import { Caution, Warning, Word } from '../../ui/notes.tsx'
import { useSubmission } from '../../ui/submission.ts'
import { KitchenTabs } from './kitchen-tabs.tsx'
import { type ScaleEntry, ScaleList } from './scale-list.tsx'

export function Page() {
  const kitchen = useKitchen()
  const isManager = useHasRole('manager')
  const [keptVersion, setKeptVersion] = useState<number>()
  return (
    <main className="page">
      <KitchenTabs />
      <LimitsForm
        key={kitchen.version}
        kitchen={kitchen}
        isManager={isManager}
        justKept={keptVersion === kitchen.version}
        onKept={setKeptVersion}
      />
    </main>
  )
}

const benchLimits = [
  { key: 'outOfColdMinutes', label: 'Out of the cold, minutes', hint: 'the bench warns before' },
  { key: 'coldWarningMinutes', label: 'Warn so many minutes before', hint: undefined },
  { key: 'breakMinutes', label: 'Away after, minutes', hint: 'longer without a sign of work counts as a break' },
  { key: 'poultryCoreC', label: 'Poultry cooked to, °C core', hint: 'common guidance: 74 °C' },
  { key: 'groundCoreC', label: 'Bonded, rolled or ground cooked to, °C core', hint: 'common guidance: 71 °C' },
  { key: 'keepPoultryDays', label: 'Raw poultry and fish kept, days', hint: 'common guidance: 1–2' },
  { key: 'keepWholeCutDays', label: 'Raw whole cuts kept, days', hint: 'common guidance: 3–5' },
] as const

const houseLimits = [
  { key: 'receiveMaxC', label: 'Warmest core at receiving, °C', hint: 'common guidance: 5 °C' },
  { key: 'unaccountedPct', label: 'Unaccounted loss, %', hint: 'usual: up to 2 %' },
  { key: 'shortDeliveryPct', label: 'Short delivery, %', hint: undefined },
  { key: 'priceMovePct', label: 'Price move, %', hint: 'a larger one is shown on the Board' },
] as const

const cuttingFigures = [
  { key: 'setupMinutes', label: 'Set-up and clean-down, minutes a batch', hint: undefined },
  { key: 'storageLossPct', label: 'Own portions lost in storage, %', hint: undefined },
  { key: 'rejectedPct', label: 'Own portions refused, %', hint: undefined },
  { key: 'priorTests', label: 'A cut sheet counts for, tests', hint: 'in the yield book, beside the kitchen’s own' },
] as const

type Listed<Key extends string> = readonly { key: Key; label: string; hint: string | undefined }[]

function textOf<Key extends string>(list: Listed<Key>, figures: Record<Key, number>) {
  return Object.fromEntries(list.map(({ key }) => [key, String(figures[key])])) as Record<Key, string>
}

function numbersOf<Key extends string>(list: Listed<Key>, fields: Record<Key, string>) {
  return Object.fromEntries(list.map(({ key }) => [key, numberOf(fields[key])])) as Record<Key, number>
}

interface LimitsFormProps {
  kitchen: Kitchen
  isManager: boolean
  justKept: boolean
  onKept: (version: number) => void
}

function LimitsForm({ kitchen, isManager, justKept, onKept }: LimitsFormProps) {
  const queryClient = useQueryClient()
  const { settings } = kitchen
  const [weightSystem, setWeightSystem] = useState<KitchenSettings['weightSystem']>(settings.weightSystem)
  const [fields, setFields] = useState({
    name: kitchen.name,
    currency: settings.currency,
    ratePerHour: String(settings.labour.ratePerHour),
    onCostPct: String(settings.labour.onCostPct),
    disposalPerKg: String(settings.disposalPerKg),
    ...textOf(houseLimits, settings.limits),
    ...textOf(benchLimits, settings.limits),
    ...textOf(cuttingFigures, settings.cutting),
  })
  const [scales, setScales] = useState<ScaleEntry[]>(() => settings.scales.map((one) => ({ ...one, port: String(one.port) })))
  const [idleHands, setIdleHands] = useState(settings.cutting.idleHands)
  const [kept, setKept] = useState(justKept)
  const { submit, errors, message, busy } = useSubmission(kitchenChange, (request: object) => send<Kitchen>('PUT', '/kitchen', request))
  const field = (key: keyof typeof fields, path: string) => ({
    value: fields[key],
    onChange: (value: string) => {
      setKept(false)
      setFields({ ...fields, [key]: value })
    },
    error: errors[path],
  })

  const listed = (list: Listed<keyof typeof fields>, path: string) =>
    list.map(({ key, label, hint }) => (
      <TextField key={key} label={label} {...field(key, `${path}.${key}`)} inputMode="decimal" hint={hint} />
    ))

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    const changed = await submit({
      version: kitchen.version,
      name: fields.name,
      settings: {
        currency: fields.currency.trim().toUpperCase(),
        weightSystem,
        labour: { ratePerHour: numberOf(fields.ratePerHour), onCostPct: numberOf(fields.onCostPct) },
        disposalPerKg: numberOf(fields.disposalPerKg),
        cutting: { ...numbersOf(cuttingFigures, fields), idleHands },
        limits: { ...numbersOf(houseLimits, fields), ...numbersOf(benchLimits, fields) },
        scales: scales.map(({ name, host, port }) => ({ name, host, port: numberOf(port) })),
      },
    })
    if (!changed) return void queryClient.invalidateQueries({ queryKey: sessionQuery.queryKey })
    onKept(changed.version)
    queryClient.setQueryData(sessionQuery.queryKey, (known: Session | null | undefined) => known && { ...known, kitchen: changed })
  }

  return (
    <Form className="sheet stack" onSubmit={keep}>
      <h1>Units, labour and limits</h1>
      {!isManager && <Caution>A manager can change these.</Caution>}
      <fieldset className="stack" disabled={!isManager}>
        <div className="fields">
          <TextField label="Kitchen" {...field('name', 'name')} />
          <TextField label="Currency" {...field('currency', 'settings.currency')} hint="Tax is left out everywhere" />
        </div>
        <Choice
          label="Weights"
          value={weightSystem}
          onChange={(value) => {
            setKept(false)
            setWeightSystem(value)
          }}
          options={[
            { value: 'metric', label: 'Grams and kilos' },
            { value: 'imperial', label: 'Pounds and ounces' },
          ]}
        />
        <div className="fields">
          <TextField
            label={`Labour, ${settings.currency} an hour`}
            {...field('ratePerHour', 'settings.labour.ratePerHour')}
            inputMode="decimal"
          />
          <TextField
            label="On-cost, %"
            {...field('onCostPct', 'settings.labour.onCostPct')}
            inputMode="decimal"
            hint="social cost and the like on top of the wage"
          />
          <TextField
            label={`Waste haulage, ${settings.currency} per kg`}
            {...field('disposalPerKg', 'settings.disposalPerKg')}
            inputMode="decimal"
          />
        </div>
        <h2>Where cutting is set against buying</h2>
        <div className="fields">{listed(cuttingFigures, 'settings.cutting')}</div>
        <label className="check">
          <input
            type="checkbox"
            checked={idleHands}
            onChange={(event) => {
              setKept(false)
              setIdleHands(event.target.checked)
            }}
          />
          The hands are there and paid anyway: their time costs nothing
        </label>
        <h2>House limits</h2>
        <div className="fields">{listed(houseLimits, 'settings.limits')}</div>
        <h2>At the bench</h2>
        <div className="fields">{listed(benchLimits, 'settings.limits')}</div>
        <h2>Bench scales</h2>
        <p className="field-hint">
          Scales that speak Fleam’s scale protocol, on this kitchen’s own network. Without one, weights are typed.
        </p>
        <ScaleList
          scales={scales}
          errors={errors}
          onChange={(next) => {
            setKept(false)
            setScales(next)
          }}
        />
        <Caution>Temperatures here are this house’s own. Local food code and licensed practice come first.</Caution>
        {message && <Warning>{message}</Warning>}
        {kept && (
          <Word isGood isNews>
            Kept.
          </Word>
        )}
        {isManager && (
          <Button type="submit" variant="act" disabled={busy}>
            Keep
          </Button>
        )}
      </fieldset>
    </Form>
  )
}
