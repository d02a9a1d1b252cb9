/** The work of the day first. Where the bar is short, those that are not `isNear` stand in a group that opens. */
export const places = [
  { to: '/', name: 'Board', end: true, isNear: true },
  { to: '/bench', name: 'Bench', end: false, isNear: true },
  { to: '/cut-sheets', name: 'Cut sheets', end: false, isNear: true },
  { to: '/walk-in', name: 'Walk-in', end: false, isNear: true },
  { to: '/days', name: 'Days', end: false, isNear: true },
  { to: '/plan', name: 'Plan', end: false, isNear: false },
  { to: '/compare', name: 'Compare', end: false, isNear: false },
  { to: '/log', name: 'Yield log', end: false, isNear: false },
  { to: '/school', name: 'School', end: false, isNear: true },
  { to: '/kitchen', name: 'Kitchen', end: false, isNear: false },
]
