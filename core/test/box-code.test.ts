import fc from 'fast-check'
import { readBoxCode } from '../src/receiving/box-code.ts'

const gs = '\u001d'
/** Fourteen digits, the last of which goes with the others. */
const withCheck = (thirteen: string) => {
  const sum = [...thirteen].reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 3 : 1), 0)
  return `${thirteen}${(10 - (sum % 10)) % 10}`
}
const gtin = withCheck('0950110153000')

describe('the code of a box', () => {
  test.each([
    ['as a scanner types it', `01${gtin}3103004350${'17261203'}10H132${gs}3712`],
    ['with its symbology identifier', `]C101${gtin}31030043501726120310H132${gs}3712`],
    ['as a DataMatrix', `]d2${gs}01${gtin}31030043501726120310H132${gs}3712`],
    ['in brackets', `(01)${gtin}(3103)004350(17)261203(10)H132(37)12`],
  ])('%s', (_how, code) => {
    expect(readBoxCode(code)).toEqual({
      ...{ gtin, tenths: 43_500, count: 12, lot: 'H132', packedOn: null, bestBefore: null, useBy: '2026-12-03' },
      ...{ others: [], unread: '', troubles: [] },
    })
  })

  test('pounds are pounds; what else it says is told', () => {
    const box = readBoxCode(`3202001000${`21S-77`}`)
    expect(box?.tenths).toBe(Math.round(10 * 453.59237 * 10))
    expect(box?.others).toEqual([{ title: expect.any(String), text: 'S-77' }])
  })

  test('cut off or unknown: what stands before it is read, the rest is said', () => {
    const cut = readBoxCode(`01${gtin}3103001`)
    expect([cut?.gtin, cut?.tenths, cut?.unread]).toEqual([gtin, null, '3103001'])
    expect(cut?.troubles[0]).toContain('3103001')
    const odd = readBoxCode(`01${gtin}05whatever`)
    expect([odd?.gtin, odd?.unread]).toEqual([gtin, '05whatever'])
    const noDay = readBoxCode(`01${gtin}17261403`)
    expect([noDay?.useBy, noDay?.troubles.length]).toEqual([null, 1])
    const wrongDigit = readBoxCode(`01${gtin.slice(0, 13)}${(Number(gtin[13]) + 1) % 10}10A`)
    expect([wrongDigit?.gtin, wrongDigit?.lot, wrongDigit?.troubles.length]).toEqual([null, 'A', 1])
  })

  test.each(['', '   ', 'https://shop.example/p/1', 'x'.repeat(400), `${gs}${gs}`])('what is none is none: %j', (text) => {
    expect(readBoxCode(text)).toBeUndefined()
  })

  test('whatever a box says, in whatever order, is read as it was written; nonsense never throws', () => {
    const digits = (length: number) => fc.stringMatching(new RegExp(`^[0-9]{${length}}$`))
    const lot = fc.stringMatching(/^[A-Z0-9-]{1,20}$/)
    const box = fc.record({
      thirteen: digits(13),
      grams: fc.integer({ min: 1, max: 999_999 }),
      lot,
      count: fc.integer({ min: 1, max: 9999 }),
    })
    fc.assert(
      fc.property(box, fc.boolean(), ({ thirteen, grams, lot: own, count }, isLotFirst) => {
        const item = withCheck(thirteen)
        const weight = `3103${String(grams).padStart(6, '0')}`
        const code = isLotFirst ? `10${own}${gs}37${count}${gs}01${item}${weight}` : `01${item}${weight}37${count}${gs}10${own}`
        expect(readBoxCode(code)).toMatchObject({ gtin: item, tenths: grams * 10, lot: own, count, unread: '', troubles: [] })
      }),
    )
    fc.assert(fc.property(fc.string({ maxLength: 60 }), (text) => void readBoxCode(text)))
    fc.assert(fc.property(digits(40), (text) => void readBoxCode(text)))
  })
})
