import fc from 'fast-check'
import type { DeliveryNote, Order } from '../src/ordering/order.ts'
import { shortLines } from '../src/ordering/order.ts'
import { readUblDespatchAdvice, readUblOrder, writeUblDespatchAdvice, writeUblOrder } from '../src/ordering/ubl.ts'
import { inWords, looksAt, wrongOf } from '../src/receiving/delivery-check.ts'
import { readLedger } from '../src/runs/ledger.ts'
import { correctingLines } from '../src/runs/put-right.ts'

describe('what is looked at', () => {
  test('each kind of animal has its own, the first answer is as it should be, and a fish that is coming into rigor is no fault', () => {
    for (const animal of ['bird', 'fish', 'beef', 'lamb'] as const) {
      const asItShouldBe = Object.fromEntries(looksAt(animal).map(({ key, answers }) => [key, answers[0]]))
      expect(wrongOf(animal, asItShouldBe)).toEqual([])
      for (const { key, answers } of looksAt(animal)) {
        const faults = answers.filter((answer) => wrongOf(animal, { ...asItShouldBe, [key]: answer }).length > 0)
        expect(faults).toEqual(answers.slice(1).filter((answer) => answer !== 'coming on'))
      }
    }
    expect(inWords('bird', { skin: 'torn', smell: 'off' })).toBe('skin torn, smell off')
    expect(wrongOf('fish', { skin: 'torn' }).map(({ look }) => look.claim)).toEqual(['torn skin'])
    // what a bird has no such look for is no fault of it
    expect(wrongOf('bird', { cover: 'thin' })).toEqual([])
  })
})

describe('putting a ledger right', () => {
  const line = (id: string, tubId: string, tenths: number) => ({
    id,
    tubId,
    tenths,
    entered: `${tenths / 10} g`,
    piece: null,
    reversesId: null,
  })
  const ids = () => {
    let last = 0
    return () => `n${++last}`
  }

  test('what is moved is taken back and weighed again, once; what is both moved and taken back is gone', () => {
    const ledger = [line('a', 'steak', 1800), line('b', 'steak', 1700)]
    const moved = correctingLines(ledger, { moved: [{ weighingId: 'a', tubId: 'trim' }], takenBack: ['a', 'b', 'b'], added: [] }, ids())
    expect(moved.map(({ id, tubId, reversesId, movedFromId }) => [id, tubId, reversesId, movedFromId])).toEqual([
      ['n1', 'steak', 'a', null],
      ['n2', 'trim', null, 'a'],
      ['n3', 'steak', 'b', null],
    ])
    expect(correctingLines(ledger, { moved: [{ weighingId: 'a', tubId: 'steak' }], takenBack: ['x'], added: [] }, ids())).toEqual([])
  })

  test('whatever is put right, the sum is that of what stands and what is added, and no weighing is taken back twice', () => {
    const tub = fc.constantFrom('steak', 'trim', 'fat')
    const weighed = fc.array(fc.record({ tubId: tub, tenths: fc.integer({ min: 1, max: 50_000 }) }), { maxLength: 12 })
    const at = fc.nat({ max: 14 }).map((index) => `w${index}`)
    fc.assert(
      fc.property(
        weighed,
        fc.array(fc.record({ weighingId: at, tubId: tub }), { maxLength: 8 }),
        fc.array(at, { maxLength: 6 }),
        weighed,
        (lines, moved, takenBack, fresh) => {
          const ledger = lines.map(({ tubId, tenths }, index) => line(`w${index}`, tubId, tenths))
          const added = fresh.map((one) => ({ ...one, entered: `${one.tenths / 10} g`, piece: null }))
          const after = [...ledger, ...correctingLines(ledger, { moved, takenBack, added }, ids())]
          const reversed = after.flatMap(({ reversesId }) => (reversesId ? [reversesId] : []))
          expect(new Set(reversed).size).toBe(reversed.length)
          const gone = new Set(takenBack)
          const movedAway = new Set(
            moved
              .filter(({ weighingId, tubId }) => ledger.find(({ id }) => id === weighingId)?.tubId !== tubId)
              .map(({ weighingId }) => weighingId),
          )
          const left = ledger.filter(({ id }) => !gone.has(id) || movedAway.has(id))
          const expected = [...left, ...added].reduce((sum, { tenths }) => sum + tenths, 0)
          expect(readLedger(after).total.tenths).toBe(expected)
        },
      ),
    )
  })
})

