import { type CutSheet, stepKey } from '@fleam/contract/cut-sheets'
import type { Item } from '@fleam/contract/prices'
import { stepFromLog } from '@fleam/core/compare/step-from-log'
import { stepWorth } from '@fleam/core/compare/step-worth'
import { valuePart } from '@fleam/core/compare/value-in-parts'
import { labourCost } from '@fleam/core/quantities/labour'
import { portionOutput } from '@fleam/core/runs/portion-output'
import type { Difference } from '@fleam/core/statistics/blocked-difference'
import { expectCut } from '@fleam/core/yield-book/expected-cut'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { yieldTestsQuery } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { numberOf, TextField } from '../../ui/fields.tsx'
import { Empty } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { CompareTabs } from './compare-tabs.tsx'
import { entryOf, partsOf, type Sources, sheetsFor } from './open-portion.ts'
import { WithSources } from './with-sources.tsx'
import { shortName } from './words.ts'

/** Steps that schools disagree about, each weighed up by the log where it can be, by its sheet where not. */
export function Page() {
  return (
    <main className="page">
      <CompareTabs />
      <WithSources>{(sources) => <Steps sources={sources} />}</WithSources>
    </main>
  )
}

interface OptionalStep {
  item: Item
  sheet: CutSheet
  at: number
}

function Steps({ sources }: { sources: Sources }) {
  const steps: OptionalStep[] = sources.items
    .filter((item) => item.kind === 'whole')
    .flatMap((item) =>
      sheetsFor(sources, item).flatMap((sheet) =>
        sheet.body.steps.flatMap((step, at) => (step.optional === undefined ? [] : [{ item, sheet, at }])),
      ),
    )
  return (
    <section className="sheet">
      <h1>Is a step worth it</h1>
      <p className="under-title">
        Steps that can be left out at the bench: what they free, what their minutes cost. Two whole ways of cutting are set side by side
        under <Link to="/compare/parts">Value in parts</Link>.
      </p>
      {steps.length === 0 && (
        <Empty title="No sheet that you cut by has an optional step.">
          <p>A step is made optional in the cut sheet, with the grams it usually frees and its minutes.</p>
        </Empty>
      )}
      {steps.map((step) => (
        <StepWorth key={`${step.item.id} ${step.sheet.id} ${step.at}`} sources={sources} {...step} />
      ))}
    </section>
  )
}

