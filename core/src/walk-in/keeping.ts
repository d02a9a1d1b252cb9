import type { Role } from '../runs/output.ts'

/** What something counts as when it is asked how long it keeps. */
export const keptKinds = [
  'raw poultry',
  'raw fish',
  'raw cuts',
  'bones and carcasses',
  'grind and sausage',
  'stock',
  'rendered fat',
  'confit',
  'cooked and sliced',
  'cured and dried',
] as const
export type KeptKind = (typeof keptKinds)[number]

/** Whole days that a kind keeps, chilled at 5 °C or below, and frozen at −18 °C for its quality. */
export interface KeptDays {
  chilledDays: number
  frozenDays: number
}

/** How long this kitchen keeps what it has. */
export interface Keeping {
  kinds: Readonly<Record<KeptKind, KeptDays>>
  /** Days after thawing, and never more than were left when it was frozen. */
  thawedDays: number
  /** What is cooked, rendered or cured begins a date of its own; unless so, it is gone with what it was made of. */
  cookedBeginsAnew: boolean
}

/** Common public guidance, for every kitchen to replace by its own; local food code comes first. */
export const usualKeeping: Keeping = {
  kinds: {
    'raw poultry': { chilledDays: 2, frozenDays: 180 },
    'raw fish': { chilledDays: 2, frozenDays: 120 },
    'raw cuts': { chilledDays: 5, frozenDays: 120 },
    'bones and carcasses': { chilledDays: 2, frozenDays: 90 },
    'grind and sausage': { chilledDays: 2, frozenDays: 90 },
    stock: { chilledDays: 4, frozenDays: 90 },
    'rendered fat': { chilledDays: 60, frozenDays: 180 },
    confit: { chilledDays: 14, frozenDays: 90 },
    'cooked and sliced': { chilledDays: 4, frozenDays: 60 },
    'cured and dried': { chilledDays: 30, frozenDays: 90 },
  },
  thawedDays: 1,
  cookedBeginsAnew: false,
}

const cooked: ReadonlySet<KeptKind> = new Set(['stock', 'rendered fat', 'confit', 'cooked and sliced', 'cured and dried'])
/**
 * Whether a kind has been through heat, salt or drying.
 * @example isCooked('stock') === true
 */
export const isCooked = (kind: KeptKind): boolean => cooked.has(kind)

const bones = /bone|carcass|back|frame|head|neck|sinew|silverskin/i
const grind = /grind|trim|sausage/i

/**
 * What comes off a board counts as, by its animal and what it is called; a person can say otherwise.
 * @example keptKindOf('beef', 'byproduct', 'Lean trim for grinding') // 'grind and sausage'
 */
export function keptKindOf(animal: string, role: Role, name: string): KeptKind {
  if (role === 'byproduct' && bones.test(name)) return 'bones and carcasses'
  if (animal === 'bird') return 'raw poultry'
  if (animal === 'fish') return 'raw fish'
  return role === 'byproduct' && grind.test(name) ? 'grind and sausage' : 'raw cuts'
}
