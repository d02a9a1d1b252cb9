/** What people are in a kitchen, each able to do all that the one before is. No schema, so that every page can have it. */
export const roles = ['student', 'cook', 'instructor', 'lead', 'manager'] as const
export type PersonRole = (typeof roles)[number]

/** Whether a role may do what another may. */
export const mayAs = (own: PersonRole, needed: PersonRole): boolean => roles.indexOf(own) >= roles.indexOf(needed)