function StepWorth({ sources, item, sheet, at }: OptionalStep & { sources: Sources }) {
  const { money, currency, perUnit, perKgFrom, fromPerKg, grams: weight } = useUnits()
  const tests = useQuery(yieldTestsQuery(item.id, sheet.id))
  const step = sheet.body.steps[at]
  const expected = expectCut(sheet.body, entryOf(sources, item.id, sheet.id), 1, sources.settings.cutting.priorTests)
  const main = portionOutput(sheet.body.outputs)
  const key = step?.outputs?.[0] ?? main?.key ?? ''
  const part = partsOf(sources, item, sheet, expected).find((one) => one.key === key)
  const usualValue = part ? (valuePart(part, 'market').valuePerKg ?? 0) : 0
  const [value, setValue] = useState<string>()
  const typed = value === undefined ? usualValue : perKgFrom(numberOf(value))
  const valuePerKg = Number.isNaN(typed) ? usualValue : typed
  if (!step?.optional || !part) return null
  const { labour, cutting } = sources.settings
  const rates = { ratePerHour: cutting.idleHands ? 0 : labour.ratePerHour, onCostPct: labour.onCostPct }
  const inBook = (tests.data ?? []).filter((test) => test.leftOut === null)
  const log = stepFromLog({
    withStep: inBook.filter((test) => test.stepsDone.includes(stepKey(step))),
    without: inBook.filter((test) => test.stepsLeftOut.includes(stepKey(step))),
    outputKey: key,
    itemGrams: expected.itemGrams.mean,
    valuePerKg,
    perMinute: labourCost({ minutes: 1, ...rates }),
  })
  const grams = log.grams?.mean ?? step.optional.gramsFreed
  const minutes = log.minutes?.mean ?? step.optional.minutes
  const found = stepWorth({ grams, valuePerKg, minutes, ...rates })
  const noun = shortName(item.name).toLowerCase()
  return (
    <article className="step-worth">
      <h2>
        {step.title}: {sheet.body.name}
      </h2>
      <p className="step-answer">
        {answerOf({ title: step.title, noun, part: part.name.toLowerCase(), log, found, grams, minutes, money, weight })}
      </p>
      <div className="step-figures">
        <Figure
          name="frees of each"
          value={weight(grams)}
          note={
            log.grams
              ? `${intervalText(log.grams, weight)} by ${counted(log.withStep, 'run')} with and ${log.without} without, each cook’s own`
              : 'by the cut sheet'
          }
        />
        <Figure
          name="takes of each"
          value={`${minutes.toFixed(2).replace('-', '−')} min`}
          note={
            log.minutes
              ? `${intervalText(log.minutes, minutesText)} in the log; the sheet says ${step.optional.minutes}`
              : 'by the cut sheet'
          }
        />
        <Figure
          name="worth, its wage paid"
          value={money(found.gain - found.wage)}
          note={log.worth ? `${money(log.worth.low)} to ${money(log.worth.high)}, nine times of ten` : 'of each, on average'}
        />
        <Figure
          name="breaks even at"
          value={found.breakEvenMinutes === null ? 'any time' : `${found.breakEvenMinutes.toFixed(2)} min`}
          note={found.breakEvenMinutes === null ? 'the hands are idle' : `${Math.round(found.breakEvenMinutes * 60)} seconds of each`}
        />
        <TextField
          label={`${part.name}, ${currency} / ${perUnit}`}
          inputMode="decimal"
          value={value ?? fromPerKg(usualValue).toFixed(2)}
          onChange={setValue}
        />
      </div>
    </article>
  )
}

function Figure({ name, value, note }: { name: string; value: string; note: string }) {
  return (
    <div>
      <small>{name}</small>
      <b>{value}</b>
      <small>{note}</small>
    </div>
  )
}

const minutesText = (minutes: number) => `${minutes.toFixed(1).replace('-', '−')} min`
const intervalText = ({ low, high }: Difference, write: (value: number) => string) => `${write(low)} to ${write(high)}`

/** The answer in a sentence or two. */
function answerOf(given: {
  title: string
  noun: string
  part: string
  log: ReturnType<typeof stepFromLog>
  found: ReturnType<typeof stepWorth>
  grams: number
  minutes: number
  money: (amount: number) => string
  weight: (grams: number) => string
}): string {
  const { title, noun, part, log, found, grams, minutes, money, weight } = given
  const even =
    found.breakEvenMinutes === null
      ? 'The hands are idle, so any gram is won.'
      : `It pays up to ${Math.round(found.breakEvenMinutes * 60)} seconds a ${noun}; it takes ${Math.max(0, Math.round(minutes * 60))}.`
  if (log.grams && grams <= 0)
    return `No gain shows: runs with “${title}” gave ${weight(Math.abs(Math.round(grams)))} less of ${part} than those without, ${intervalText(log.grams, weight)}. By these it is not worth a minute; more runs would tell.`
  const what = `“${title}” frees ${weight(Math.round(grams))} of ${part}, worth ${money(found.gain)}.`
  if (!log.worth) {
    const missing =
      log.withStep > 0 && log.without > 0 && log.cooks === 0
        ? 'Who cut with it never cut without: that tells the cooks apart, not the step.'
        : 'No runs with and without it are logged yet.'
    return `${found.pays ? 'By the sheet it is worth it.' : 'By the sheet it is not worth it.'} ${what} ${even} ${missing}`
  }
  if (log.worth.low > 0) return `Worth it. ${what} ${even}`
  if (log.worth.high < 0) return `Not worth it. ${what} ${even}`
  return `It cannot be told yet. ${what} ${even} More runs with and without it would tell.`
}
