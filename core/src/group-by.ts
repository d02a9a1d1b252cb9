/**
 * Entries by a key, in their order. (`Map.groupBy`, which Node 20 does not have.)
 * @example [...groupBy([1, 2, 3], (one) => one % 2)] // [[1, [1, 3]], [0, [2]]]
 */
export function groupBy<Entry, Key>(entries: Iterable<Entry>, keyOf: (entry: Entry) => Key): Map<Key, Entry[]> {
  const groups = new Map<Key, Entry[]>()
  for (const entry of entries) {
    const key = keyOf(entry)
    const group = groups.get(key)
    if (group) group.push(entry)
    else groups.set(key, [entry])
  }
  return groups
}
