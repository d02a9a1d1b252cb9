import { cardsOf } from '@fleam/core/practice/cards'
import { drawPiece, gridCm, scoreCuts } from '@fleam/core/practice/screen-piece'
import { standingsOf } from '@fleam/core/practice/spacing'
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

/** How well somebody gets on with questions: what of new ones is right, and of those that were seen before. */
const learner = { name: 'Pip Marsden', sheet: 'chicken-saute', newRight: 0.55, seenRight: 0.9, newADay: 4 }

/** A fortnight of questions, each asked again when it came due, and of pieces cut on screen, nearer to the best plan each time. */
export async function practiseFortnight(tx: KitchenRecords, now: Date): Promise<void> {
  const random = seededRandom(2811)
  const { id: personId } = found(await tx.people.findOne({ where: { name: learner.name }, attributes: ['id'] }))
  const sheet = found(await tx.cutSheets.findOne({ where: { slug: learner.sheet }, include: [{ association: 'newestVersion' }] }))
  const { body } = found(sheet.newestVersion)
  const nothingDrawn = { parts: new Map<string, string>(), cuts: new Map<string, string>(), marks: [] }
  // questions of the drawing are known to the pages alone; these of the words are enough for a fortnight
  const cards = cardsOf({ ...body, id: sheet.id, questions: body.questions ?? [] }, nothingDrawn)
  const answers: { card: string; isRight: boolean; at: number }[] = []
  const attempts: { seed: number; cutsCm: number[]; at: number }[] = []
  for (let day = days; day >= 1; day -= 1) {
    const at = now.getTime() - day * dayMs
    const standings = standingsOf(answers)
    const due = cards.filter(({ id }) => (standings.get(id)?.dueAt ?? Number.POSITIVE_INFINITY) <= at)
    const fresh = cards.filter(({ id }) => !standings.has(id)).slice(0, learner.newADay)
    for (const [index, { id }] of [...due, ...fresh].entries()) {
      const isRight = random.next() < (standings.has(id) ? learner.seenRight : learner.newRight)
      answers.push({ card: id, isRight, at: at + index * 20_000 })
    }
    if (day % 2 === 0) {
      const seed = 500 + day
      const { bestCutsCm } = scoreCuts(drawPiece('rack', seed), [])
      const off = (day / days) * 0.9
      attempts.push({ seed, cutsCm: bestCutsCm.map((cm) => Math.round((cm + random.normal(0, off)) / gridCm) * gridCm), at: at + 600_000 })
    }
  }
  await tx.practiceAnswers.bulkCreate(answers.map(({ at, ...answer }) => ({ id: uuidv7(), personId, ...answer, at: new Date(at) })))
  await tx.cuttingAttempts.bulkCreate(
    attempts.map(({ seed, cutsCm, at }) => ({
      ...{ id: uuidv7(), personId, exerciseId: null, rung: 'rack', seed, shape: null, cutsCm, at: new Date(at) },
      score: scoreCuts(drawPiece('rack', seed), cutsCm).score,
    })),
  )
}
