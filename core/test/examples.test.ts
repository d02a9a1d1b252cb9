import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '../src')
const files = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.ts') && !file.endsWith('.d.ts'))

/** An exported function with what is written above it. */
const exported = /((?:\/\*\*(?:(?!\*\/)[\s\S])*\*\/\s*)?)^export (?:function\*?|const) (\w+)(.*)$/gm

interface Documented {
  file: string
  name: string
  examples: string[]
}

const functions: Documented[] = files.flatMap((file) =>
  [...readFileSync(join(root, file), 'utf8').matchAll(exported)]
    .filter(([whole, doc = '', , rest = '']) => !/^export const/.test(whole.slice(doc.length)) || rest.includes('=>'))
    .map(([, doc = '', name = '']) => ({
      file,
      name,
      examples: [...doc.matchAll(/@example\s+(.+?)\s*(?:\*\/)?$/gm)].map(([, example = '']) => example),
    })),
)

/** Functions of a whole run, case, sheet or plan: an example of one line cannot hold one. Each has tests of its own. */
const ofWholeThings = new Set([
  ...['buildModel', 'readValues', 'reckon', 'buyingPlan', 'drawDay', 'askOfDay', 'flowOf', 'ordersOf', 'schedule', 'modelBuilder'],
  ...['workOf', 'nearestOf', 'jobsOfDay', 'whyLate', 'tubsOf', 'readCounts', 'withCounts'],
  'drawGroupMeans',
  'whichContender',
  'makeOrBuy',
  'yieldTest',
  'openCase',
  'withSharesAlong',
  'quoteOf',
  'inputOfCase',
  'spreadsOfCase',
  'spreadsOfAverage',
  'movedInputs',
  'stepFromLog',
  'tornado',
  'uncertainMakeOrBuy',
  'drawMakeCosts',
  'drawMakeCostsInSteps',
  'valueInParts',
  'weekInPacks',
  'bestMix',
  'nearestFits',
  'nextSlice',
  'stationsBetween',
  'planAround',
  'learnUsualShape',
  'stationsOfShape',
  'evenPlates',
  'priceOfYear',
  'ladderOf',
  'costLadder',
  'liveFigures',
  'platedTubs',
  'platesOfRun',
  'atGlance',
  'paceOfRun',
  'portionTub',
  'tubOfPortions',
  'portionsOf',
  'balanceOfRun',
  'testedOutputsOf',
  'yieldTestOfRun',
  'sharedTestOfRun',
  'decisionCostPerKg',
  'projectedDecisionCostPerKg',
  'readyCutCostFor',
  'figuresOfRun',
  'simulateScale',
  'expectCut',
  'followOnCost',
  'happen',
])

const core: Record<string, unknown> = {}
beforeAll(async () => {
  for (const file of files) Object.assign(core, await import(join(root, file)))
})

/** What an expression gives with every export of core at hand. */
function evaluate(expression: string): unknown {
  const run = new Function(...Object.keys(core), `return (${expression})`)
  return run(...Object.values(core))
}

/** The same, but for figures that are written shorter than they are. */
function alike(found: unknown, said: unknown): boolean {
  if (typeof found === 'number' && typeof said === 'number') return Math.abs(found - said) <= 1e-3 * Math.max(1, Math.abs(said))
  if (Array.isArray(said)) return Array.isArray(found) && found.length === said.length && said.every((one, at) => alike(found[at], one))
  if (said !== null && typeof said === 'object') {
    return Object.entries(said).every(([key, value]) => alike((found as Record<string, unknown> | null)?.[key], value))
  }
  return typeof found === 'string' ? found.replace(/\s/g, ' ') === said : Object.is(found, said)
}

test.each(functions.flatMap(({ name, examples }) => examples.map((example) => [name, example] as const)))('%s: %s', (_, example) => {
  const [expression = '', said] = example.split(/\s+\/\/\s+/)
  if (said === undefined) expect(evaluate(expression)).toBe(true)
  else expect([alike(evaluate(expression), evaluate(said)), example]).toEqual([true, example])
})

test('every function of core shows what it gives', () => {
  const without = functions.filter(({ name, examples }) => examples.length === 0 && !ofWholeThings.has(name))
  expect(without.map(({ file, name }) => `${file}: ${name}`)).toEqual([])
  const known = new Set(functions.map(({ name }) => name))
  expect([...ofWholeThings].filter((name) => !known.has(name))).toEqual([])
})
