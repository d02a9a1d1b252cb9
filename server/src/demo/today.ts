import type { KitchenSettings } from '@fleam/contract/kitchen'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import { keepComparison } from '../features/compare/service.ts'
import { addDishNeed } from '../features/dishes/service.ts'
import { startRun } from '../features/runs/service.ts'
import { weighIn } from '../features/runs/weigh.ts'
import type { Actor } from '../http/access.ts'
import { found } from '../http/changes.ts'

const minute = 60_000
const day = 24 * 60 * minute
const entered = (grams: number) => ({ tenths: Math.round(grams * 10), entered: `${grams} g` })

/** What is going on in the kitchen when somebody looks in: a loin half cut, turkeys waiting, dishes short, a comparison kept. */
export async function fillToday(records: KitchenRecords, today: Date, kitchen: { name: string; settings: KitchenSettings }): Promise<void> {
  const named = (name: string) => actorNamed(records, kitchen, name)
  const item = async (name: string) => found(await records.items.findOne({ where: { name } }))
  const sheetId = async (slug: string) => found(await records.cutSheets.findOne({ where: { slug } })).id
  const supplierId = async (name: string) => found(await records.suppliers.findOne({ where: { name } })).id
  const ago = (minutes: number) => new Date(today.getTime() - minutes * minute).toISOString()

  const loin = await item('Beef tenderloin, peeled, side muscle on')
  const traditional = await sheetId('beef-tenderloin-traditional')
  const ines = await named('Ines Calloway')
  const onBench = await startRun(ines, {
    id: uuidv7(),
    itemId: loin.id,
    cutSheetId: traditional,
    supplierId: await supplierId('Harrow & Fenn Butchers'),
    lot: 'H132',
    billed: entered(2950),
    received: entered(2934),
    pieces: 1,
    byPiece: false,
    coreTempC: 2.9,
    target: entered(180),
    temperature: null,
    weightsChecked: true,
    fish: null,
    deliveryCheck: null,
    fromLotId: null,
    startedAt: ago(14),
  })
  const cut: readonly [output: string, grams: number][] = [
    ['liquid', 41],
    ['side-muscle', 212],
    ['silverskin', 168],
    ['fat', 251],
    ['centre-steak', 183],
    ['centre-steak', 179],
    ['centre-steak', 186],
  ]
  for (const [index, [output, grams]] of cut.entries()) {
    const tubId = found(onBench.tubs.find((tub) => tub.key === output)).id
    await weighIn(ines, onBench.id, {
      id: uuidv7(),
      tubId,
      weight: entered(grams),
      piece: null,
      load: null,
      weighedAt: ago(12 - index * 1.5),
    })
  }

  await startRun(await named('Jory Penhale'), {
    id: uuidv7(),
    itemId: (await item('Turkey, whole, oven-ready')).id,
    cutSheetId: await sheetId('turkey-parts'),
    supplierId: await supplierId('Greywether Poultry'),
    lot: 'G58-C',
    billed: entered(43_600),
    received: entered(43_480),
    pieces: 6,
    byPiece: true,
    coreTempC: 3.4,
    target: null,
    temperature: null,
    weightsChecked: true,
    fish: null,
    deliveryCheck: null,
    fromLotId: null,
    startedAt: ago(5),
  })

  const lead = await named('Tobias Quill')
  const dueOn = (days: number) => new Date(today.getTime() + days * day).toISOString().slice(0, 10)
  await addDishNeed(lead, {
    id: uuidv7(),
    dish: 'Skewers, bar menu',
    animal: 'beef',
    product: 'side-muscle',
    need: entered(1400),
    dueOn: dueOn(1),
  })
  await addDishNeed(lead, {
    id: uuidv7(),
    dish: 'Drumette confit',
    animal: 'bird',
    product: 'drumette',
    need: entered(2600),
    dueOn: dueOn(2),
  })

  const against = found(loin.againstId)
  await keepComparison(await named('Maren Holt'), {
    id: uuidv7(),
    name: 'Steaks for the summer menu',
    body: {
      itemId: loin.id,
      cutSheetId: traditional,
      outputKey: 'centre-steak',
      readyCutIds: [against],
      changed: {},
      byproducts: 'market',
      mains: 'credited',
      asServed: true,
      idleHands: false,
      pricesMove: true,
      leftOver: 'used',
      supplierId: null,
      cookId: null,
    },
  })
}

/** One of the demo's people, at work. */
export async function actorNamed(
  records: KitchenRecords,
  kitchen: { name: string; settings: KitchenSettings },
  name: string,
): Promise<Actor> {
  const { id, role, active, version } = found(await records.people.findOne({ where: { name } }))
  return { person: { id, name, role, active, version }, kitchen: { id: records.kitchenId, version: 1, ...kitchen }, records }
}
