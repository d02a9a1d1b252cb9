import type { PersonRole } from '@fleam/contract/roles'

/** The made-up people of the demo kitchen, with the secrets that the sign-in page offers. */
export const demoPeople: readonly { name: string; role: PersonRole; secret: string }[] = [
  { name: 'Maren Holt', role: 'manager', secret: 'tide-table-7' },
  { name: 'Tobias Quill', role: 'lead', secret: '2468' },
  { name: 'Adaeze Lindqvist', role: 'lead', secret: '1357' },
  { name: 'Ines Calloway', role: 'cook', secret: '1111' },
  { name: 'Jory Penhale', role: 'cook', secret: '2222' },
  { name: 'Pip Marsden', role: 'cook', secret: '3333' },
]
