import { type Kitchen, kitchenChange } from '@fleam/contract/kitchen'
import type { Session } from '@fleam/contract/people'
import { type KeptKind, keptKinds } from '@fleam/core/walk-in/keeping'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { sessionQuery, useHasRole, useKitchen } from '../../api/queries.ts'
import { CheckField, Choice, numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Caution, Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { AddressList } from './address-list.tsx'
import { KitchenTabs } from './kitchen-tabs.tsx'
import { localesOffered, zonesOffered } from './places.ts'

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
  { key: 'coolFirstHours', label: 'Cooled from 60 to 20 °C within, hours', hint: 'common guidance: 2' },
  { key: 'coolSecondHours', label: 'And on to 5 °C within, hours', hint: 'common guidance: 4' },
] as const

const houseLimits = [
  { key: 'receiveMaxC', label: 'Warmest core at receiving, °C', hint: 'common guidance: 5 °C' },
  { key: 'unaccountedPct', label: 'Unaccounted loss, %', hint: 'usual: up to 2 %' },
  { key: 'shortDeliveryPct', label: 'Short delivery, %', hint: undefined },
  { key: 'priceMovePct', label: 'Price move, %', hint: 'a larger one is shown on the Board' },
] as const

const idleLimits = [
  { key: 'tabletHours', label: 'On a tablet of the kitchen, hours', hint: undefined },
  { key: 'otherHours', label: 'Elsewhere, hours', hint: undefined },
] as const

