import type { KitchenSettings } from '@fleam/contract/kitchen'
import { seededRandom } from '@fleam/core/random/seeded-random'
import { v7 as uuidv7 } from 'uuid'
import type { AllRecords, KitchenRecords } from '../db/records.ts'
import { listCutSheets } from '../features/cut-sheets/service.ts'
import { findRuns } from '../features/runs/find-run.ts'
import { createKitchen } from '../features/setup/service.ts'
import { findLots } from '../features/walk-in/find-lots.ts'
import { applyMove, todayOf } from '../features/walk-in/move-lot.ts'
import { putAwayRest, recostRun } from '../features/walk-in/put-away.ts'
import { drawGoods, storeGoods, storeRuns } from './goods.ts'
import { type Hand, lines } from './lines.ts'
import { makeRun } from './runs.ts'
import { actorNamed } from './today.ts'

interface Sister {
  name: string
  seed: number
  runs: number
  hands: readonly Hand[]
  /** How often a lot is not used in time. */
  thrownShare: number
}

/** The other kitchens of the house, which the demo's manager looks after too. */
const sisters: readonly Sister[] = [
  {
    name: 'Curlew Point, bar and dining room',
    seed: 31_077,
    runs: 18,
    hands: [{ name: 'Linnet Farrow', offTargetGrams: 0.6, spreadGrams: 3.6, mainPct: 0.8, pace: 0.9 }],
    thrownShare: 0.05,
  },
  {
    name: 'Sandbar Hall, banquets',
    seed: 77_310,
    runs: 24,
    hands: [
      { name: 'Corin Tregear', offTargetGrams: 5.4, spreadGrams: 8, mainPct: -1.9, pace: 1.1 },
      { name: 'Isolde Rowse', offTargetGrams: 3.1, spreadGrams: 6, mainPct: -0.8, pace: 1.2 },
    ],
    thrownShare: 0.3,
  },
]
const days = 28
const cutBy = ['beef-tenderloin-traditional', 'chicken-supremes-and-legs']

/** Two kitchens with four weeks of two cuts each, and the demo's manager, by the sign-in of their own kitchen. */
export async function fillSisters(all: AllRecords, today: Date, settings: KitchenSettings, managerId: string): Promise<void> {
  const manager = await all.people.findOne({ attributes: ['name'], where: { id: managerId } })
  for (const sister of sisters) {
    const records = all.of(await createKitchen(all, { name: sister.name, settings, isDemo: true }))
    const names = [...sister.hands.map(({ name }) => ({ name, homeId: null })), { name: manager?.name ?? '', homeId: managerId }]
    const people = names.map(({ name, homeId }) => {
      const role = homeId ? ('manager' as const) : ('lead' as const)
      return { id: uuidv7(), name, signInName: null, role, secretHash: null, homeId }
    })
    await records.people.bulkCreate(people)
    const personIds = new Map(people.map(({ name, id }) => [name, id]))
    const goods = drawGoods()
    await storeGoods(records, goods, { today, personId: people.at(-1)?.id ?? '' })
    const context = { today, settings, personIds, ...goods, sheets: await listCutSheets(records, '', 100) }
    const random = seededRandom(sister.seed)
    const runs = Array.from({ length: sister.runs }, (_, index) => {
      const slug = cutBy[index % cutBy.length] as string
      const line = lines.find(({ sheets }) => sheets.some(([one]) => one === slug))
      if (!line) throw new Error(`Nothing is cut by ${slug}.`)
      const daysAgo = Math.max(1, Math.round(days - (index * days) / sister.runs))
      return makeRun(
        context,
        random,
        { line: { ...line, sheets: [[slug, 1]] }, daysAgo, isBad: false, hand: random.pick(sister.hands) },
        index,
      )
    })
    await storeRuns(records, runs)
    await throwSomeAway(records, today, { name: sister.name, settings }, sister)
  }
}

/** What is not used in time, of what was packed until the day before yesterday. */
async function throwSomeAway(
  records: KitchenRecords,
  today: Date,
  kitchen: { name: string; settings: KitchenSettings },
  { hands, thrownShare, seed }: Sister,
): Promise<void> {
  const random = seededRandom(seed + 1)
  const by = await actorNamed(records, kitchen, hands[0]?.name ?? '')
  const rows = await records.runs.findAll({ attributes: ['id'], order: ['startedAt'], raw: true })
  const runs = await findRuns(
    records,
    rows.map(({ id }) => id),
  )
  for (const run of runs.filter(() => random.next() < thrownShare)) {
    const at = new Date(run.finishedAt ?? run.startedAt)
    const later = new Date(Math.min(today.getTime(), at.getTime() + 40 * 3_600_000))
    await putAwayRest(records, by, run, at)
    await recostRun(records, run)
    const [lot] = await findLots(records, { runId: run.id })
    if (!lot) continue
    const what = {
      kind: 'take',
      tenths: Math.round(lot.leftTenths * 0.4),
      portions: null,
      takenFor: 'thrown away',
      note: 'past its date',
    } as const
    await applyMove(records, by, lot.id, { id: uuidv7(), what, at: later.toISOString() }, null, todayOf(by, at))
  }
}
