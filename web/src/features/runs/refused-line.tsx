import type { Run } from '@fleam/contract/runs'
import Button from 'react-bootstrap/Button'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { useHasRole } from '../../api/queries.ts'
import type { OutboxLine } from '../../outbox/outbox-line.ts'
import { outbox } from '../../outbox/tablet-outbox.ts'
import { momentText } from '../../ui/days.ts'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'

const lotWords = {
  take: 'Taking',
  put: 'Moving',
  freeze: 'Freezing',
  thaw: 'Thawing',
  count: 'Counting',
  split: 'Splitting',
  keep: 'Keeping',
  block: 'Blocking',
  release: 'Releasing',
  undo: 'Taking back of',
} as const
const lineWords = { weighing: '', reversal: 'Taking back ', move: 'Moving ' } as const

/** A line that the server will not have: send it again, open its run for it, or let it go with a note on the run. */
export function RefusedLine({ line }: { line: OutboxLine }) {
  const { weight } = useUnits()
  const isLead = useHasRole('lead')
  const words =
    line.kind === 'lot'
      ? `${lotWords[line.what.kind]} ${line.name}`
      : line.kind === 'event'
        ? 'A note at the bench'
        : line.kind === 'follow-on'
          ? `${line.what.kind === 'checked' ? 'A check' : 'A weighing'} of ${line.name}`
          : line.kind === 'picture'
            ? 'A picture'
            : `${lineWords[line.kind]}${weight(line.tenths)}`
  const { change: openAndSend, trouble: notSent } = useChange({
    send: async () => {
      if (line.runId === undefined) return
      const run = await get<Run>(`/runs/${line.runId}`)
      if (run.status === 'finished' || run.status === 'discarded') {
        await send('POST', `/runs/${line.runId}/reopen`, { version: run.version, reason: `A weighing from a tablet came late: ${words}` })
      }
      await outbox.sendAgain(line.id)
    },
  })
  const { change: letGo, trouble: notLetGo } = useChange({
    send: async () => {
      if (line.runId !== undefined && line.kind !== 'event') {
        const note = `Not counted: ${words}, ${line.person.name}, ${momentText(line.at)}. ${line.refusal}`.slice(0, 400)
        await send('POST', `/runs/${line.runId}/defects`, { id: newId(), kind: 'other', note })
      }
      await outbox.dismiss(line.id)
    },
  })
  const trouble = notSent ?? notLetGo

  return (
    <div className="outbox-refused">
      <p>
        <strong>{words}</strong> ({line.person.name}, {momentText(line.at)}): {line.refusal}
      </p>
      {trouble && <p className="hot">{trouble}</p>}
      <div className="sheet-actions">
        {line.refusalKind === 'run-closed' && isLead && (
          <Button variant="line" onClick={() => openAndSend()}>
            Open the run and put it in
          </Button>
        )}
        <Button variant="line" onClick={() => void outbox.sendAgain(line.id)}>
          Send again
        </Button>
        <Button variant="line" onClick={() => letGo()}>
          {line.runId === undefined ? 'Let it go' : 'Let it go, noted on the run'}
        </Button>
      </div>
    </div>
  )
}
