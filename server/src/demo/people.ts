import type { PersonRole } from '@fleam/contract/roles'

/** The made-up people of the demo kitchen, with the secrets that the sign-in page offers. */
export const demoPeople: readonly { name: string; role: PersonRole; secret: string }[] = [
  { name: 'Maren Holt', role: 'manager', secret: 'tide-table-7' },
  { name: 'Tobias Quill', role: 'lead', secret: 'ebb lamp rope quay' },
  { name: 'Adaeze Lindqvist', role: 'lead', secret: 'salt gull north buoy' },
  { name: 'Ines Calloway', role: 'cook', secret: '4182' },
  { name: 'Jory Penhale', role: 'cook', secret: '7305' },
  { name: 'Pip Marsden', role: 'cook', secret: '2963' },
  { name: 'Oriel Trevanion', role: 'instructor', secret: 'tern moss keel slip' },
  { name: 'Wren Fairlight', role: 'student', secret: '5093' },
]

/** The rest of a class of fourteen; each signs in with the secret of the first. */
export const classmates = [
  'Abel Corrigan',
  'Bettany Voss',
  'Cosmo Harkaway',
  'Delphi Amory',
  'Emrys Tolland',
  'Fenella Brook',
  'Gideon Sayle',
  'Hester Quince',
  'Ivo Pendarves',
  'Juno Alderley',
  'Kit Marrable',
  'Lowri Stannage',
  'Moss Trewin',
] as const
