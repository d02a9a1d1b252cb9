import { withHouseFigures } from '@fleam/core/bench/house-figures'
import { useKitchen } from '../api/queries.ts'

/** Puts this kitchen's own figures into a caution. */
export function useHouseFigures(): (text: string) => string {
  const { limits } = useKitchen().settings
  return (text) => withHouseFigures(text, limits)
}
