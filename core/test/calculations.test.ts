import { type MakeOrBuyInput, makeOrBuy } from '../src/compare/make-or-buy.ts'
import { pairPieces } from '../src/portions/pair-pieces.ts'
import { type PortionsInput, portionStatistics } from '../src/portions/portion-statistics.ts'
import { type YieldTestInput, yieldTest } from '../src/runs/yield-test.ts'
import { expectFields, readReference } from './reference.ts'

test.each(['yield-test-tenderloin', 'yield-test-bird-byproduct-credit', 'yield-test-bird-sales-value', 'yield-test-bird-weight'])(
  '%s',
  (name) => {
    const { input, expected } = readReference<YieldTestInput, object>(name)
    expectFields(yieldTest(input), expected)
  },
)

test.each(['make-or-buy-tenderloin', 'make-or-buy-fish'])('%s', (name) => {
  const { input, expected } = readReference<MakeOrBuyInput, object>(name)
  expectFields(makeOrBuy(input), expected)
})

test('portions', () => {
  const { input, expected } = readReference<PortionsInput, object>('portions')
  expectFields(portionStatistics(input), expected)
})

test('pair-pieces', () => {
  const { input, expected } = readReference<{ pieces: number[]; perPortion: number }, object>('pair-pieces')
  expectFields(pairPieces(input), expected)
})
