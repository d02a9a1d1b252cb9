import { dayCounts, type KitchenDay } from '@fleam/contract/day'
import { useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { dayQuery, daysQuery } from '../../api/queries.ts'
import { FileField, LinesField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { say } from '../../ui/toasts.ts'

/** Counts of guests and portions, from the list that the office keeps. */
export function DayCounts({ day }: { day: KitchenDay }) {
  const queryClient = useQueryClient()
  const { submit, form, field, message, busy } = useRequestForm<{ text: string }, KitchenDay>({
    start: { text: '' },
    schema: dayCounts,
    toRequest: ({ text }) => ({ version: day.version, text }),
    send: (request) => send<KitchenDay>('POST', `/days/${day.id}/counts`, request),
    next: () => ({ text: '' }),
  })
  async function take(event: React.FormEvent) {
    event.preventDefault()
    const counted = await submit()
    if (!counted) return
    queryClient.setQueryData(dayQuery(day.id).queryKey, counted)
    void queryClient.invalidateQueries({ queryKey: daysQuery.queryKey })
    say('The counts are in the day.')
  }
  return (
    <details className="sheet no-print">
      <summary>Counts from a list (CSV)</summary>
      <Form className="stack" onSubmit={take}>
        <p className="field-hint">
          Columns service, dish and count, such as “Carvery;;236” for guests and “Wedding;Steak, marrow;41” for portions. Nothing is taken
          unless every line is understood.
        </p>
        <FileField label="File" accept=".csv,text/csv,text/plain" onChoose={async (file) => field('text').onChange(await file.text())} />
        <LinesField label="List" {...field('text')} rows={5} />
        {message && <Warning>{message}</Warning>}
        <div className="actions">
          <Button type="submit" variant="plain" disabled={busy || !form.formState.isDirty}>
            Take these counts
          </Button>
        </div>
      </Form>
    </details>
  )
}
