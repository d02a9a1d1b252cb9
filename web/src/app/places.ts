import { mayAs, type PersonRole } from '@fleam/contract/roles'

/** The work of the day first. Where the bar is short, those that are not `isNear` stand in a group that opens. */
const places = [
  { to: '/', name: 'Board', end: true, isNear: true, isForStudents: false },
  { to: '/bench', name: 'Bench', end: false, isNear: true, isForStudents: true },
  { to: '/cut-sheets', name: 'Cut sheets', end: false, isNear: true, isForStudents: true },
  { to: '/walk-in', name: 'Walk-in', end: false, isNear: true, isForStudents: false },
  { to: '/days', name: 'Days', end: false, isNear: true, isForStudents: false },
  { to: '/plan', name: 'Plan', end: false, isNear: false, isForStudents: false },
  { to: '/compare', name: 'Compare', end: false, isNear: false, isForStudents: false },
  { to: '/log', name: 'Yield log', end: false, isNear: false, isForStudents: false },
  { to: '/school', name: 'School', end: false, isNear: true, isForStudents: true },
  { to: '/kitchen', name: 'Kitchen', end: false, isNear: false, isForStudents: false },
]

/** The places of a role: students have their bench, the sheets and the school. */
export const placesOf = (role: PersonRole) => places.filter(({ isForStudents }) => isForStudents || mayAs(role, 'cook'))
