import type { DeliveredBox, DeliveryLine, DeliveryNote, Order, OrderLine } from '@fleam/core/ordering/order'
import { seededRandom } from '@fleam/core/random/seeded-random'
import { type Goods, goods, gtinOf } from './goods.ts'

const dayMs = 86_400_000
const reasons = ['not enough came in', 'sold out', 'the lot was held back']
/** Heavier boxes are two. */
const boxKg = 12

/**
 * What is sent for an order: most lines whole, some short, each in boxes with codes of their own.
 * @param shortShare how likely a line is short, 0 to 1
 */
export function deliver(order: Order, number: number, { shortShare, day }: { shortShare: number; day: Date }): DeliveryNote {
  const random = seededRandom(number * 7919).next
  return {
    number: `DN-${number}`,
    order: order.number,
    supplier: order.supplier,
    kitchen: order.kitchen,
    sentOn: day.toISOString().slice(0, 10),
    lines: order.lines.map((line) => lineOf(line, number, random, { shortShare, day })),
  }
}

function lineOf(
  line: OrderLine,
  number: number,
  random: () => number,
  { shortShare, day }: { shortShare: number; day: Date },
): DeliveryLine {
  const { article, quantity, unit } = line
  const sold = goods.find((one) => one.article.toLowerCase() === article.toLowerCase() || gtinOf(one) === line.gtin)
  const common = { article, ordered: quantity, unit }
  if (!sold || sold.unit !== unit) {
    const why = sold ? `sold by the ${sold.unit}` : 'not in our list'
    return { ...common, gtin: line.gtin, sent: 0, why, boxes: [] }
  }
  const isShort = random() < shortShare
  const kept = isShort ? 0.5 + random() * 0.4 : 1
  const sent = unit === 'kg' ? Math.round(quantity * kept * 10) / 10 : Math.floor(quantity * kept)
  const why = sent < quantity ? (reasons[Math.floor(random() * reasons.length)] as string) : ''
  return { ...common, gtin: gtinOf(sold), sent, why, boxes: boxesOf(sold, sent, number, random, day) }
}

function boxesOf(sold: Goods, sent: number, number: number, random: () => number, day: Date): DeliveredBox[] {
  const boxes: DeliveredBox[] = []
  const useBy = new Date(day.getTime() + 6 * dayMs).toISOString().slice(0, 10)
  const lot = `S${number}-${sold.number}`
  const add = (tenths: number, pieces: number) => {
    const weight = String(Math.round(tenths / 10)).padStart(6, '0')
    // the weight is said in grams: what is in the box is what the code says
    const code = `(01)${gtinOf(sold)}(3103)${weight}(17)${useBy.slice(2).replaceAll('-', '')}(30)${pieces}(10)${lot}`
    boxes.push({ code, tenths: Math.round(tenths / 10) * 10, lot, useBy })
  }
  if (sold.unit === 'kg') {
    const count = Math.ceil(sent / boxKg)
    for (let box = 0; box < count; box += 1) {
      const kg = sent / count
      add(kg * 10_000 * (0.985 + random() * 0.02), Math.max(1, Math.round(kg / sold.pieceKg)))
    }
  } else {
    const pieces = sold.pieces ?? 1
    for (let box = 0; box < sent; box += 1) add(pieces * sold.pieceKg * 10_000 * (0.96 + random() * 0.08), pieces)
  }
  return boxes
}
