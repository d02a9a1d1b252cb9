import type { PlateRule } from './plates.ts'

/**
 * The output that a sheet's portions are: the first main with a portion rule, else its first main.
 * @example portionOutput([{ key: 'head', role: 'main' }, { key: 'steak', role: 'main', portion: {} }])?.key === 'steak'
 */
export function portionOutput<Rule extends PlateRule>(outputs: readonly Rule[]): Rule | undefined {
  const mains = outputs.filter((output) => output.role === 'main')
  return mains.find((output) => output.portion !== undefined) ?? mains[0]
}
