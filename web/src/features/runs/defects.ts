import { type Defect, defectKinds, type Run } from '@fleam/contract/runs'

type Animal = Run['item']['animal']

/** Defects that only some animals can have. */
const onlyOf: Partial<Record<Defect['kind'], readonly Animal[]>> = {
  'gouged meat with the silverskin': ['beef', 'lamb'],
  'oyster left on the carcass': ['bird'],
  'breast meat left on the wing or wishbone': ['bird'],
  'hip broken instead of parted': ['bird'],
  'skin torn': ['bird', 'fish'],
  'cut with the grain': ['beef', 'lamb'],
  'uneven cutlets at the shoulder end': ['lamb'],
  'side muscle thrown away': ['beef'],
  'carcass thrown away': ['bird', 'fish'],
  'liquid not weighed': ['beef', 'lamb'],
}

/** Defects that may be noted of an animal, in the order they are listed. */
export function defectsOf(animal: Animal): Defect['kind'][] {
  return defectKinds.filter((kind) => onlyOf[kind]?.includes(animal) ?? true)
}
