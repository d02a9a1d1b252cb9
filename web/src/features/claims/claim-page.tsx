import { type Claim, claimSettle, claimStates } from '@fleam/contract/claims'
import { claimLines } from '@fleam/core/receiving/claim-text'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useParams } from 'react-router'
import { get, send } from '../../api/http.ts'
import { claimsQuery, runQuery, useHasRole, useKitchen } from '../../api/queries.ts'
import { dayText, momentText } from '../../ui/days.ts'
import { Choice, numberOrNull, TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { say } from '../../ui/toasts.ts'
import { useUnits } from '../../ui/units.ts'
import { Pictures } from '../pictures/pictures.tsx'
import { LogTabs } from '../yield-book/log-tabs.tsx'
import { stateWords } from './claims-page.tsx'

const claimQuery = (id: string) => ({ queryKey: ['claim', id], queryFn: () => get<Claim>(`/claims/${id}`) })

/** One page to a supplier, and what came of it. */
export function Page() {
  const { id = '' } = useParams()
  const { data, error, refetch } = useQuery(claimQuery(id))
  const isLead = useHasRole('lead')
  return (
    <main className="page">
      <LogTabs />
      {error && !data && <Failed error={error} retry={refetch} />}
      {!data && !error && <Loading what="the claim" />}
      {data && <Letter claim={data} />}
      {data && isLead && <Settle key={data.version} claim={data} />}
    </main>
  )
}

function Letter({ claim }: { claim: Claim }) {
  const { name, settings } = useKitchen()
  const { money } = useUnits()
  const { run } = claim
  const facts = { ...claim, ...run, number: claim.number, cameOn: dayText(run.startedAt) }
  const [title, ...lines] = claimLines(facts, { kitchen: name, ...settings })
  async function copy() {
    try {
      await navigator.clipboard.writeText([title, ...lines].join('\n'))
      say('Copied.')
    } catch {
      say('This browser gives no clipboard here: mark the text and copy it.')
    }
  }
  return (
    <section className="sheet stack">
      <h1>{title}</h1>
      <div className="letter">
        {lines.map((line) => (
          <p key={line}>{line}</p>
        ))}
      </div>
      <Pictures runId={run.id} about="delivery" of="the delivery" />
      <p className="field-hint">
        {claim.by}, {momentText(claim.at)} · <Link to={`/runs/${run.id}`}>run {run.number}</Link>
      </p>
      {claim.state !== 'open' && (
        <Word isGood={claim.state === 'credited'}>
          {claim.state === 'credited' ? `Credited: ${money(claim.credited)}` : 'Refused'}
          {claim.settledBy && `, ${claim.settledBy}, ${claim.settledAt ? dayText(claim.settledAt) : ''}`}
          {claim.settledWords && `: ${claim.settledWords}`}
        </Word>
      )}
      <div className="actions no-print">
        <a className="btn btn-plain" href={`/api/v1/claims/${claim.id}/claim.pdf`} target="_blank" rel="noreferrer">
          As PDF
        </a>
        <Button variant="plain" onClick={() => void copy()}>
          Copy as text
        </Button>
        <Button variant="plain" onClick={() => print()}>
          Print
        </Button>
      </div>
    </section>
  )
}

function Settle({ claim }: { claim: Claim }) {
  const queryClient = useQueryClient()
  const { currency } = useUnits()
  const { submit, field, form, message, busy } = useRequestForm({
    start: { state: claim.state, credited: String(claim.credited || claim.asked), words: claim.settledWords },
    schema: claimSettle,
    toRequest: ({ state, credited, words }) => ({
      ...{ version: claim.version, state, words },
      credited: state === 'credited' ? (numberOrNull(credited) ?? 0) : 0,
    }),
    send: (request) => send<Claim>('POST', `/claims/${claim.id}/settle`, request),
  })
  async function settle(event: React.FormEvent) {
    event.preventDefault()
    const settled = await submit()
    if (!settled) return
    queryClient.setQueryData(claimQuery(claim.id).queryKey, settled)
    await Promise.all(
      [claimsQuery.queryKey, runQuery(claim.run.id).queryKey, ['runs']].map((queryKey) => queryClient.invalidateQueries({ queryKey })),
    )
  }
  return (
    <Form className="sheet stack no-print" onSubmit={settle}>
      <h2>What came of it</h2>
      <Choice label="State" {...field('state')} options={claimStates.map((value) => ({ value, label: stateWords[value] }))} />
      <div className="fields">
        {form.watch('state') === 'credited' && (
          <TextField
            label={`Credited, ${currency}`}
            {...field('credited')}
            inputMode="decimal"
            hint="it lowers what the run cost, and all that came of it"
          />
        )}
        <TextField label="Note" {...field('words')} autoComplete="off" />
      </div>
      {message && <Warning>{message}</Warning>}
      <Button type="submit" variant="act" disabled={busy}>
        Keep it
      </Button>
    </Form>
  )
}