const labourFigures = [
  { key: 'ratePerHour', label: 'Labour, an hour', hint: 'the wage, in the kitchen’s currency' },
  { key: 'onCostPct', label: 'On-cost, %', hint: 'social cost and the like on top of the wage' },
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
  const { submit, field, form, message, busy } = useRequestForm({
    start: {
      name: kitchen.name,
      scalesConfirmed: false,
      printersConfirmed: false,
      settings: {
        currency: settings.currency,
        weightSystem: settings.weightSystem,
        locale: settings.locale,
        timeZone: settings.timeZone,
        labour: textOf(labourFigures, settings.labour),
        disposalPerKg: String(settings.disposalPerKg),
        limits: { ...textOf(houseLimits, settings.limits), ...textOf(benchLimits, settings.limits) },
        cutting: { ...textOf(cuttingFigures, settings.cutting), idleHands: settings.cutting.idleHands },
        signedOutAfter: textOf(idleLimits, settings.signedOutAfter),
        scales: settings.scales.map((one) => ({ ...one, port: String(one.port) })),
        printers: settings.printers.map((one) => ({ ...one, port: String(one.port) })),
        walkIn: {
          places: settings.walkIn.places.join(', '),
          keeping: {
            kinds: Object.fromEntries(
              keptKinds.map((kind) => [
                kind,
                {
                  chilledDays: String(settings.walkIn.keeping.kinds[kind].chilledDays),
                  frozenDays: String(settings.walkIn.keeping.kinds[kind].frozenDays),
                },
              ]),
            ) as Record<KeptKind, { chilledDays: string; frozenDays: string }>,
            thawedDays: String(settings.walkIn.keeping.thawedDays),
            cookedBeginsAnew: settings.walkIn.keeping.cookedBeginsAnew,
          },
        },
      },
    },
    schema: kitchenChange,
    toRequest: ({ name, scalesConfirmed, printersConfirmed, settings: typed }) => ({
      scalesConfirmed,
      printersConfirmed,
      version: kitchen.version,
      name,
      settings: {
        ...typed,
        currency: typed.currency.trim().toUpperCase(),
        labour: numbersOf(labourFigures, typed.labour),
        disposalPerKg: numberOf(typed.disposalPerKg),
        cutting: { ...numbersOf(cuttingFigures, typed.cutting), idleHands: typed.cutting.idleHands },
        limits: { ...numbersOf(houseLimits, typed.limits), ...numbersOf(benchLimits, typed.limits) },
        signedOutAfter: numbersOf(idleLimits, typed.signedOutAfter),
        scales: typed.scales.map(({ port, ...one }) => ({ ...one, port: numberOf(port) })),
        printers: typed.printers.map(({ port, ...one }) => ({ ...one, port: numberOf(port) })),
        walkIn: {
          places: typed.walkIn.places
            .split(',')
            .map((place) => place.trim())
            .filter((place) => place !== ''),
          keeping: {
            ...typed.walkIn.keeping,
            kinds: Object.fromEntries(
              keptKinds.map((kind) => {
                const { chilledDays, frozenDays } = typed.walkIn.keeping.kinds[kind]
                return [kind, { chilledDays: numberOf(chilledDays), frozenDays: numberOf(frozenDays) }]
              }),
            ),
            thawedDays: numberOf(typed.walkIn.keeping.thawedDays),
          },
        },
      },
    }),
    send: (request) => send<Kitchen>('PUT', '/kitchen', request),
    keepAs: isManager ? `limits-${kitchen.version}` : undefined,
  })
  const kept = justKept && !form.formState.isDirty

  const listed = (list: Listed<string>, at: 'labour' | 'limits' | 'cutting' | 'signedOutAfter') =>
    list.map(({ key, label, hint }) => (
      <TextField key={key} label={label} {...field(`settings.${at}.${key}` as 'settings.disposalPerKg')} inputMode="decimal" hint={hint} />
    ))

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    const changed = await submit()
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
          <TextField label="Kitchen" {...field('name')} />
          <TextField label="Currency" {...field('settings.currency')} hint="Tax is left out everywhere" />
          <SelectField label="Days and numbers as in" {...field('settings.locale')} options={localesOffered(settings.locale)} />
          <SelectField label="Time zone" {...field('settings.timeZone')} options={zonesOffered(settings.timeZone)} />
        </div>
        <Choice
          label="Weights"
          {...field('settings.weightSystem')}
          options={[
            { value: 'metric', label: 'Grams and kilos' },
            { value: 'imperial', label: 'Pounds and ounces' },
          ]}
        />
        <div className="fields">
          {listed(labourFigures, 'labour')}
          <TextField label={`Waste haulage, ${settings.currency} per kg`} {...field('settings.disposalPerKg')} inputMode="decimal" />
        </div>
        <h2>Where cutting is set against buying</h2>
        <div className="fields">{listed(cuttingFigures, 'cutting')}</div>
        <CheckField label="The hands are there and paid anyway: their time costs nothing" {...field('settings.cutting.idleHands')} />
        <h2>House limits</h2>
        <div className="fields">{listed(houseLimits, 'limits')}</div>
        <h2>At the bench</h2>
        <div className="fields">{listed(benchLimits, 'limits')}</div>
        <h2>Walk-in: places, and how long things keep</h2>
        <TextField
          label="Places, parted by commas"
          {...field('settings.walkIn.places')}
          hint="the first is where things go that have no place yet"
        />
        <Caution>Days are this house’s own, at 5 °C or below and at −18 °C. Local food code comes first.</Caution>
        <div className="kept-days">
          {keptKinds.map((kind) => (
            <fieldset key={kind}>
              <legend>{kind}</legend>
              <TextField label="Chilled, days" {...field(`settings.walkIn.keeping.kinds.${kind}.chilledDays`)} inputMode="numeric" />
              <TextField label="Frozen, days" {...field(`settings.walkIn.keeping.kinds.${kind}.frozenDays`)} inputMode="numeric" />
            </fieldset>
          ))}
        </div>
        <div className="fields">
          <TextField
            label="Once thawed, days"
            {...field('settings.walkIn.keeping.thawedDays')}
            inputMode="numeric"
            hint="never more than were left"
          />
        </div>
        <CheckField
          label="What is cooked, rendered or cured begins a date of its own (unless so, it is gone with what it was made of)"
          {...field('settings.walkIn.keeping.cookedBeginsAnew')}
        />
        <h2>Signed out after so long without a sign of work</h2>
        <div className="fields">{listed(idleLimits, 'signedOutAfter')}</div>
        <h2>Bench scales</h2>
        <p className="field-hint">
          Scales that speak Fleam’s scale protocol, on this kitchen’s own network. Without one, weights are typed.
        </p>
        <AddressList form={form} kind="scales" />
        {form.watch('settings.scales').length > 0 && form.formState.isDirty && (
          <CheckField label="These are scales of this kitchen: Fleam may connect to them" {...field('scalesConfirmed')} />
        )}
        <h2>Label printers</h2>
        <p className="field-hint">Printers that speak IPP, on this kitchen’s own network. Without one, labels come as PDF.</p>
        <AddressList form={form} kind="printers" />
        {form.watch('settings.printers').length > 0 && form.formState.isDirty && (
          <CheckField label="These are printers of this kitchen: Fleam may connect to them" {...field('printersConfirmed')} />
        )}
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
