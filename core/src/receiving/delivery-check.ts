/** What can be wrong with a delivery, in the words of a claim. */
export const claimKinds = ['short weight', 'warm core', 'torn skin', 'wrong trim', 'wrong size', 'bruised or spoiled', 'other'] as const
export type ClaimKind = (typeof claimKinds)[number]
type Animal = 'bird' | 'fish' | 'beef' | 'lamb'

/** One thing to look at when something comes: the first answer is as it should be. */
export interface Look {
  key: LookKey
  asks: string
  answers: readonly string[]
  /** What an answer other than the first is claimed as. */
  claim: ClaimKind
}

export const lookKeys = ['skin', 'size', 'rigor', 'trim', 'cover', 'colour', 'smell'] as const
export type LookKey = (typeof lookKeys)[number]

const size: Look = { key: 'size', asks: 'Size', answers: ['as ordered', 'smaller', 'larger', 'uneven'], claim: 'wrong size' }
const colour: Look = { key: 'colour', asks: 'Colour', answers: ['right', 'pale', 'dark or dull', 'bruised'], claim: 'bruised or spoiled' }
const smell: Look = { key: 'smell', asks: 'Smell', answers: ['clean', 'off'], claim: 'bruised or spoiled' }
const trim: Look = {
  key: 'trim',
  asks: 'Trim level',
  answers: ['as ordered', 'less trimmed', 'more trimmed', 'cut into'],
  claim: 'wrong trim',
}
const cover: Look = { key: 'cover', asks: 'Fat cover', answers: ['as ordered', 'thin', 'thick'], claim: 'wrong trim' }

const looks: Readonly<Record<Animal, readonly Look[]>> = {
  bird: [{ key: 'skin', asks: 'Skin', answers: ['whole', 'torn', 'feathers or quills'], claim: 'torn skin' }, size, colour, smell],
  fish: [
    { key: 'skin', asks: 'Skin and scales', answers: ['whole', 'torn', 'dry'], claim: 'torn skin' },
    size,
    { key: 'rigor', asks: 'Rigor', answers: ['stiff', 'coming on', 'past'], claim: 'bruised or spoiled' },
    { key: 'colour', asks: 'Eyes and gills', answers: ['bright', 'dull', 'brown'], claim: 'bruised or spoiled' },
    smell,
  ],
  beef: [trim, cover, size, colour, smell],
  lamb: [trim, cover, size, colour, smell],
}

/** What is looked at when something of an animal comes, beside weight and temperature.
 * @example looksAt('bird').map(({ key }) => key) // ['skin', 'size', 'colour', 'smell']
 */
export function looksAt(animal: Animal): readonly Look[] {
  return looks[animal]
}

export type Looked = { readonly [Key in LookKey]?: string | undefined }

/** Answers that are not as they should be. Rigor that is coming on is no fault: the fish waits for it.
 * @example wrongOf('bird', { skin: 'torn', smell: 'clean' }).map(({ answer }) => answer) // ['torn']
 */
export function wrongOf(animal: Animal, looked: Looked): { look: Look; answer: string }[] {
  return looks[animal].flatMap((look) => {
    const answer = looked[look.key]
    return answer === undefined || answer === look.answers[0] || answer === 'coming on' ? [] : [{ look, answer }]
  })
}

/** What was found wrong as one phrase, such as `skin torn, smell off`.
 * @example inWords('bird', { skin: 'torn' }) // 'skin torn'
 */
export function inWords(animal: Animal, looked: Looked): string {
  return wrongOf(animal, looked)
    .map(({ look, answer }) => `${look.asks.toLowerCase()} ${answer}`)
    .join(', ')
}
