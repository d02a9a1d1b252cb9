import { seededRandom } from '../random/seeded-random.ts'
import { type WhatNow, whatNow } from './what-now.ts'

/** What of a cut sheet can be practised. `shows` are parts and cut lines of the drawing of its animal. */
export interface PractisedSheet {
  id: string
  name: string
  part?: string | undefined
  steps: readonly { title: string; caution?: string | undefined; shows?: readonly string[] | undefined }[]
  /** Keys of what can go wrong at it. */
  questions?: readonly string[] | undefined
}

/** What a drawing names: parts, landmarks and cut lines by their ids. */
export interface DrawnNames {
  parts: ReadonlyMap<string, string>
  cuts: ReadonlyMap<string, string>
  /** Places without a part of their own, such as a joint, by name. */
  marks: readonly string[]
}

/**
 * One thing to practise. Its `id` stays the same through versions of a sheet; a landmark, a cut line and a question of what now are the same
 * card whichever sheet they came by.
 */
export type Card = { id: string; sheet: string } & (
  | { kind: 'landmark' | 'cut line'; part: string; target: string; name: string; step: string }
  | { kind: 'order'; steps: readonly string[] }
  | { kind: 'what now'; question: WhatNow }
  | { kind: 'caution'; caution: string; choices: readonly string[]; right: readonly string[] }
)
export type CardKind = Card['kind']

const mostChoices = 4

/**
 * What a cut sheet gives to practise, in the order in which it is learnt: step by step its landmarks and cut lines, then which step each caution
 * is for, the order of the steps, and what to do when something goes wrong. A card of which there would be nothing to choose is left out.
 *
 * @example cardsOf({ id: 's', name: 'Legs', steps: [{ title: 'Open' }, { title: 'Cut' }] }, { parts: new Map(), cuts: new Map(), marks: [] }).map(({ kind }) => kind) // ['order']
 */
export function cardsOf(sheet: PractisedSheet, drawn: DrawnNames): Card[] {
  const { id, name, steps, part, questions = [] } = sheet
  const cards: Card[] = []
  for (const { title, shows = [] } of part === undefined ? [] : steps) {
    for (const target of shows) {
      const [kind, label] = drawn.cuts.has(target)
        ? (['cut line', drawn.cuts.get(target)] as const)
        : (['landmark', drawn.parts.get(target)] as const)
      if (label !== undefined && part !== undefined)
        cards.push({ id: `drawing:${part}:${target}`, sheet: name, kind, part, target, name: label, step: title })
    }
  }
  if (part !== undefined && cards.length > 0) {
    for (const mark of drawn.marks)
      cards.push({ id: `drawing:${part}:mark ${mark}`, sheet: name, kind: 'landmark', part, target: mark, name: mark, step: '' })
  }
  const titles = [...new Set(steps.map(({ title }) => title))]
  for (const caution of new Set(steps.map((step) => step.caution).filter((one) => one !== undefined))) {
    const right = titles.filter((title) => steps.some((step) => step.title === title && step.caution === caution))
    const wrong = titles.filter((title) => !right.includes(title))
    if (wrong.length === 0) continue
    const others = shuffled(wrong, numberOf(`${id}${caution}`)).slice(0, mostChoices - 1)
    const choices = titles.filter((title) => title === right[0] || others.includes(title))
    cards.push({ id: `caution:${id}:${numberOf(caution).toString(36)}`, sheet: name, kind: 'caution', caution, choices, right })
  }
  if (titles.length > 1 && titles.length === steps.length) cards.push({ id: `order:${id}`, sheet: name, kind: 'order', steps: titles })
  for (const question of whatNow.filter(({ key }) => questions.includes(key)))
    cards.push({ id: `what-now:${question.key}`, sheet: name, kind: 'what now', question })
  return cards.filter((card, at) => cards.findIndex(({ id: other }) => other === card.id) === at)
}

/**
 * The entries in another order, the same for the same seed. With two or more it is never the order that they came in.
 *
 * @example shuffled(['a', 'b'], 7) // ['b', 'a']
 */
export function shuffled<Entry>(entries: readonly Entry[], seed: number): Entry[] {
  const random = seededRandom(seed)
  const mixed = [...entries]
  for (let at = mixed.length - 1; at > 0; at -= 1) {
    const other = Math.floor(random.next() * (at + 1))
    ;[mixed[at], mixed[other]] = [mixed[other] as Entry, mixed[at] as Entry]
  }
  const isAsItCame = mixed.length > 1 && mixed.every((entry, at) => entry === entries[at])
  return isAsItCame ? [...mixed.slice(1), mixed[0] as Entry] : mixed
}

/** FNV-1a of a text: a number that is always the same for it. */
function numberOf(text: string): number {
  let hash = 0x811c9dc5
  for (const letter of text) hash = Math.imul(hash ^ (letter.codePointAt(0) as number), 0x01000193)
  return hash >>> 0
}
