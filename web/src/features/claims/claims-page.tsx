import type { Claim } from '@fleam/contract/claims'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { claimsQuery } from '../../api/queries.ts'
import { dayText } from '../../ui/days.ts'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { LogTabs } from '../yield-book/log-tabs.tsx'

export const stateWords: Record<Claim['state'], string> = { open: 'open', credited: 'credited', refused: 'refused' }

/** What suppliers were asked to make good, and what came of it. */
export function Page() {
  const { money } = useUnits()
  const { data, error, isPending, refetch } = useQuery(claimsQuery)
  const open = data?.filter(({ state }) => state === 'open') ?? []
  const credited = data?.reduce((sum, claim) => sum + claim.credited, 0) ?? 0
  return (
    <main className="page">
      <LogTabs />
      <section className="sheet">
        <header className="result-head">
          <h1>Claims</h1>
          {data && data.length > 0 && (
            <p className="totals-line">
              <span>
                <b>{open.length}</b> open, {money(open.reduce((sum, { asked }) => sum + asked, 0))} asked
              </span>
              <span>
                <b>{money(credited)}</b> given back
              </span>
            </p>
          )}
        </header>
        {isPending && <Loading what="the claims" />}
        {error && !data && <Failed error={error} retry={refetch} />}
        {data?.length === 0 && (
          <Empty title="Nothing has been claimed.">
            <p>Short weight, a warm core, torn skin or a wrong trim: a claim is begun on the page of its run.</p>
          </Empty>
        )}
        <ul className="last-runs">
          {data?.map((claim) => (
            <li key={claim.id}>
              <Link to={`/log/claims/${claim.id}`}>
                <span>
                  <strong>
                    Claim {claim.number}: {claim.kinds.join(', ')}
                  </strong>
                  <small>
                    {claim.run.supplier ?? 'supplier not noted'} · {claim.run.item}, run {claim.run.number} · {dayText(claim.at)}
                  </small>
                </span>
                <span className="last-figure">
                  <small>asked</small>
                  {money(claim.asked)}
                </span>
                <span className="last-figure">
                  <small>{stateWords[claim.state]}</small>
                  {claim.state === 'credited' ? money(claim.credited) : '–'}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
    </main>
  )
}
