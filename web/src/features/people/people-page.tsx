import { type Person, personChange, personCreate, secretKindOf } from '@fleam/contract/people'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { peopleQuery, useHasRole } from '../../api/queries.ts'
import { CheckField, Choice, TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { KitchenTabs } from '../kitchen/kitchen-tabs.tsx'
import { Invitations } from '../kitchens/invitations.tsx'

const roles: { value: Person['role']; label: string }[] = [
  { value: 'student', label: 'Student' },
  { value: 'cook', label: 'Cook' },
  { value: 'instructor', label: 'Instructor' },
  { value: 'lead', label: 'Lead' },
  { value: 'manager', label: 'Manager' },
]
const secretHints = { pin: '4 to 8 figures; opens on the kitchen’s own tablets', passphrase: 'At least 12 characters: a few words' }
const may: Record<Person['role'], string> = {
  student: 'Students practise, and cut what their instructor gives them; of the kitchen’s runs they see their own.',
  cook: 'Cooks receive, weigh and finish their own runs.',
  instructor: 'Instructors also teach groups of students, give exercises and mark them.',
  lead: 'Leads also finish others’ runs and open closed ones for a correction.',
  manager: 'Managers also keep prices, people, limits and imports.',
}

export function Page() {
  const people = useQuery(peopleQuery)
  const isManager = useHasRole('manager')
  const [editing, setEditing] = useState<Person | 'new'>()
  return (
    <main className="page">
      <KitchenTabs />
      <section className="sheet">
        <header className="result-head">
          <h1>People</h1>
          {isManager && (
            <Button variant="act" onClick={() => setEditing('new')}>
              Add a person
            </Button>
          )}
        </header>
        {people.isPending && <Loading what="people" />}
        {people.error && <Failed error={people.error} retry={people.refetch} />}
        <ul className="people">
          {people.data?.map((person) => (
            <li key={person.id} className={person.active ? '' : 'inactive'}>
              <strong>{person.name}</strong>
              <span>{person.active ? person.role : 'cannot sign in'}</span>
              {isManager && (
                <Button variant="plain" aria-label={`Change ${person.name}`} onClick={() => setEditing(person)}>
                  Change
                </Button>
              )}
            </li>
          ))}
        </ul>
        <p className="field-hint">{Object.values(may).join(' ')}</p>
      </section>
      {isManager && <Invitations roles={roles} />}
      {editing && (
        <PersonForm
          key={editing === 'new' ? 'new' : editing.id}
          person={editing === 'new' ? undefined : editing}
          onClose={() => setEditing(undefined)}
        />
      )}
    </main>
  )
}

function PersonForm({ person, onClose }: { person: Person | undefined; onClose: () => void }) {
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const { submit, field, form, message, busy } = useRequestForm({
    start: { name: person?.name ?? '', role: person?.role ?? ('cook' as Person['role']), secret: '', active: person?.active ?? true },
    schema: person ? personChange : personCreate,
    toRequest: ({ name, role, secret, active }) =>
      person ? { version: person.version, name, role, active, ...(secret ? { secret } : {}) } : { id, name, role, secret },
    send: (request) => (person ? send<Person>('PUT', `/people/${person.id}`, request) : send<Person>('POST', '/people', request)),
  })
  const role = form.watch('role')
  const { error: roleError, ...roleField } = field('role')

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit())) return
    await queryClient.invalidateQueries({ queryKey: peopleQuery.queryKey })
    onClose()
  }

  return (
    <SidePanel title={person ? person.name : 'Add a person'} onClose={onClose}>
      <Form className="stack" onSubmit={keep}>
        <TextField label="Name, to sign in with" {...field('name')} autoComplete="off" />
        <Choice label="Role" {...roleField} options={roles} />
        {roleError && <Warning>{roleError}</Warning>}
        <p className="field-hint">{may[role]}</p>
        <TextField
          label={secretKindOf(role) === 'pin' ? 'PIN' : 'Passphrase'}
          type="password"
          {...field('secret')}
          autoComplete="new-password"
          hint={person?.role === role ? 'Leave empty to keep the present one' : secretHints[secretKindOf(role)]}
        />
        {person && <CheckField label="Can sign in" {...field('active')} />}
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Keep
        </Button>
      </Form>
    </SidePanel>
  )
}
