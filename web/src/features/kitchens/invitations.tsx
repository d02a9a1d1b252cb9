import { type InvitationMade, invitationCreate } from '@fleam/contract/kitchens'
import type { Person } from '@fleam/contract/people'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { momentText } from '../../ui/days.ts'
import { Choice } from '../../ui/fields.tsx'
import { Failed, Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useChange } from '../../ui/use-change.ts'
import { invitationsQuery } from './queries.ts'
import './kitchens.scss'

interface InvitationsProps {
  roles: readonly { value: Person['role']; label: string }[]
}

/** Codes by which people of other kitchens come into this one, each once. */
export function Invitations({ roles }: InvitationsProps) {
  const invitations = useQuery(invitationsQuery)
  const [isAsking, setIsAsking] = useState(false)
  const { change, busy, trouble } = useChange({
    send: (id: string) => send<void>('DELETE', `/invitations/${id}`),
    refresh: [invitationsQuery.queryKey],
    said: () => 'That code opens nothing any more.',
  })
  return (
    <section className="sheet stack">
      <header className="result-head">
        <h2>From other kitchens</h2>
        <Button variant="plain" onClick={() => setIsAsking(true)}>
          Ask somebody in
        </Button>
      </header>
      <p className="field-hint">
        Who has a passphrase in another kitchen of this server comes in by a code, with a role of their own here, and signs in once for
        both.
      </p>
      {invitations.error && <Failed error={invitations.error} retry={invitations.refetch} />}
      {trouble && <Warning>{trouble}</Warning>}
      <ul className="people">
        {invitations.data?.map(({ id, role, by, expiresAt }) => (
          <li key={id}>
            <strong>A code for a {role}</strong>
            <span>
              given out by {by}, until {momentText(expiresAt)}
            </span>
            <Button variant="plain" disabled={busy} aria-label={`Take the code for a ${role} back`} onClick={() => change(id)}>
              Take it back
            </Button>
          </li>
        ))}
      </ul>
      {isAsking && <AskIn roles={roles} onClose={() => setIsAsking(false)} />}
    </section>
  )
}

function AskIn({ roles, onClose }: InvitationsProps & { onClose: () => void }) {
  const queryClient = useQueryClient()
  const [made, setMade] = useState<InvitationMade>()
  const [id] = useState(newId)
  const { submit, field, message, busy } = useRequestForm({
    start: { role: 'lead' as Person['role'] },
    schema: invitationCreate,
    toRequest: ({ role }) => ({ id, role }),
    send: (request) => send<InvitationMade>('POST', '/invitations', request),
  })
  const { error: roleError, ...role } = field('role')
  async function ask(event: React.FormEvent) {
    event.preventDefault()
    setMade(await submit())
    await queryClient.invalidateQueries({ queryKey: invitationsQuery.queryKey })
  }
  return (
    <SidePanel title="Ask somebody in" onClose={onClose}>
      {made ? (
        <div className="stack">
          <p>Give this code to whom you mean; it is not shown again, and opens once, until {momentText(made.expiresAt)}.</p>
          <p className="code-shown">{made.code}</p>
          <Word>They type it where they are signed in, under their own name at the top.</Word>
          <Button variant="act" onClick={onClose}>
            Done
          </Button>
        </div>
      ) : (
        <Form className="stack" onSubmit={ask}>
          <p>What they may do here:</p>
          <Choice label="Role" {...role} options={roles} />
          {(roleError || message) && <Warning>{roleError ?? message}</Warning>}
          <Button type="submit" variant="act" disabled={busy}>
            Make a code
          </Button>
        </Form>
      )}
    </SidePanel>
  )
}
