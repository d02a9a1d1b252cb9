import { type Run, runCorrect, runDiscard, runLeaveOut, runReopen } from '@fleam/contract/runs'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate } from 'react-router'
import type * as z from 'zod'
import { send } from '../../api/http.ts'
import { cutSheetsQuery, itemsQuery, runQuery, suppliersQuery, yieldBookQuery } from '../../api/queries.ts'
import { numberOf, SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { checkOf, WeightsQuestion, weightsOf } from './delivery-check.tsx'

/** What a lead can put right of an open run: what was received, or that there is a run at all. */
export function PutRight({ run }: { run: Run }) {
  const [isOpen, setOpen] = useState(false)
  return (
    <section className="sheet stack">
      <h2>Received wrongly?</h2>
      {isOpen ? (
        <>
          <Correct run={run} />
          <Discard run={run} />
        </>
      ) : (
        <Button variant="plain" onClick={() => setOpen(true)}>
          Put it right, or discard the run
        </Button>
      )}
    </section>
  )
}

function useKept() {
  const queryClient = useQueryClient()
  return (run: Run) => {
    queryClient.setQueryData(runQuery(run.id).queryKey, run)
    void queryClient.invalidateQueries({ queryKey: ['runs'] })
    void queryClient.invalidateQueries({ queryKey: yieldBookQuery.queryKey })
  }
}

function Correct({ run }: { run: Run }) {
  const { withUnit } = useUnits()
  const keep = useKept()
  const lists = [useQuery(itemsQuery), useQuery(cutSheetsQuery), useQuery(suppliersQuery)] as const
  const [items, sheets, suppliers] = lists
  const targeted = run.tubs.find((tub) => run.sheet.outputs.some((output) => output.key === tub.key && output.portion?.askedAtReceiving))
  const { submit, field, form, refusalOf, message, busy } = useRequestForm({
    start: {
      itemId: run.item.id,
      cutSheetId: run.cutSheet.id,
      supplierId: run.supplier?.id ?? '',
      lot: run.lot,
      billed: run.billed.entered,
      received: run.received.entered,
      pieces: String(run.pieces),
      target: targeted?.targetTenths ? `${targeted.targetTenths / 10} g` : '',
      weightsChecked: '',
    },
    schema: runCorrect,
    toRequest: (fields) => ({
      ...fields,
      version: run.version,
      weightsChecked: fields.weightsChecked === weightsOf(fields),
      supplierId: fields.supplierId || null,
      billed: withUnit(fields.billed),
      received: withUnit(fields.received),
      pieces: numberOf(fields.pieces),
      target: fields.target.trim() === '' ? null : withUnit(fields.target),
    }),
    send: (request) => send<Run>('PUT', `/runs/${run.id}/received`, request),
  })
  const checked = checkOf(field('weightsChecked'), weightsOf(form.watch()))
  const failed = lists.find((list) => list.error)
  if (failed) return <Failed error={failed.error} retry={failed.refetch} />
  if (!items.data || !sheets.data || !suppliers.data) return <Loading what="what can be chosen" />
  const item = items.data.find((one) => one.id === form.watch('itemId'))
  const fitting = sheets.data.filter((sheet) => sheet.id === run.cutSheet.id || (!sheet.retired && sheet.body.animal === item?.animal))
  const isWeighed = run.weighings.length > 0

  async function correct(event: React.FormEvent) {
    event.preventDefault()
    const corrected = await submit()
    if (corrected) keep(corrected)
  }

  return (
    <Form className="stack" onSubmit={correct}>
      {isWeighed && (
        <Word>Item and sheet stand: pieces have been weighed by them. Were they wrong, discard the run and receive it anew.</Word>
      )}
      <fieldset className="stack" disabled={isWeighed}>
        <SelectField
          label="What came"
          {...field('itemId')}
          options={items.data.filter((one) => one.kind === 'whole').map((one) => ({ value: one.id, label: one.name }))}
        />
        <SelectField
          label="Cut sheet"
          {...field('cutSheetId')}
          options={[{ value: '', label: 'choose a sheet' }, ...fitting.map((sheet) => ({ value: sheet.id, label: sheet.body.name }))]}
        />
      </fieldset>
      <SelectField
        label="Supplier"
        {...field('supplierId')}
        options={[...suppliers.data.map((one) => ({ value: one.id, label: one.name })), { value: '', label: 'not noted' }]}
      />
      <TextField label="Lot" {...field('lot')} autoComplete="off" />
      <WeightField label="Billed weight" {...field('billed')} />
      <WeightField label="Received weight" {...field('received')} />
      <TextField label="Pieces, how many" {...field('pieces')} inputMode="numeric" />
      {targeted && <WeightField label={`Target weight, ${targeted.name.toLowerCase()}`} {...field('target')} />}
      <WeightsQuestion {...checked} />
      {message && !refusalOf('weightsChecked') && <Warning>{message}</Warning>}
      <Button type="submit" variant="act" disabled={busy}>
        Put it right
      </Button>
    </Form>
  )
}

function Discard({ run }: { run: Run }) {
  const keep = useKept()
  return (
    <>
      <h3>It should not be there at all</h3>
      <WithReason
        schema={runDiscard}
        run={run}
        path="discard"
        label="Why it is discarded"
        hint="it stays in the log, struck through, and counts nowhere"
        action="Discard this run"
        onDone={keep}
      />
    </>
  )
}

/** A finished run from which nothing is to be expected, such as a beginner's: a lead leaves it out of the yield book. */
export function LeaveOut({ run }: { run: Run }) {
  const keep = useKept()
  const takeIn = useChange<void, Run>({
    send: () => send<Run>('POST', `/runs/${run.id}/leave-out`, { version: run.version, reason: null }),
  })
  if (run.status !== 'finished') return null
  return (
    <section className="sheet stack">
      <h2>Does it count in the yield book?</h2>
      {run.leftOut ? (
        <>
          <p>It is left out: {run.leftOut.reason}</p>
          {takeIn.trouble && <Warning>{takeIn.trouble}</Warning>}
          <Button
            variant="plain"
            disabled={takeIn.busy}
            onClick={async () => {
              const counted = await takeIn.change()
              if (counted) keep(counted)
            }}
          >
            Let it count again
          </Button>
        </>
      ) : (
        <WithReason
          schema={runLeaveOut}
          run={run}
          path="leave-out"
          label="Why it is left out"
          hint="such as a beginner’s first, or a bad bird: its cost stands, but nothing is expected from it"
          action="Leave it out of the yield book"
          onDone={keep}
        />
      )}
    </section>
  )
}

/** A lead may open a closed run again, to put something right; why is kept in the audit trail. */
export function Reopen({ run }: { run: Run }) {
  const navigate = useNavigate()
  const keep = useKept()
  return (
    <section className="sheet stack">
      <h2>Something to put right?</h2>
      {run.status === 'finished' && (
        <Link className="btn btn-plain" to={`/runs/${run.id}/put-right`}>
          Put it right, old and new side by side
        </Link>
      )}
      <WithReason
        schema={runReopen}
        run={run}
        path="reopen"
        label="Why it is opened again"
        action="Open this run again"
        onDone={(opened) => {
          keep(opened)
          navigate(`/bench/${run.id}`)
        }}
      />
    </section>
  )
}

interface WithReasonProps {
  schema: z.ZodType
  run: Run
  path: string
  label: string
  hint?: string
  action: string
  onDone: (run: Run) => void
}

/** Something done to a run that says why. */
function WithReason({ schema, run, path, label, hint, action, onDone }: WithReasonProps) {
  const { submit, field, message, busy } = useRequestForm({
    start: { reason: '' },
    schema,
    toRequest: ({ reason }) => ({ version: run.version, reason }),
    send: (request) => send<Run>('POST', `/runs/${run.id}/${path}`, request),
  })
  async function act() {
    const changed = await submit()
    if (changed) onDone(changed)
  }
  return (
    <>
      <TextField label={label} {...field('reason')} hint={hint} />
      {message && <Warning>{message}</Warning>}
      <Button variant="plain" disabled={busy} onClick={act}>
        {action}
      </Button>
    </>
  )
}
