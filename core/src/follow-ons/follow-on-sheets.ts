import type { JointCostMethod } from '../runs/joint-cost.ts'
import type { Role } from '../runs/output.ts'
import type { KeptKind } from '../walk-in/keeping.ts'
import type { AmountUnit } from './follow-on-cost.ts'

/** One way of making something of what came off. */
export interface FollowOnSheet {
  key: string
  name: string
  /** Kinds of lots that it is usually made of. */
  madeOf: readonly KeptKind[]
  /** Of which animals; of any where there is none. */
  animals?: readonly string[] | undefined
  added: readonly { name: string; pctOfInput?: number | undefined }[]
  outputs: readonly {
    name: string
    role: Role
    unit: AmountUnit
    kind: KeptKind
    /** Grams of it for 100 g of all that went in; millilitres or grams for 100 g of the leading input where `per` says so. */
    yieldPct: { low: number; typical: number; high: number }
    per: 'all' | 'input'
    isFormed?: boolean | undefined
  }[]
  method: JointCostMethod
  minutes: number
  waitHours: { low: number; high: number }
  steps: readonly string[]
  checks: readonly string[]
  cautions: readonly string[]
  /** Which of the kitchen's temperatures its core must reach. */
  core?: 'poultryCoreC' | 'groundCoreC' | undefined
  /** Cooked and then cooled: its cooling is checked. */
  cools?: boolean | undefined
  /** Done when it has lost this share of its weight: it is weighed every few days. */
  doneAtLossPct?: number | undefined
  allergens?: readonly string[] | undefined
}

const range = (low: number, typical: number, high: number) => ({ low, typical, high })
const codeFirst = 'Local food code comes first; the kitchen’s own figures stand under Kitchen.'
const cooling =
  'Cool from 60 to 20 °C within {coolFirstHours} hours and to 5 °C within {coolSecondHours} more: in shallow pans, in ice, not in the pot.'
const formed =
  'What was outside is inside: cook it through, {groundCoreC} °C, with poultry {poultryCoreC} °C at the core, and label it as formed where the law asks.'

const stock = (
  key: string,
  name: string,
  typical: number,
  minutes: number,
  low: number,
  high: number,
  animals: readonly string[],
  steps: readonly string[],
): FollowOnSheet => ({
  key,
  name,
  madeOf: ['bones and carcasses'],
  animals,
  added: [{ name: 'Water' }, { name: 'Vegetables', pctOfInput: 12 }],
  outputs: [
    { name, role: 'main', unit: 'ml', kind: 'stock', yieldPct: range(typical * 0.9, typical, Math.round(typical * 1.15)), per: 'input' },
    { name: 'Fat skimmed', role: 'byproduct', unit: 'g', kind: 'rendered fat', yieldPct: range(1, 3, 6), per: 'input' },
    { name: 'Spent bones', role: 'waste', unit: 'g', kind: 'bones and carcasses', yieldPct: range(60, 75, 90), per: 'input' },
  ],
  method: 'byproduct-credit',
  minutes,
  waitHours: { low, high },
  steps,
  checks: ['Strained clear', 'Labelled and put away'],
  cautions: [cooling, codeFirst],
  cools: true,
})