describe('UBL', () => {
  const words = fc.string({ minLength: 1, maxLength: 40 }).map((text) => text.replace(/[^\p{L}\p{N} &<>"',.-]/gu, '').trim() || 'A & B <c>')
  const day = fc.integer({ min: 0, max: 3000 }).map((days) => new Date(Date.UTC(2024, 0, 1) + days * 86_400_000).toISOString().slice(0, 10))
  const unit = fc.constantFrom('kg' as const, 'each' as const, 'case' as const)
  const quantity = fc.integer({ min: 1, max: 100_000 }).map((thousandths) => thousandths / 1000)
  const gtin = fc.constantFrom('99500000000016', null)

  test('an order comes back as it was written', () => {
    const line = fc.record({ article: words, gtin, quantity, unit, price: fc.option(quantity) })
    const order: fc.Arbitrary<Order> = fc.record({
      ...{ number: words, kitchen: words, supplier: words, orderedOn: day, wantedOn: day, note: fc.constantFrom('', 'Ring & wait') },
      ...{ currency: fc.constant('EUR'), lines: fc.array(line, { minLength: 1, maxLength: 5 }) },
    })
    fc.assert(fc.property(order, (one) => expect(readUblOrder(writeUblOrder(one))).toEqual(one)))
  })

  test('a despatch advice comes back with what is short, and its boxes as their codes say', () => {
    const note: DeliveryNote = {
      ...{ number: 'DN-7', order: 'O-3', supplier: 'Tidewater & Sons', kitchen: 'Saltmarsh House', sentOn: '2026-03-14' },
      lines: [
        {
          ...{ article: 'Salmon', gtin: '99500000000047', ordered: 20.5, sent: 12.3, unit: 'kg', why: 'sold out' },
          boxes: [{ code: '(01)99500000000047(3103)012301(17)260320(30)3(10)S7-4', tenths: 123_010, lot: 'S7-4', useBy: '2026-03-20' }],
        },
        { article: 'Goat', gtin: null, ordered: 2, sent: 2, unit: 'each', why: '', boxes: [] },
      ],
    }
    const read = readUblDespatchAdvice(writeUblDespatchAdvice(note))
    expect(read).toEqual(note)
    expect(shortLines(read).map(({ article }) => article)).toEqual(['Salmon'])
  })

  test('the elements stand in the order that the schema wants, with their units and schemes', () => {
    const xml = writeUblOrder({
      ...{ number: 'O-1', kitchen: 'A', supplier: 'B', orderedOn: '2026-03-14', wantedOn: '2026-03-15', currency: 'EUR', note: '' },
      lines: [{ article: 'Salmon', gtin: '99500000000047', quantity: 12.5, unit: 'kg', price: 11.2 }],
    })
    expect(
      xml
        .match(/<c[ab]c:\w+/g)
        ?.map((tag) => tag.slice(5))
        .join(' '),
    ).toBe(
      'UBLVersionID ID IssueDate DocumentCurrencyCode BuyerCustomerParty Party PartyName Name SellerSupplierParty Party PartyName Name ' +
        'Delivery RequestedDeliveryPeriod StartDate EndDate OrderLine LineItem ID Quantity Price PriceAmount Item Name StandardItemIdentification ID',
    )
    expect(xml).toContain('<cbc:Quantity unitCode="KGM">12.5</cbc:Quantity>')
    expect(xml).toContain('<cbc:ID schemeID="0160">99500000000047</cbc:ID>')
  })

  test('what is no order is refused in a sentence', () => {
    const refused = (xml: string) => {
      try {
        readUblOrder(xml)
      } catch (error) {
        return (error as Error).message
      }
      return undefined
    }
    expect(refused('<Invoice/>')).toBe('The file is no UBL Order.')
    expect(refused('nonsense')).toMatch(/^The file is no XML/)
    expect(refused('<Order><broken')).toMatch(/^The file is no XML/)
    expect(refused('<!DOCTYPE x [<!ENTITY a "b">]><Order/>')).toMatch(/DOCTYPE/)
    expect(refused(`<Order>${' '.repeat(1_000_001)}</Order>`)).toMatch(/over 1 MB/)
    const line = (quantity: string) => `<Order><OrderLine><LineItem>${quantity}<Item><Name>A</Name></Item></LineItem></OrderLine></Order>`
    expect(refused(line('<Quantity unitCode="XYZ">1</Quantity>'))).toMatch(/unit code “XYZ”/)
    expect(refused(line('<Quantity unitCode="KGM">much</Quantity>'))).toMatch(/Line 1 has no Quantity/)
    fc.assert(fc.property(fc.string(), (text) => expect(typeof refused(text)).toBe('string')))
  })
})
