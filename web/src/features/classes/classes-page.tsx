import type { Exercise, StudentGroup } from '@fleam/contract/classes'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { useHasRole, useSession } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { dayText } from '../../ui/days.ts'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { SchoolTabs } from '../practice/school-tabs.tsx'
import './classes.scss'
import { GivePanel } from './give-panel.tsx'
import { GroupPanel } from './group-panel.tsx'
import { exercisesQuery, groupsQuery } from './queries.ts'

/** Groups of students and what they are given to do; for a student, what is to be done. */
export function Page() {
  const teaches = useHasRole('instructor')
  const exercises = useQuery(exercisesQuery)
  const { data, error, refetch } = exercises
  return (
    <main className="page">
      <SchoolTabs />
      <section className="sheet stack">
        <header className="result-head">
          <div>
            <h1>Classes</h1>
            <p className="under-title">
              {teaches
                ? 'Give an exercise, watch the benches, mark while walking round.'
                : 'What you are given to do, and what came of it.'}
            </p>
          </div>
        </header>
        {!data && !error && <Loading what="the exercises" />}
        {!data && error && <Failed error={error} retry={refetch} />}
        {data && <Exercises exercises={data} teaches={teaches} />}
      </section>
      {teaches && <Groups />}
    </main>
  )
}

function Exercises({ exercises, teaches }: { exercises: readonly Exercise[]; teaches: boolean }) {
  const { person } = useSession()
  if (exercises.length === 0)
    return (
      <Empty title={teaches ? 'No exercise was given yet.' : 'You were given nothing to do yet.'}>
        {teaches ? <p>Make a group below, then give it an exercise.</p> : <p>Meanwhile, practise or cut on screen.</p>}
      </Empty>
    )
  return (
    <ul className="exercise-list">
      {exercises.map(({ id, name, day, group, instructor, task, sheetName, itemName, handedBackAt, ownRunId }) => (
        <li key={id}>
          <Link to={`/school/classes/${id}`} className="exercise-tile">
            <strong>{name}</strong>
            <span>
              {dayText(day)} · {group.name}
              {instructor.id !== person.id && ` · ${instructor.name}`}
            </span>
            <span>{task.kind === 'bench' ? `${itemName}: ${sheetName}` : `Piece ${task.seed} on screen`}</span>
            <em>{handedBackAt ? 'Handed back' : ownRunId ? 'Under way' : teaches ? 'Open' : 'To do'}</em>
          </Link>
        </li>
      ))}
    </ul>
  )
}

function Groups() {
  const { data, error, refetch } = useQuery(groupsQuery)
  const [editing, setEditing] = useState<StudentGroup | 'new'>()
  const [givingTo, setGivingTo] = useState<StudentGroup>()
  return (
    <section className="sheet stack">
      <header className="result-head">
        <h2>Groups</h2>
        <Button variant="plain" onClick={() => setEditing('new')}>
          Add a group
        </Button>
      </header>
      {!data && !error && <Loading what="the groups" />}
      {!data && error && <Failed error={error} retry={refetch} />}
      {data?.length === 0 && <Empty title="There is no group yet." />}
      {data && data.length > 0 && (
        <ul className="group-list">
          {data.map((group) => (
            <li key={group.id}>
              <div>
                <strong>{group.name}</strong>
                <p>
                  {counted(group.members.length, 'student')}: {group.members.map(({ name }) => name).join(', ')}
                </p>
              </div>
              <div className="actions">
                <Button variant="act" disabled={group.members.length === 0} onClick={() => setGivingTo(group)}>
                  Give an exercise
                </Button>
                <Button variant="plain" onClick={() => setEditing(group)}>
                  Change
                </Button>
                <a className="btn btn-plain" href={`/api/v1/groups/${group.id}/gradebook.csv`} download>
                  Gradebook
                </a>
                <a className="btn btn-plain" href={`/api/v1/groups/${group.id}/gradebook.csv?names=no`} download>
                  Without names
                </a>
              </div>
            </li>
          ))}
        </ul>
      )}
      {editing && (
        <GroupPanel
          key={editing === 'new' ? 'new' : editing.id}
          group={editing === 'new' ? undefined : editing}
          onClose={() => setEditing(undefined)}
        />
      )}
      {givingTo && <GivePanel group={givingTo} onClose={() => setGivingTo(undefined)} />}
    </section>
  )
}
