import type { DayBody } from '@fleam/contract/day'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import { found } from '../http/changes.ts'

const dayMs = 86_400_000
const turkey = 'Turkey, whole, oven-ready'
const chicken = 'Chicken, whole, case of five'

/** Dishes with what they are of, how many of a hundred guests take them, and grams of the raw product a portion. */
const services = [
  {
    ...{ name: 'School, class', at: '11:00', guests: 14, sdPct: 0 },
    dishes: [
      { name: 'Confit leg, the class’s own', item: chicken, outputKey: 'leg', outputName: 'Legs with oyster', pct: 100, grams: 260 },
    ],
  },
  {
    ...{ name: 'Carvery', at: '12:30', guests: 240, sdPct: 6 },
    dishes: [
      { name: 'Roast turkey breast', item: turkey, outputKey: 'breast', outputName: 'Breasts, boneless', pct: 55, grams: 190 },
      { name: 'Braised turkey thigh', item: turkey, outputKey: 'thigh', outputName: 'Thighs, boned', pct: 25, grams: 210 },
    ],
  },
  {
    ...{ name: 'Wedding', at: '19:00', guests: 90, sdPct: 3 },
    dishes: [
      { name: 'Supreme, cider sauce', item: chicken, outputKey: 'supreme', outputName: 'Supremes', pct: 60, grams: 220 },
      {
        ...{
          name: 'Steak, marrow',
          item: 'Beef tenderloin, peeled, side muscle on',
          outputKey: 'centre-steak',
          outputName: 'Centre steaks',
        },
        ...{ pct: 40, grams: 180 },
      },
    ],
  },
]

/** The demo's next Saturday: a carvery for 240, a wedding of 90, and the school's class before noon. */
export async function planSaturday(tx: KitchenRecords, today: Date): Promise<void> {
  const items = new Map((await tx.items.findAll({ attributes: ['id', 'name'], raw: true })).map(({ id, name }) => [name, id]))
  const by = found(await tx.people.findOne({ where: { role: 'lead' }, order: ['name'] }))
  const named = services.map(({ dishes, ...service }) => ({ service: { id: uuidv7(), ...service }, dishes }))
  const body: DayBody = {
    services: named.map(({ service }) => service),
    dishes: named.flatMap(({ service, dishes }) =>
      dishes.map(({ name, item, outputKey, outputName, pct, grams }) => ({
        ...{ id: uuidv7(), serviceId: service.id, name, itemId: found(items.get(item)), outputKey, outputName },
        ...{ portions: { kind: 'of-guests' as const, pct }, gramsPerPortion: grams, lossPct: 0 },
      })),
    ),
    ...{ servicePct: 90, minutesAvailable: 900, overtimeMinutes: 240, held: { way: {}, offer: {}, readyCut: {} } },
  }
  await tx.days.create({
    id: uuidv7(),
    name: 'Saturday: carvery, wedding, class',
    date: nextSaturday(today),
    body,
    personId: by.id,
    at: today,
  })
}

function nextSaturday(today: Date): string {
  const ahead = (6 - today.getUTCDay() + 7) % 7 || 7
  return new Date(today.getTime() + ahead * dayMs).toISOString().slice(0, 10)
}
