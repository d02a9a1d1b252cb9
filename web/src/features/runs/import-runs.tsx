import type { ImportReport, importProgress } from '@fleam/contract/run-export'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import type * as z from 'zod'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { counted } from '../../ui/counted.ts'
import { dayText } from '../../ui/days.ts'
import { FileField } from '../../ui/fields.tsx'
import { ImportProblems } from '../../ui/import-problems.tsx'
import { Warning, Word } from '../../ui/notes.tsx'
import { Progress } from '../../ui/progress.tsx'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useChange } from '../../ui/use-change.ts'

/** Thousands of runs take a while to read and write. */
const patienceMs = 10 * 60_000

/** Shows what a file holds before anything is written; then all of it is, or nothing. */
export function ImportRuns({ onClose }: { onClose: () => void }) {
  const queryClient = useQueryClient()
  const [text, setText] = useState('')
  const [report, setReport] = useState<ImportReport>()
  const [id] = useState(newId)
  const { change, trouble, busy } = useChange({
    send: ({ content, preview }: { content: string; preview: boolean }) =>
      send<ImportReport>('POST', `/run-imports?preview=${preview}&id=${id}`, content || ' ', patienceMs),
  })

  const progress = useQuery({
    queryKey: ['run-import', id],
    queryFn: () => get<z.infer<typeof importProgress>>(`/run-imports/${id}`),
    enabled: busy,
    refetchInterval: 500,
    retry: false,
    gcTime: 0,
  })

  async function run(content: string, preview: boolean) {
    const answer = await change({ content, preview })
    setReport(answer)
    if (answer?.written) await queryClient.invalidateQueries()
  }

  async function choose(file: File) {
    const content = await file.text()
    setText(content)
    await run(content, true)
  }

  return (
    <SidePanel title="Import runs" onClose={onClose}>
      <div className="stack">
        <FileField label="JSON file from a yield log" accept=".json,application/json" onChoose={choose} />
        {trouble && <Warning>{trouble}</Warning>}
        {busy && (
          <div role="status">
            {report ? 'Writing' : 'Reading'} …
            <Progress now={100 * (progress.data?.done ?? 0)} name="How far it is" />
          </div>
        )}
        {report && <Report report={report} />}
        {report && !report.written && report.problems.length === 0 && report.newRuns.length > 0 && (
          <Button variant="act" disabled={busy} onClick={() => run(text, false)}>
            Write {report.newRuns.length === 1 ? 'this run' : `these ${counted(report.newRuns.length, 'run')}`}
          </Button>
        )}
      </div>
    </SidePanel>
  )
}

function Report({ report }: { report: ImportReport }) {
  if (report.problems.length > 0) {
    return (
      <Warning>
        <ImportProblems problems={report.problems} />
      </Warning>
    )
  }
  const added = [
    ['people, who cannot sign in', report.added.people],
    ['suppliers', report.added.suppliers],
    ['items', report.added.items],
    ['cut sheets', report.added.cutSheets],
  ] as const
  return (
    <>
      <Word isGood>
        {report.written
          ? `${counted(report.newRuns.length, 'run was', 'runs were')} written.`
          : `${counted(report.newRuns.length, 'new run')} from ${report.kitchenName}.`}
        {report.alreadyHere > 0 && ` ${counted(report.alreadyHere, 'is', 'are')} here already.`}
        {report.stillOpen > 0 && ` ${counted(report.stillOpen, 'is still open there and is', 'are still open there and are')} left out.`}
      </Word>
      {added.map(([what, names]) =>
        names.length === 0 ? null : (
          <p key={what}>
            {report.written ? 'Added' : 'Would add'} {what}: {names.join(', ')}.
          </p>
        ),
      )}
      <ul>
        {report.newRuns.slice(0, 20).map((run) => (
          <li key={`${run.number} ${run.startedAt}`}>
            Run {run.number}: {run.item}, {run.cook}, {dayText(run.startedAt)}
          </li>
        ))}
        {report.newRuns.length > 20 && <li>and {report.newRuns.length - 20} more</li>}
      </ul>
    </>
  )
}
