import type { Role } from '@fleam/core/runs/output'

/** What a cook calls the role of an output. */
export const roleWords: Record<Role, string> = {
  main: 'main',
  coproduct: 'co-product',
  byproduct: 'by-product',
  waste: 'waste',
}
