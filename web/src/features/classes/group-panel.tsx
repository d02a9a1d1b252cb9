import { groupChange, groupCreate, type StudentGroup } from '@fleam/contract/classes'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { peopleQuery } from '../../api/queries.ts'
import { CheckField, TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { groupsQuery } from './queries.ts'

/** A group's name and who is in it. */
export function GroupPanel({ group, onClose }: { group: StudentGroup | undefined; onClose: () => void }) {
  const queryClient = useQueryClient()
  const people = useQuery(peopleQuery)
  const [id] = useState(newId)
  const { submit, field, form, message, busy } = useRequestForm({
    start: { name: group?.name ?? '', memberIds: group?.members.map((member) => member.id) ?? [] },
    schema: group ? groupChange : groupCreate,
    toRequest: ({ name, memberIds }) => (group ? { version: group.version, name, memberIds } : { id, name, memberIds }),
    send: (request) => (group ? send<StudentGroup>('PUT', `/groups/${group.id}`, request) : send<StudentGroup>('POST', '/groups', request)),
  })
  const memberIds = form.watch('memberIds')
  async function keep(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit())) return
    await queryClient.invalidateQueries({ queryKey: groupsQuery.queryKey })
    onClose()
  }
  const candidates = people.data?.filter(({ active, role }) => active && (role === 'student' || role === 'cook')) ?? []
  return (
    <SidePanel title={group ? group.name : 'Add a group'} onClose={onClose}>
      <Form className="stack" onSubmit={keep}>
        <TextField label="Name" {...field('name')} />
        <fieldset>
          <legend>Who is in it</legend>
          {people.isPending && <Loading what="the people" />}
          {people.error && <Failed error={people.error} retry={people.refetch} />}
          {people.data && candidates.length === 0 && <p>There are no students yet: a manager adds them under Kitchen, People.</p>}
          {candidates.map(({ id: personId, name, role }) => (
            <CheckField
              key={personId}
              label={role === 'student' ? name : `${name} (cook)`}
              value={memberIds.includes(personId)}
              onChange={(isIn) =>
                form.setValue('memberIds', isIn ? [...memberIds, personId] : memberIds.filter((other) => other !== personId), {
                  shouldDirty: true,
                })
              }
            />
          ))}
        </fieldset>
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Keep
        </Button>
      </Form>
    </SidePanel>
  )
}
