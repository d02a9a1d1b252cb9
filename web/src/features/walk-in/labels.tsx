import type { LabelPrint, Printer } from '@fleam/contract/labels'
import { useQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { counted } from '../../ui/counted.ts'
import { Warning, Word } from '../../ui/notes.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import { say } from '../../ui/toasts.ts'
import { useChange } from '../../ui/use-change.ts'
import { labelSizes } from './label-sizes.ts'

const printsKey = ['label-prints']
const whileWaitingMs = 1500
const mostLabels = 120

/** Labels of lots, as PDF in the size that this tablet used last, or straight to a printer where the kitchen has one. */
export function Labels({ lots }: { lots: readonly { id: string }[] }) {
  const [size, setSize] = useRemembered('label-size', '62x29')
  const [printerId, setPrinterId] = useRemembered('label-printer', '')
  const { data: printers = [] } = useQuery({
    queryKey: ['printers'],
    queryFn: async () => (await get<{ entries: Printer[] }>('/printers')).entries,
    staleTime: 60_000,
  })
  const printer = printers.find(({ id }) => id === printerId) ?? printers[0]
  const ids = lots.slice(0, mostLabels).map(({ id }) => id)
  const { change: print, busy } = useChange({
    send: () => send<LabelPrint>('POST', '/label-prints', { id: newId(), printerId: printer?.id, lotIds: ids }),
    refresh: [printsKey],
    said: () => `${counted(ids.length, 'label')} to ${printer?.name}.`,
  })
  if (lots.length === 0) return null
  return (
    <div className="label-line no-print">
      <a href={`/api/v1/labels.pdf?size=${size}&ids=${ids.join(',')}`} target="_blank" rel="noreferrer">
        {lots.length === 1 ? 'Label as PDF' : `Labels of these ${ids.length} as PDF`}
      </a>
      <Form.Select aria-label="Size of labels" value={size} onChange={(event) => setSize(event.target.value)}>
        {labelSizes.map(({ value, label }) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </Form.Select>
      {printer && (
        <>
          <Button variant="plain" disabled={busy} onClick={() => void print().then((done) => done ?? say('They could not be sent.'))}>
            {lots.length === 1 ? 'Print its label' : `Print ${ids.length} labels`}
          </Button>
          {printers.length > 1 ? (
            <Form.Select aria-label="Printer" value={printer.id} onChange={(event) => setPrinterId(event.target.value)}>
              {printers.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </Form.Select>
          ) : (
            <small>{printer.name}</small>
          )}
        </>
      )}
    </div>
  )
}

/** Labels that wait at a printer, with why, until they are printed or somebody lets them go. */
export function WaitingLabels() {
  const { data = [] } = useQuery({
    queryKey: printsKey,
    queryFn: async () => (await get<{ entries: LabelPrint[] }>('/label-prints')).entries,
    refetchInterval: ({ state }) => (state.data?.some((print) => print.state === 'waiting') ? whileWaitingMs : false),
  })
  const { change: letGo } = useChange({
    send: (id: string) => send('DELETE', `/label-prints/${id}`),
    refresh: [printsKey],
    said: () => 'Let go: they are not printed.',
  })
  const waiting = data.filter(({ state }) => state === 'waiting')
  if (waiting.length === 0) return null
  return (
    <section className="stack no-print">
      {waiting.map(({ id, labels, printer, why }) =>
        why === '' ? (
          <Word key={id}>
            {counted(labels, 'label')} to {printer} …
          </Word>
        ) : (
          <Warning key={id}>
            {counted(labels, 'label waits', 'labels wait')} at {printer}: {why} Tried again by itself.{' '}
            <Button variant="line" onClick={() => void letGo(id)}>
              Let them go
            </Button>
          </Warning>
        ),
      )}
    </section>
  )
}
