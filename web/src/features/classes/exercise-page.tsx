import type { Exercise } from '@fleam/contract/classes'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { useHasRole, useSession } from '../../api/queries.ts'
import { Failed, Loading } from '../../ui/notes.tsx'
import { SchoolTabs } from '../practice/school-tabs.tsx'
import './classes.scss'
import { OwnExercise } from './own-exercise.tsx'
import { exerciseQuery } from './queries.ts'
import { Wall } from './wall.tsx'

/** One exercise: the benches of all for who gave it, the own one for who does it. */
export function Page() {
  const { id = '' } = useParams()
  const { data, error, refetch } = useQuery(exerciseQuery(id))
  return (
    <main className="page">
      <SchoolTabs />
      {!data && !error && <Loading what="the exercise" />}
      {!data && error && <Failed error={error} retry={refetch} />}
      {data && <Shown exercise={data} />}
    </main>
  )
}

function Shown({ exercise }: { exercise: Exercise }) {
  const isLead = useHasRole('lead')
  const teaches = useHasRole('instructor')
  const { person } = useSession()
  return isLead || (teaches && exercise.instructor.id === person.id) ? <Wall exercise={exercise} /> : <OwnExercise exercise={exercise} />
}
