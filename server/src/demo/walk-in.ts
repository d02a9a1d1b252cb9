import type { KitchenSettings } from '@fleam/contract/kitchen'
import type { Lot } from '@fleam/contract/walk-in'
import { followOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import { seededRandom } from '@fleam/core/random/seeded-random'
import type { LotHappening } from '@fleam/core/walk-in/lot'
import { Op } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import { checkFollowOn, finishFollowOn, startFollowOn, weighFollowOn } from '../features/follow-ons/service.ts'
import { findRuns } from '../features/runs/find-run.ts'
import { noteSafety } from '../features/safety/record.ts'
import { findLots } from '../features/walk-in/find-lots.ts'
import { applyMove, todayOf } from '../features/walk-in/move-lot.ts'
import { putAwayRest, recostRun } from '../features/walk-in/put-away.ts'
import type { Actor } from '../http/access.ts'
import { actorNamed } from './today.ts'

const hour = 3_600_000
const seed = 90_211
const dishes = ['Steak, chips, marrow', 'Carvery', 'Sunday lunch', 'Bar menu', 'Staff canteen order', 'Wedding trial']
const reasons = ['past its date', 'dried out', 'left over from service', 'dropped']

const ofLoin = ({ run, kind }: Lot) => kind === 'raw cuts' && /tenderloin/i.test(run?.item ?? '')
/** What is made into something else. */
const kept = {
  legs: ({ animal, kind, name }: Lot) => animal === 'bird' && kind === 'raw poultry' && /leg|thigh/i.test(name),
  fat: ({ animal, kind, name }: Lot) => animal === 'bird' && kind === 'raw poultry' && /^fat/i.test(name),
  dried: (lot: Lot) => ofLoin(lot) && /centre|steak/i.test(lot.name) && lot.leftTenths > 4000,
  log: (lot: Lot) => ofLoin(lot) && /tail|head|ears|muscle/i.test(lot.name),
}

/** What the last weeks' runs left in the cold, what became of it, and what is made of it just now. */
export async function fillWalkIn(
  records: KitchenRecords,
  today: Date,
  kitchen: { name: string; settings: KitchenSettings },
): Promise<void> {
  const random = seededRandom(seed)
  const cook = await actorNamed(records, kitchen, 'Jory Penhale')
  const since = new Date(today.getTime() - 45 * 24 * hour)
  const rows = await records.runs.findAll({
    attributes: ['id'],
    where: { status: 'finished', startedAt: { [Op.gte]: since } },
    order: ['startedAt'],
    raw: true,
  })
  const packed: { lot: Lot; at: Date }[] = []
  for (const run of await findRuns(
    records,
    rows.map(({ id }) => id),
  )) {
    const at = new Date(run.finishedAt ?? run.startedAt)
    await putAwayRest(records, cook, run, at)
    await recostRun(records, run)
    for (const lot of await findLots(records, { runId: run.id })) packed.push({ lot, at })
  }
  const day = todayOf(cook, today)
  // the newest of each that something is made of below is kept back for it, whatever the hour
  const keptBack = new Set(Object.values(kept).map((is) => packed.findLast(({ lot }) => lot.useBy >= day && is(lot))?.lot.id))
  for (const { lot, at } of packed)
    if (!keptBack.has(lot.id)) await useUp(records, cook, lot, at, (today.getTime() - at.getTime()) / (24 * hour), random)
  for (const [hours, kind, about, celsius, action] of [
    [9, 'cold store', 'Walk-in', 3.4, ''],
    [8.8, 'cold store', 'Service fridge', 7.1, 'Door stood open: shut, 4.2 °C half an hour later'],
    [6, 'clean-down', 'Bench 1, boards and knives, after raw poultry', null, ''],
    [1.5, 'cold store', 'Walk-in', 3.1, ''],
  ] as const) {
    const at = new Date(today.getTime() - hours * hour).toISOString()
    await noteSafety(cook, { id: uuidv7(), kind, about, celsius, action, at })
  }
  await makeThings(records, cook, await actorNamed(records, kitchen, 'Tobias Quill'), today)
}

/** Bones go into the freezer at once; the rest is served within its days, and some of it is not. */
async function useUp(
  records: KitchenRecords,
  cook: Actor,
  lot: Lot,
  packedAt: Date,
  daysAgo: number,
  random: ReturnType<typeof seededRandom>,
): Promise<void> {
  const move = (what: LotHappening, hours: number) => {
    const at = new Date(packedAt.getTime() + hours * hour)
    return applyMove(records, cook, lot.id, { id: uuidv7(), what, at: at.toISOString() }, null, todayOf(cook, packedAt))
  }
  const take = (portions: number | null, tenths: number | null, note: string, takenFor: 'dish' | 'thrown away' = 'dish') =>
    move({ kind: 'take', tenths, portions, takenFor, note }, takenFor === 'dish' ? 8 : 40)
  if (lot.kind === 'bones and carcasses') {
    if (daysAgo < 16) await move({ kind: 'freeze', place: 'Freezer' }, 1)
    else await take(null, null, 'Stock')
    return
  }
  const keeps = lot.kind === 'raw cuts' || lot.kind === 'grind and sausage' ? 4 : 1.4
  if (daysAgo < 0.6) return
  const isThere = daysAgo < keeps
  const share = isThere ? 0.45 + random.next() * 0.3 : 1
  const loss = !isThere && random.next() < 0.18 ? 0.08 + random.next() * 0.2 : 0
  const eaten = Math.floor(lot.packedTenths * (share - loss))
  if (lot.packedPortions !== null && lot.packedPortions > 1) {
    const portions = Math.floor(lot.packedPortions * (share - loss))
    if (portions > 0) await take(portions, null, random.pick(dishes))
  } else if (eaten > 0) await take(null, eaten, random.pick(dishes))
  if (!isThere) {
    const { leftTenths } = (await findLots(records, { id: lot.id }))[0] as Lot
    if (leftTenths === 0) return
    if (loss > 0) await take(null, null, random.pick(reasons), 'thrown away')
    else await take(null, null, random.pick(dishes))
  }
}

/** Stock of a fortnight's carcasses and fat are made; a log rests, a roulade is sliced, a centre cut dries. */
async function makeThings(records: KitchenRecords, cook: Actor, lead: Actor, today: Date): Promise<void> {
  const there = async (test: (lot: Lot) => boolean) =>
    (await findLots(records, { leftTenths: { [Op.gt]: 0 } })).filter((lot) => !lot.isBlocked && test(lot))
  const hoursAgo = (hours: number) => new Date(today.getTime() - hours * hour).toISOString()
  const start = (
    by: Actor,
    key: string,
    name: string,
    inputs: readonly { lotId: string; tenths: number | null }[],
    at: string,
    waitHours: number | null,
  ) =>
    startFollowOn(
      by,
      {
        id: uuidv7(),
        sheet: key,
        name,
        inputs: inputs.map((input) => ({ ...input, moveId: uuidv7(), portions: null })),
        waitHours,
        startedAt: at,
      },
      todayOf(by, new Date(at)),
    )
  const output = (key: string, at: number, tenths: number, changes: object = {}) => {
    const {
      name,
      role,
      unit,
      kind,
      isFormed = false,
    } = followOnSheet(key).outputs[at] as ReturnType<typeof followOnSheet>['outputs'][number]
    return {
      id: uuidv7(),
      name,
      role,
      unit,
      kind,
      isFormed,
      tenths,
      portions: null,
      valuePerUnit: null,
      place: 'Walk-in shelf',
      allergens: [],
      ...changes,
    }
  }
  const check = (
    by: Actor,
    id: string,
    kind: 'core' | 'cooling' | 'look',
    words: string,
    celsius: number | null,
    hours: number,
    action = '',
  ) => checkFollowOn(by, id, { id: uuidv7(), kind, words, celsius, action, at: hoursAgo(hours) })
  const whole = (lots: readonly Lot[]) => lots.map(({ id }) => ({ lotId: id, tenths: null }))
  const gramsOf = (lots: readonly Lot[]) => lots.reduce((sum, { leftTenths }) => sum + leftTenths, 0) / 10

  const carcasses = (await there(({ kind, animal }) => kind === 'bones and carcasses' && animal === 'bird')).slice(0, 9)
  if (carcasses.length > 0) {
    const grams = gramsOf(carcasses)
    const stock = await start(cook, 'white-stock', 'White poultry stock', whole(carcasses), hoursAgo(20), 4)
    await check(cook, stock.id, 'cooling', 'Cooling', 61, 15)
    await check(cook, stock.id, 'cooling', 'Cooling', 26, 12.6, 'Into two more shallow pans, on fresh ice')
    const cooled = await check(cook, stock.id, 'cooling', 'Cooling', 4.6, 9.5)
    await finishFollowOn(cook, stock.id, {
      version: cooled.version,
      added: [{ name: 'Vegetables', grams: Math.round(grams * 0.12), cost: grams * 0.00024 }],
      energy: 1.9,
      consumables: 0,
      minutes: 18,
      method: 'byproduct-credit',
      boughtPerUnit: 2.2,
      note: '',
      outputs: [
        output('white-stock', 0, Math.round(grams * 10.1)),
        output('white-stock', 1, Math.round(grams * 0.3), { valuePerUnit: 1.4 }),
        output('white-stock', 2, Math.round(grams * 7.6)),
      ],
    })
  }
  const bones = (await there(({ kind, animal }) => kind === 'bones and carcasses' && (animal === 'lamb' || animal === 'beef'))).slice(0, 6)
  if (bones.length > 0) {
    const grams = gramsOf(bones)
    const brown = await start(cook, 'brown-stock', 'Brown stock', whole(bones), hoursAgo(46), 8)
    await finishFollowOn(cook, brown.id, {
      version: brown.version,
      added: [{ name: 'Vegetables', grams: Math.round(grams * 0.12), cost: grams * 0.00024 }],
      energy: 3.2,
      consumables: 0,
      minutes: 27,
      method: 'byproduct-credit',
      boughtPerUnit: 4.6,
      note: '',
      outputs: [output('brown-stock', 0, Math.round(grams * 9.7)), output('brown-stock', 2, Math.round(grams * 7.2))],
    })
  }
  const fat = await there(kept.fat)
  if (fat.length > 0) {
    const grams = gramsOf(fat)
    const rendered = await start(cook, 'rendered-fat', 'Rendered fat', whole(fat), hoursAgo(26), 2)
    await finishFollowOn(cook, rendered.id, {
      version: rendered.version,
      added: [],
      energy: 0.3,
      consumables: 0,
      minutes: 9,
      method: 'byproduct-credit',
      boughtPerUnit: 9.5,
      note: '',
      outputs: [
        output('rendered-fat', 0, Math.round(grams * 7.3)),
        output('rendered-fat', 1, Math.round(grams * 1.1), { valuePerUnit: 4 }),
      ],
    })
  }
  const [log, dried] = [(await there(kept.log)).at(-1), (await there(kept.dried)).at(-1)]
  if (log) await start(lead, 'bonded-log', 'Bonded log of ends', [{ lotId: log.id, tenths: null }], hoursAgo(3), 9)
  if (dried) {
    const days = 12
    const cut = await start(lead, 'dried-cut', 'Air-dried centre cut', [{ lotId: dried.id, tenths: null }], hoursAgo(24 * days), 24 * 18)
    for (const [daysAgo, kept] of [
      [9, 0.93],
      [6, 0.86],
      [3, 0.79],
      [0.1, 0.735],
    ] as const) {
      const nothing = { output: null, portions: null, reversesId: null }
      const tenths = Math.round(dried.leftTenths * kept)
      await weighFollowOn(lead, cut.id, { ...nothing, id: uuidv7(), tenths, at: hoursAgo(24 * daysAgo) })
    }
  }
  const legs = (await there(kept.legs)).at(-1)
  if (legs) {
    const roulade = await start(cook, 'galantine', 'Stuffed legs, rolled', [{ lotId: legs.id, tenths: null }], hoursAgo(14), 13)
    await check(cook, roulade.id, 'look', 'Tied every 3 cm, no air under the film', null, 13.5)
    await check(cook, roulade.id, 'core', 'Core', 76.2, 12)
    await check(cook, roulade.id, 'cooling', 'Cooling', 58, 11.5)
    const cooled = await check(cook, roulade.id, 'cooling', 'Cooling', 4.1, 6.5)
    await finishFollowOn(cook, roulade.id, {
      version: cooled.version,
      added: [
        { name: 'Stuffing', grams: Math.round(legs.leftTenths * 0.042), cost: 3.1 },
        { name: 'Twine', grams: null, cost: 0.18 },
      ],
      energy: 0.6,
      consumables: 0,
      minutes: 22,
      method: 'weight',
      boughtPerUnit: null,
      note: '',
      outputs: [
        output('galantine', 0, Math.round(legs.leftTenths * 1.06), { portions: 11, place: 'Service fridge' }),
        output('galantine', 1, Math.round(legs.leftTenths * 0.08), { valuePerUnit: 6 }),
      ],
    })
  }
}
