/** What an instructor looks at. */
export interface Criterion {
  key: string
  name: string
  look: string
  /** What it counts against the others. */
  weight: number
}

/** What instructors look at; a cut sheet names those that belong to it, with their weights. */
export const criteria: readonly Omit<Criterion, 'weight'>[] = [
  { key: 'station', name: 'Station set', look: 'Mat, sanitiser, steel, dry product, a tub for every output' },
  { key: 'knife', name: 'Hold and knife', look: 'Holding hand behind the blade, edge away from it, no force' },
  { key: 'joints', name: 'Joints cut, no bone', look: 'Smooth cartilage, no chips' },
  { key: 'frame', name: 'Nothing left on the frame', look: 'What can be scraped off it' },
  { key: 'oyster', name: 'Oyster on the thigh', look: 'Both, whole' },
  { key: 'skin', name: 'Skin whole', look: 'No tear where it must hold' },
  { key: 'even', name: 'Portions even', look: 'Within tolerance, or alike' },
  { key: 'sorted', name: 'Trim sorted', look: 'Every output in its own tub, nothing unweighed' },
  { key: 'time', name: 'Time', look: 'Last of all: accuracy, then evenness, then minutes' },
  { key: 'clean-down', name: 'Clean-down', look: 'Board, knives, bench, hands' },
  { key: 'bones', name: 'No bones, clean flesh', look: 'Run a finger along it' },
  { key: 'clear', name: 'Fillet clean off the frame', look: 'The frame is bare, the fillet whole' },
  { key: 'silverskin', name: 'Silverskin off in strips', look: 'No red on them, no gouge in the face' },
  { key: 'fat', name: 'Fat as the sheet says', look: 'Neither bare nor under-trimmed' },
  { key: 'faces', name: 'Faces square, across the grain', look: 'No wedge, no rag' },
  { key: 'tying', name: 'Tied even and tight', look: 'A tie every 3 cm, none cutting in' },
  { key: 'scraped', name: 'Bones clean, one length', look: 'No string of meat, no splinter' },
]

/**
 * The criteria that a cut sheet names, with its weights; one that is unknown is left out.
 *
 * @example rubricOf([{ key: 'time', weight: 1 }])[0].name // 'Time'
 */
export function rubricOf(named: readonly { key: string; weight: number }[]): Criterion[] {
  return named.flatMap(({ key, weight }) => criteria.filter((one) => one.key === key).map((one) => ({ ...one, weight })))
}