/** What comes with Fleam: usual yields and times, which a kitchen's own follow-ons show beside. */
export const followOnSheets: readonly FollowOnSheet[] = [
  stock(
    'white-stock',
    'White poultry stock',
    100,
    15,
    3,
    5,
    ['bird'],
    [
      'Rinse bones and carcass, cut to fit the pot.',
      'Cover with cold water, bring up slowly, skim.',
      'Vegetables in the last hour; never boil it hard.',
      'Strain without pressing, skim the fat, cool at once.',
    ],
  ),
  stock(
    'brown-stock',
    'Brown stock',
    100,
    25,
    6,
    12,
    ['bird', 'beef', 'lamb'],
    [
      'Roast the bones one to two hours until brown, not black.',
      'Pour off the fat, deglaze the tray, cover with cold water.',
      'Simmer, skim, vegetables roasted with the bones.',
      'Strain, skim, cool at once.',
    ],
  ),
  stock(
    'fish-stock',
    'Fish stock',
    100,
    15,
    0.5,
    0.75,
    ['fish'],
    [
      'Heads without gills, frames rinsed of blood.',
      'Cover with cold water, simmer thirty to forty-five minutes: longer turns it bitter.',
      'Strain, cool at once.',
    ],
  ),
  {
    key: 'rendered-fat',
    name: 'Rendered fat',
    madeOf: ['raw poultry', 'raw cuts', 'bones and carcasses'],
    added: [{ name: 'Water', pctOfInput: 10 }],
    outputs: [
      { name: 'Rendered fat', role: 'main', unit: 'g', kind: 'rendered fat', yieldPct: range(65, 74, 82), per: 'input' },
      { name: 'Cracklings', role: 'coproduct', unit: 'g', kind: 'cooked and sliced', yieldPct: range(8, 11, 15), per: 'input' },
    ],
    method: 'byproduct-credit',
    minutes: 10,
    waitHours: { low: 1.5, high: 3 },
    steps: [
      'Dice fat and skin small, a little water in the pan.',
      'Low heat until the pieces are gold and the fat clear.',
      'Strain hot through cloth, cool, cover.',
    ],
    checks: ['No water left in it: it does not spit'],
    cautions: ['Hot fat burns and catches fire: never leave it, no water into it, lid at hand.', codeFirst],
  },
  {
    key: 'grind',
    name: 'House grind',
    madeOf: ['grind and sausage', 'raw cuts'],
    added: [{ name: 'Fat' }],
    outputs: [{ name: 'House grind', role: 'main', unit: 'g', kind: 'grind and sausage', yieldPct: range(94, 97, 99), per: 'all' }],
    method: 'byproduct-credit',
    minutes: 8,
    waitHours: { low: 0, high: 0 },
    steps: ['Chill meat, grinder and bowl hard.', 'Weigh lean and fat to the share you want.', 'Grind, portion, chill at once.'],
    checks: ['2 °C or below all the while'],
    cautions: [
      'Hands off the screw: use the plunger, unplug before cleaning.',
      'Ground meat is cooked through: {groundCoreC} °C, with poultry {poultryCoreC} °C.',
      codeFirst,
    ],
  },
  {
    key: 'sausage',
    name: 'Sausage',
    madeOf: ['grind and sausage', 'raw cuts'],
    added: [{ name: 'Fat or bacon' }, { name: 'Seasoning' }, { name: 'Casings' }],
    outputs: [
      { name: 'Sausages', role: 'main', unit: 'g', kind: 'grind and sausage', yieldPct: range(93, 96, 98), per: 'all', isFormed: true },
    ],
    method: 'byproduct-credit',
    minutes: 20,
    waitHours: { low: 0, high: 12 },
    steps: ['Grind cold, season by weight, mix until it binds.', 'Fry a little and taste.', 'Fill without air, tie, count, chill.'],
    checks: ['Tasted, cooked', '2 °C or below all the while'],
    cautions: [formed, codeFirst],
  },
  {
    key: 'confit',
    name: 'Confit',
    madeOf: ['raw poultry'],
    added: [{ name: 'Salt', pctOfInput: 2 }, { name: 'Fat' }],
    outputs: [{ name: 'Confit legs', role: 'main', unit: 'g', kind: 'confit', yieldPct: range(58, 64, 70), per: 'input' }],
    method: 'byproduct-credit',
    minutes: 10,
    waitHours: { low: 14.5, high: 28 },
    steps: [
      'Salt twelve to twenty-four hours in the cold.',
      'Rinse, dry, cover with fat.',
      'Cook two and a half to four hours until the bone turns.',
      'Cool under its fat.',
    ],
    checks: ['Covered by fat'],
    cautions: [cooling, 'Hot fat burns: lift legs out with a skimmer.', codeFirst],
    core: 'poultryCoreC',
    cools: true,
  },
  {
    key: 'bonded-log',
    name: 'Bonded log',
    madeOf: ['raw cuts'],
    added: [{ name: 'Enzyme', pctOfInput: 0.75 }],
    outputs: [
      { name: 'Bonded log', role: 'main', unit: 'g', kind: 'raw cuts', yieldPct: range(98, 99, 100), per: 'input', isFormed: true },
    ],
    method: 'byproduct-credit',
    minutes: 10,
    waitHours: { low: 6, high: 12 },
    steps: [
      'Trim, dry, dust the faces with enzyme.',
      'Lay head to tail, roll in film as tight as it goes.',
      'Rest chilled; cut in its film.',
    ],
    checks: ['Rested at 5 °C or below'],
    cautions: ['The enzyme powder is not to be breathed; many blends carry milk protein, an allergen.', formed, codeFirst],
    allergens: ['milk'],
  },
  {
    key: 'galantine',
    name: 'Galantine, roulade or stuffed leg',
    madeOf: ['raw poultry'],
    added: [{ name: 'Stuffing', pctOfInput: 42 }, { name: 'Twine or film' }],
    outputs: [
      { name: 'Slices', role: 'main', unit: 'g', kind: 'cooked and sliced', yieldPct: range(73, 75, 79), per: 'all', isFormed: true },
      { name: 'Ends', role: 'coproduct', unit: 'g', kind: 'cooked and sliced', yieldPct: range(4, 6, 9), per: 'all', isFormed: true },
    ],
    method: 'weight',
    minutes: 20,
    waitHours: { low: 1, high: 13 },
    steps: [
      'Spread stuffing on the boned bird, roll, tie every 3 cm.',
      'Cook through to the middle of the stuffing.',
      'Rest twenty minutes warm, or twelve hours cold; slice.',
    ],
    checks: ['Tied every 3 cm, no air under the film'],
    core: 'poultryCoreC',
    cools: true,
    cautions: [formed, 'Raw stuffing needs its own core temperature; cooked stuffing only reheating.', cooling, codeFirst],
  },
  {
    key: 'dried-cut',
    name: 'Cured and air-dried cut',
    madeOf: ['raw cuts'],
    added: [{ name: 'Salt', pctOfInput: 2.75 }],
    outputs: [{ name: 'Dried cut', role: 'main', unit: 'g', kind: 'cured and dried', yieldPct: range(62, 68, 72), per: 'input' }],
    method: 'byproduct-credit',
    minutes: 10,
    waitHours: { low: 288, high: 576 },
    steps: [
      'Salt by weight, rest chilled, turn daily.',
      'Wipe, tie, hang in the drying place.',
      'Weigh every few days: done when it has lost a third.',
    ],
    checks: ['Salt weighed to 0.1 %', 'Weight, smell and surface looked at'],
    cautions: ['Drying without cooking needs a plan that the authority has seen in many places.', codeFirst],
    doneAtLossPct: 33.3,
  },
  {
    key: 'dried-skin',
    name: 'Bird dried for roasting',
    madeOf: ['raw poultry'],
    added: [],
    outputs: [{ name: 'Dried bird', role: 'main', unit: 'g', kind: 'raw poultry', yieldPct: range(96, 98, 99), per: 'input' }],
    method: 'byproduct-credit',
    minutes: 2,
    waitHours: { low: 12, high: 24 },
    steps: ['Pat dry, uncovered on a rack at the bottom of the cold.'],
    checks: ['Nothing ready to eat below or beside it'],
    cautions: ['Raw poultry drips: lowest shelf, its own tray.', codeFirst],
  },
  {
    key: 'cooking-test',
    name: 'Cooking test',
    madeOf: ['raw cuts', 'raw poultry', 'raw fish'],
    added: [],
    outputs: [{ name: 'Served', role: 'main', unit: 'g', kind: 'cooked and sliced', yieldPct: range(68, 80, 88), per: 'all' }],
    method: 'byproduct-credit',
    minutes: 5,
    waitHours: { low: 0, high: 4 },
    steps: ['Weigh raw.', 'Cook and rest as it is served.', 'Weigh what goes on the plate.'],
    checks: ['Cooked and rested as it is served'],
    cautions: [codeFirst],
  },
]

const own: FollowOnSheet = {
  key: 'own',
  name: 'Something of the kitchen’s own',
  madeOf: [],
  added: [],
  outputs: [{ name: '', role: 'main', unit: 'g', kind: 'cooked and sliced', yieldPct: range(1, 100, 100), per: 'all' }],
  method: 'byproduct-credit',
  minutes: 10,
  waitHours: { low: 0, high: 0 },
  steps: [],
  checks: [],
  cautions: [codeFirst],
}

export const allFollowOnSheets: readonly FollowOnSheet[] = [...followOnSheets, own]

/**
 * The sheet of a key, among those that come with Fleam and the kitchen's own; one that is written as it goes where none has it.
 * @example followOnSheet('grind').name // 'House grind'
 */
export const followOnSheet = (key: string, ofKitchen: readonly FollowOnSheet[] = []): FollowOnSheet =>
  [...ofKitchen, ...followOnSheets].find((sheet) => sheet.key === key) ?? own
