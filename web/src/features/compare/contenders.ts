import type { Claim } from '@fleam/contract/claims'
import type { Quote } from '@fleam/contract/prices'
import type { YieldTestRecord } from '@fleam/contract/yield-book'
import type { Contender, ContenderTest } from '@fleam/core/contenders/which-contender'
import { groupBy } from '@fleam/core/group-by'
import { costOfPurchase, type Price } from '@fleam/core/quantities/price'
import { mainsOf } from '@fleam/core/yield-book/tested-cut'

/** Between whom a choice of tests is compared. */
export const contenderKinds = ['supplier', 'cook', 'version'] as const
export type ContenderKind = (typeof contenderKinds)[number]

interface ContendersOf {
  kind: ContenderKind
  tests: readonly YieldTestRecord[]
  quotes: readonly Quote[]
  /** The price where nobody's own is known. */
  price: Price
  itemGrams: number
  mainKeys: readonly string[]
  claims: readonly Claim[]
  /** What a kg of each other output is worth. */
  worthOf: (key: string) => number
}

export interface NamedContender extends Contender {
  name: string
}

/** Tests as they tell suppliers, cooks or versions of a sheet apart; each supplier's at the price that it asks today. */
export function contendersOf({ kind, tests, quotes, price, itemGrams, mainKeys, claims, worthOf }: ContendersOf): NamedContender[] {
  const inBook = tests.filter(({ leftOut }) => leftOut === null)
  const perKg = (one: Price) => (costOfPurchase(one, { grams: itemGrams, pieces: 1 }) / itemGrams) * 1000
  const latest = [...quotes].sort((a, b) => b.quotedOn.localeCompare(a.quotedOn) || b.at.localeCompare(a.at))
  const ofTest = {
    supplier: ({ supplier }: YieldTestRecord) => supplier ?? { id: '', name: 'not noted' },
    cook: ({ cook }: YieldTestRecord) => cook,
    version: ({ sheetNumber }: YieldTestRecord) => ({ id: String(sheetNumber), name: `Version ${sheetNumber}` }),
  }[kind]
  const names = new Map(inBook.map((test) => [ofTest(test).id, ofTest(test).name]))
  return [...groupBy(inBook, (test) => ofTest(test).id)].map(([id, own]) => ({
    id,
    name: names.get(id) ?? '',
    pricePerKg: perKg((kind === 'supplier' ? latest.find(({ supplier }) => supplier?.id === id)?.price : undefined) ?? price),
    tests: own.map((test) => testOf(test, mainKeys, worthOf)),
    creditedPerKg: kind === 'supplier' ? creditedPerKg(own, claims) : 0,
  }))
}

/** What claims brought back of these deliveries, for each kg that came. */
function creditedPerKg(tests: readonly YieldTestRecord[], claims: readonly Claim[]): number {
  const runs = new Set(tests.map(({ runId }) => runId))
  const credited = claims.reduce((sum, claim) => sum + (runs.has(claim.run.id) ? claim.credited : 0), 0)
  return credited / (tests.reduce((sum, { receivedTenths }) => sum + receivedTenths, 0) / 10_000)
}

function testOf(test: YieldTestRecord, mainKeys: readonly string[], worthOf: (key: string) => number): ContenderTest {
  const { receivedTenths, billedTenths, minutes, shares } = test
  return {
    mainPct: mainsOf(test, mainKeys),
    creditPerKg: Object.entries(shares).reduce((sum, [key, pct]) => sum + (mainKeys.includes(key) ? 0 : (pct / 100) * worthOf(key)), 0),
    minutesPerKg: minutes === null ? null : minutes / (receivedTenths / 10_000),
    billedOverReceived: billedTenths / receivedTenths,
  }
}

/** Mains by month, percent, oldest first. */
export function mainsByMonth(
  tests: readonly YieldTestRecord[],
  mainKeys: readonly string[],
): { month: string; pct: number; tests: number }[] {
  return [...groupBy(tests, ({ startedAt }) => startedAt.slice(0, 7))]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([month, own]) => ({ month, tests: own.length, pct: own.reduce((sum, test) => sum + mainsOf(test, mainKeys), 0) / own.length }))
}
