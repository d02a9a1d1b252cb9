import { type Claim, claimCreate } from '@fleam/contract/claims'
import type { Run } from '@fleam/contract/runs'
import { costOfPurchase } from '@fleam/core/quantities/price'
import { shortWorth } from '@fleam/core/receiving/claim-worth'
import { type ClaimKind, claimKinds, inWords, wrongOf } from '@fleam/core/receiving/delivery-check'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { claimsQuery } from '../../api/queries.ts'
import { CheckField, LinesField, numberOf, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useUnits } from '../../ui/units.ts'

/** Claims of a run, and the way to begin one. */
export function RunClaims({ run }: { run: Run }) {
  const { money } = useUnits()
  const { data = [] } = useQuery(claimsQuery)
  const [isOpen, setOpen] = useState(false)
  const own = data.filter((claim) => claim.run.id === run.id)
  return (
    <section className="no-print">
      <h2>Claims</h2>
      {own.length > 0 && (
        <ul className="plain-list">
          {own.map((claim) => (
            <li key={claim.id}>
              <Link to={`/log/claims/${claim.id}`}>Claim {claim.number}</Link>: {claim.kinds.join(', ')}, {claim.state}
              {claim.state === 'credited' && ` ${money(claim.credited)}`}
            </li>
          ))}
        </ul>
      )}
      <Button variant="plain" onClick={() => setOpen(true)}>
        Claim from the supplier
      </Button>
      {isOpen && <ClaimForm run={run} onClose={() => setOpen(false)} />}
    </section>
  )
}

function ClaimForm({ run, onClose }: { run: Run; onClose: () => void }) {
  const { currency, weight, money } = useUnits()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const { billed, received, quote, pieces, temperature, coreTempC, deliveryCheck } = run
  const paid = costOfPurchase(quote.price, { grams: billed.tenths / 10, pieces })
  const short = shortWorth({ billedTenths: billed.tenths, receivedTenths: received.tenths, paid })
  const looked = deliveryCheck?.looked ?? {}
  const isWarm = temperature !== null && coreTempC !== null && coreTempC > temperature.limitC
  const [kinds, setKinds] = useState<readonly ClaimKind[]>([
    ...new Set<ClaimKind>([
      ...(short > 0 ? ['short weight' as const] : []),
      ...(isWarm ? ['warm core' as const] : []),
      ...wrongOf(run.item.animal, looked).map(({ look }) => look.claim),
    ]),
  ])
  const found = [inWords(run.item.animal, looked), deliveryCheck?.note, run.status === 'turned-away' ? temperature?.note : undefined]
  const { submit, field, refusalOf, message, busy } = useRequestForm({
    start: { words: found.filter(Boolean).join('. '), asked: short.toFixed(2) },
    schema: claimCreate,
    toRequest: ({ words, asked }) => ({ id, runId: run.id, kinds, words, asked: numberOf(asked), at: new Date().toISOString() }),
    send: (request) => send<Claim>('POST', '/claims', request),
  })
  async function claim(event: React.FormEvent) {
    event.preventDefault()
    const made = await submit()
    if (!made) return
    await queryClient.invalidateQueries({ queryKey: claimsQuery.queryKey })
    navigate(`/log/claims/${made.id}`)
  }
  return (
    <SidePanel title={`Claim for run ${run.number}`} onClose={onClose}>
      <Form className="stack" onSubmit={claim}>
        <p>
          {run.supplier?.name ?? 'Supplier not noted'}: billed {weight(billed.tenths)}, received {weight(received.tenths)}
          {coreTempC !== null && `, core ${coreTempC} °C`}.
        </p>
        <fieldset>
          <legend>What was wrong</legend>
          {claimKinds.map((kind) => (
            <CheckField
              key={kind}
              label={kind}
              value={kinds.includes(kind)}
              onChange={(is) => setKinds(is ? [...kinds, kind] : kinds.filter((one) => one !== kind))}
            />
          ))}
        </fieldset>
        {refusalOf('kinds') && <Warning>{refusalOf('kinds')}</Warning>}
        <LinesField label="In words" {...field('words')} />
        <TextField
          label={`Asked for, ${currency}`}
          {...field('asked')}
          inputMode="decimal"
          hint={short > 0 ? `the short weight alone is worth ${money(short)} of ${money(paid)}` : `paid: ${money(paid)}`}
        />
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Write the claim
        </Button>
      </Form>
    </SidePanel>
  )
}
