/** SQL for rows after `:last` or at one of the given places, which are numbers of our own counting. */
export function inPlaces(alias: string, places: readonly number[]): string {
  const after = `${alias}.sequence > :last`
  return places.length === 0 ? after : `(${after} OR ${alias}.sequence IN (${places.map(Number).join(', ')}))`
}
