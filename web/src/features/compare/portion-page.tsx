import type { Comparison, ComparisonBody } from '@fleam/contract/compare'
import { useQuery } from '@tanstack/react-query'
import { useCallback, useEffect, useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { get } from '../../api/http.ts'
import { comparisonsQuery } from '../../api/queries.ts'
import { Empty, Loading } from '../../ui/notes.tsx'
import { bodyOf, linkTo } from './body-link.ts'
import { type ChangeBody, PortionComparison } from './portion-comparison.tsx'
import { WithSources } from './with-sources.tsx'

const restMs = 200

/** A comparison whose address says all of it. */
export function Page() {
  const [search] = useSearchParams()
  const [body, setBody] = useState(() => bodyOf(search.get('of')))
  // the address follows what is tried out without a turn of the router, once the slider rests
  useEffect(() => {
    if (!body) return
    const timer = setTimeout(() => history.replaceState(history.state, '', linkTo(body)), restMs)
    return () => clearTimeout(timer)
  }, [body])
  const change = useCallback<ChangeBody>((next) => setBody((known) => known && next(known)), [])
  if (!body) return <Lost />
  return <Comparing body={body} onChange={change} />
}

/** A comparison that was kept by name; what is tried out on it is not kept until it is said. */
export function KeptPage() {
  const { id = '' } = useParams()
  const kept = useQuery({ queryKey: [...comparisonsQuery.queryKey, id], queryFn: () => get<Comparison>(`/comparisons/${id}`) })
  const [tried, setTried] = useState<ComparisonBody>()
  const own = kept.data?.body
  const change = useCallback<ChangeBody>((next) => setTried((known) => (known ?? own) && next((known ?? own) as ComparisonBody)), [own])
  if (kept.isPending) return <Loading what="the comparison" />
  if (!kept.data) return <Lost />
  return <Comparing key={kept.data.id} body={tried ?? kept.data.body} kept={kept.data} onChange={change} />
}

function Comparing(props: { body: ComparisonBody; kept?: Comparison; onChange: ChangeBody }) {
  return (
    <main className="page">
      <WithSources>{(sources) => <PortionComparison sources={sources} {...props} />}</WithSources>
    </main>
  )
}

function Lost() {
  return (
    <main className="page">
      <section className="sheet">
        <Empty isPage title="This address leads to no comparison.">
          <p>
            It may have been cut off on its way, or the comparison was taken off the list. <Link to="/compare">All decisions</Link> are
            here.
          </p>
        </Empty>
      </section>
    </main>
  )
}
