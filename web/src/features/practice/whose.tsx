import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'
import { peopleQuery, useHasRole, useSession } from '../../api/queries.ts'
import { SelectField } from '../../ui/fields.tsx'
import { groupsQuery } from '../classes/queries.ts'

/** Whose practice is shown: oneself; anyone for a lead, one's own students for an instructor. */
export function useWhose(): { person: string; isOwn: boolean; choice: React.ReactNode } {
  const me = useSession().person
  const isLead = useHasRole('lead')
  const teaches = useHasRole('instructor')
  const [search, setSearch] = useSearchParams()
  const people = useQuery({ ...peopleQuery, enabled: isLead })
  const groups = useQuery({ ...groupsQuery, enabled: teaches && !isLead })
  const students = [...new Map((groups.data ?? []).flatMap(({ members }) => members).map((one) => [one.id, one])).values()]
  const others = isLead ? (people.data ?? []).filter(({ active }) => active) : students
  const person = (teaches && search.get('person')) || me.id
  const options = [...(others.some(({ id }) => id === me.id) ? [] : [me]), ...others].map(({ id, name }) => ({ value: id, label: name }))
  const choice = teaches && options.length > 1 && (
    <SelectField
      label="Whose"
      value={person}
      onChange={(value) => setSearch(value === me.id ? {} : { person: value }, { replace: true })}
      options={options}
    />
  )
  return { person, isOwn: person === me.id, choice }
}
