import type { DayBody, DayStep } from '@fleam/contract/day'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import { found } from '../http/changes.ts'

const dayMs = 86_400_000
const turkey = 'Turkey, whole, oven-ready'
const chicken = 'Chicken, whole, case of five'

const loin = 'Beef tenderloin, peeled, side muscle on'

const step = (kind: DayStep['kind'], handsMinutes: number, waitMinutes: number, pullAtC: number | null = null): DayStep => ({
  ...{ kind, handsMinutes, waitMinutes, pullAtC, perRoom: null },
})

/** Dishes with what they are of, how many of a hundred guests take them, grams of the raw product a portion, and how they are cooked. */
const services = [
  {
    ...{ name: 'School, class', at: '11:00', guests: 14, sdPct: 0 },
    dishes: [
      {
        ...{ name: 'Confit leg, the class’s own', item: chicken, outputKey: 'leg', outputName: 'Legs with oyster', pct: 100, grams: 260 },
        steps: [step('salt', 10, 600), step('simmer', 10, 150), step('finish', 10, 0)],
      },
    ],
  },
  {
    ...{ name: 'Carvery', at: '12:30', guests: 240, sdPct: 6 },
    dishes: [
      {
        ...{ name: 'Roast turkey breast', item: turkey, outputKey: 'breast', outputName: 'Breasts, boneless', pct: 55, grams: 190 },
        steps: [step('salt', 20, 480), step('roast', 15, 95, 66), step('rest', 0, 25), step('finish', 30, 0)],
      },
      {
        ...{ name: 'Braised turkey thigh', item: turkey, outputKey: 'thigh', outputName: 'Thighs, boned', pct: 25, grams: 210 },
        steps: [step('simmer', 20, 110, 80), step('finish', 15, 0)],
      },
      {
        ...{ name: 'Drumstick, glazed', item: turkey, outputKey: 'drum', outputName: 'Drums', pct: 15, grams: 380 },
        steps: [step('roast', 10, 75, 80), step('finish', 10, 0)],
      },
    ],
  },
  {
    ...{ name: 'Wedding', at: '19:00', guests: 90, sdPct: 3 },
    dishes: [
      {
        ...{ name: 'Supreme, cider sauce', item: chicken, outputKey: 'supreme', outputName: 'Supremes', pct: 60, grams: 220 },
        steps: [step('roast', 15, 22, 71), step('rest', 0, 8), step('finish', 15, 0)],
      },
      {
        ...{ name: 'Steak, marrow', item: loin, outputKey: 'centre-steak', outputName: 'Centre steaks', pct: 40, grams: 180 },
        steps: [step('dry', 5, 480), step('roast', 15, 12, 52), step('rest', 0, 10), step('finish', 15, 0)],
      },
    ],
  },
]

/** Two at the benches and one who sorts on the eve; the day itself is cooked in two shifts. */
const crew: { name: string; daysBefore: number; from: string; to: string; skills: DayBody['crew'][number]['skills'] }[] = [
  { name: 'Ines Calloway', daysBefore: 1, from: '07:00', to: '15:30', skills: ['cut'] },
  { name: 'Jory Penhale', daysBefore: 1, from: '07:00', to: '15:30', skills: ['cut', 'cook'] },
  { name: 'Pip Marsden', daysBefore: 1, from: '07:00', to: '15:30', skills: ['sort'] },
  { name: 'Tobias Quill', daysBefore: 0, from: '06:00', to: '14:00', skills: ['cut', 'cook'] },
  { name: 'Jory Penhale', daysBefore: 0, from: '07:00', to: '15:00', skills: ['cut', 'cook'] },
  { name: 'Adaeze Lindqvist', daysBefore: 0, from: '14:00', to: '22:00', skills: ['cook'] },
  { name: 'Ines Calloway', daysBefore: 0, from: '14:00', to: '22:00', skills: ['cut', 'cook'] },
]

const places: Omit<DayBody['places'][number], 'id'>[] = [
  { name: 'Bench by the window', kind: 'bench', room: 1 },
  { name: 'Bench by the walk-in', kind: 'bench', room: 1 },
  { name: 'Large oven', kind: 'oven', room: 6 },
  { name: 'Small oven', kind: 'oven', room: 4 },
  { name: 'Stock pot', kind: 'pot', room: 80 },
  { name: 'Braising pan', kind: 'pot', room: 60 },
  { name: 'Cold shelves', kind: 'shelf', room: 320 },
]

const arrivals = [
  { item: turkey, daysBefore: 1, at: '07:00' },
  { item: chicken, daysBefore: 1, at: '07:30' },
  { item: loin, daysBefore: 1, at: '08:00' },
]

/** The demo's next Saturday: a carvery for 240, a wedding of 90, and the school's class before noon. */
export async function planSaturday(tx: KitchenRecords, today: Date): Promise<void> {
  const items = new Map((await tx.items.findAll({ attributes: ['id', 'name'], raw: true })).map(({ id, name }) => [name, id]))
  const people = new Map((await tx.people.findAll({ attributes: ['id', 'name'], raw: true })).map(({ id, name }) => [name, id]))
  const by = found(await tx.people.findOne({ where: { role: 'lead' }, order: ['name'] }))
  const named = services.map(({ dishes, ...service }) => ({ service: { id: uuidv7(), ...service }, dishes }))
  const body: DayBody = {
    services: named.map(({ service }) => service),
    dishes: named.flatMap(({ service, dishes }) =>
      dishes.map(({ name, item, outputKey, outputName, pct, grams, steps }) => ({
        ...{ id: uuidv7(), serviceId: service.id, name, itemId: found(items.get(item)), outputKey, outputName },
        ...{ portions: { kind: 'of-guests' as const, pct }, gramsPerPortion: grams, lossPct: 0, steps, madeBy: null },
      })),
    ),
    ...{ servicePct: 90, minutesAvailable: 900, overtimeMinutes: 240, held: { way: {}, offer: {}, readyCut: {} } },
    crew: crew.map((shift) => ({ ...shift, id: uuidv7(), personId: people.get(shift.name) ?? null })),
    places: places.map((place) => ({ ...place, id: uuidv7() })),
    arrivals: arrivals.map(({ item, ...arrival }) => ({ ...arrival, itemId: found(items.get(item)), thawHours: 0, orderDays: 1 })),
    ...{ benchesPerSorter: 3, tubKg: 8, cleanDownMinutes: 15, heldJobs: {}, limits: {} },
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
