import { seededRandom } from '@fleam/core/random/seeded-random'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import { found } from '../http/changes.ts'

const dayMs = 86_400_000
const days = 14
const guessesADay = 5

/** How somebody guesses: always to one side at first, and wide; both come nearer over a fortnight, or do not. */
const cooks = [
  { name: 'Pip Marsden', biasFrom: 0.24, biasTo: 0.06, spreadFrom: 0.22, spreadTo: 0.08 },
  { name: 'Ines Calloway', biasFrom: -0.01, biasTo: 0.01, spreadFrom: 0.05, spreadTo: 0.05 },
]

/** A fortnight of weights that two cooks said before the scale did. */
export async function practiseByEye(tx: KitchenRecords, now: Date): Promise<void> {
  const random = seededRandom(1128)
  for (const { name, biasFrom, biasTo, spreadFrom, spreadTo } of cooks) {
    const { id: personId } = found(await tx.people.findOne({ where: { name }, attributes: ['id'] }))
    const rows = Array.from({ length: days * guessesADay }, (_, at) => {
      const share = at / (days * guessesADay - 1)
      const weighed = Math.round(1200 + random.next() * 1400)
      const off = random.normal(biasFrom + (biasTo - biasFrom) * share, spreadFrom + (spreadTo - spreadFrom) * share)
      const moment = now.getTime() - (days - Math.floor(at / guessesADay)) * dayMs + (at % guessesADay) * 60_000
      return { id: uuidv7(), personId, said: Math.round((weighed * Math.exp(off)) / 50) * 50, weighed, what: 'steak', at: new Date(moment) }
    })
    await tx.guesses.bulkCreate(rows)
  }
}
