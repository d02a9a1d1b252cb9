import type { RunSummary } from '@fleam/contract/runs'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { get } from '../../../api/http.ts'
import { momentText } from '../../../ui/days.ts'
import { Empty, Failed, Loading } from '../../../ui/notes.tsx'
import { useUnits } from '../../../ui/units.ts'

/** Every open run, to go on with. */
export function Page() {
  const { weight } = useUnits()
  const open = useQuery({ queryKey: ['runs', 'open'], queryFn: () => get<{ entries: RunSummary[] }>('/runs?status=open&limit=50') })
  return (
    <main className="page">
      <section className="sheet">
        <h1>Which run is on the bench?</h1>
        {open.isPending && <Loading what="open runs" />}
        {open.error && <Failed error={open.error} retry={open.refetch} />}
        {open.data?.entries.length === 0 && (
          <Empty title="Nothing is being cut.">
            <p>Weigh in what came, and its tray stands here.</p>
          </Empty>
        )}
        <div className="run-tiles">
          {open.data?.entries.map((run) => (
            <Link key={run.id} className="run-tile" to={`/bench/${run.id}`}>
              <strong>{run.item.name}</strong>
              <span>
                Run {run.number} · {run.cook.name} · {momentText(run.startedAt)}
              </span>
              <span>
                {run.cutSheet.name} · {weight(run.received.tenths)}
              </span>
              <b>Go on cutting</b>
            </Link>
          ))}
        </div>
        <Link className="btn btn-act btn-large" to="/receive">
          Receive and weigh in
        </Link>
      </section>
    </main>
  )
}
