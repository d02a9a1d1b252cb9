import { type FollowOn, followOnCheck } from '@fleam/contract/follow-ons'
import { coolFirstC, coolFromC, coolToC, isOutOfLimit } from '@fleam/core/follow-ons/checks'
import type { FollowOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useKitchen } from '../../api/queries.ts'
import { momentText } from '../../ui/days.ts'
import { CheckField, Choice, numberOrNull, TextField } from '../../ui/fields.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { useFollowOnLines } from './use-follow-on.ts'

/** Temperatures of a follow-on and what was looked at; one out of the kitchen's limit asks what was done. */
export function Checks({ followOn, sheet }: { followOn: FollowOn; sheet: FollowOnSheet }) {
  const { checks } = followOn.body
  const put = useFollowOnLines(followOn)
  const isOpen = followOn.status === 'open'
  const looked = new Map(checks.filter(({ kind }) => kind === 'look').map((check) => [check.words, check]))
  const taken = checks.filter(({ kind }) => kind !== 'look')
  if (!isOpen && checks.length === 0) return null
  return (
    <section className="sheet stack">
      <h2>Checks</h2>
      {sheet.checks.map((words) => {
        const done = looked.get(words)
        return (
          <CheckField
            key={words}
            label={
              <>
                {words} {done && <small>{`${momentText(done.at)} · ${done.by}`}</small>}
              </>
            }
            value={done !== undefined}
            isDisabled={!isOpen || done !== undefined}
            onChange={() => put({ kind: 'checked', check: 'look', words, celsius: null, action: '', isOut: false })}
          />
        )
      })}
      {taken.length > 0 && (
        <ul className="plain-list">
          {taken.map(({ id, words, celsius, isOut, action, at, by }) => (
            <li key={id}>
              <b className={isOut ? 'hot' : ''}>{celsius} °C</b> {words}
              <small>
                {momentText(at)} · {by}
                {isOut && ` · out of the limit: ${action || 'nothing said'}`}
              </small>
            </li>
          ))}
        </ul>
      )}
      {isOpen && (sheet.core || sheet.cools) && <TemperatureForm followOn={followOn} sheet={sheet} put={put} />}
    </section>
  )
}

function TemperatureForm({ followOn, sheet, put }: { followOn: FollowOn; sheet: FollowOnSheet; put: ReturnType<typeof useFollowOnLines> }) {
  const { limits } = useKitchen().settings
  const judge = (kind: 'core' | 'cooling', celsius: number | null) =>
    isOutOfLimit({ kind, celsius, at: new Date().toISOString() }, followOn.body.checks, limits, sheet.core)
  const kinds = [
    ...(sheet.core ? [{ value: 'core' as const, label: 'Core' }] : []),
    ...(sheet.cools ? [{ value: 'cooling' as const, label: 'Cooling' }] : []),
  ]
  const { submit, field, form } = useRequestForm({
    start: { kind: kinds[0]?.value ?? ('core' as 'core' | 'cooling'), celsius: '', action: '' },
    schema: followOnCheck
      .omit({ id: true, at: true })
      .refine(({ celsius }) => celsius !== null, { path: ['celsius'], message: 'Type the temperature.' })
      .refine(({ kind, celsius, action }) => kind === 'look' || !judge(kind, celsius) || action !== '', {
        path: ['action'],
        message: 'It is out of the house limit: say what was done.',
      }),
    toRequest: ({ kind, celsius, action }) => ({
      kind,
      words: kind === 'core' ? 'Core' : 'Cooling',
      celsius: numberOrNull(celsius),
      action: action.trim(),
    }),
    send: async (request) => {
      const { kind, words, celsius, action } = request as { kind: 'core' | 'cooling'; words: string; celsius: number; action: string }
      put({ kind: 'checked', check: kind, words, celsius, action, isOut: judge(kind, celsius) })
    },
    next: (sent) => ({ ...sent, celsius: '', action: '' }),
  })
  const { kind } = form.watch()
  const isOut = judge(kind, numberOrNull(form.watch('celsius')))
  const limit = sheet.core && limits[sheet.core]
  return (
    <Form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault()
        void submit()
      }}
    >
      {kinds.length > 1 && <Choice label="Of what" {...field('kind')} options={kinds} />}
      <TextField
        label="Temperature, °C"
        {...field('celsius')}
        inputMode="decimal"
        autoComplete="off"
        hint={
          kind === 'core'
            ? `this house: ${limit} °C or more`
            : `from ${coolFromC} to ${coolFirstC} °C in ${limits.coolFirstHours} h, to ${coolToC} °C in ${limits.coolSecondHours} h more, from the first one put down`
        }
      />
      {isOut && (
        <>
          <Warning>That is out of the house limit.</Warning>
          <TextField label="What was done" {...field('action')} />
          <Caution>Local food code decides whether it may still be served; when in doubt, throw it away.</Caution>
        </>
      )}
      <div className="actions">
        <Button type="submit" variant="plain">
          Put it down
        </Button>
      </div>
    </Form>
  )
}
