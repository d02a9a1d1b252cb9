import { dayBody, type dayChange, type dayCreate, type KitchenDay } from '@fleam/contract/day'
import { readCounts, withCounts } from '@fleam/core/day/day-counts'
import { daysAfter } from '@fleam/core/walk-in/use-by'
import { v5 as uuidv5 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { changeAsRead, createOnce, found, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import type { Csv } from '../prices/read-price-list.ts'
import type { DayRow } from './day.model.ts'

const withPerson = { association: 'person', attributes: ['name'] }
const shown = 200

/** The days that are planned, the latest first. */
export async function listDays(records: KitchenRecords): Promise<KitchenDay[]> {
  const rows = await records.days.findAll({
    where: { dropped: false },
    include: [withPerson],
    order: [
      ['date', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: shown,
  })
  return rows.map(toDay)
}

export async function findDay(records: KitchenRecords, id: string): Promise<KitchenDay | undefined> {
  const row = await records.days.findOne({ where: { id, dropped: false }, include: [withPerson] })
  return row ? toDay(row) : undefined
}

export async function createDay(by: Actor, create: z.infer<typeof dayCreate>): Promise<KitchenDay> {
  return createOnce(
    by.records,
    () =>
      by.records.transaction(async (tx) => {
        await tx.days.create({ ...create, personId: by.person.id, at: new Date() })
        const { name, date } = create
        await recordChange(tx, by, { subject: 'day', subjectId: create.id, action: 'added', before: undefined, after: { name, date } })
      }),
    () => findDay(by.records, create.id),
  )
}

export async function changeDay(by: Actor, id: string, { version, ...change }: z.infer<typeof dayChange>): Promise<KitchenDay> {
  return by.records.transaction(async (tx) => {
    const show = async () => found(await findDay(tx, id))
    const { before } = await changeAsRead(tx.days, { id, dropped: false }, version, show, {
      ...change,
      personId: by.person.id,
      at: new Date(),
    })
    await recordChange(tx, by, { subject: 'day', subjectId: id, action: 'changed', before: summaryOf(before), after: summaryOf(change) })
    return show()
  })
}

/**
 * The same day every week from then on, for so many weeks, each under an id that follows from the first: asked again, only
 * the weeks that are missing are added.
 */
export async function repeatDay(by: Actor, id: string, weeks: number): Promise<KitchenDay[]> {
  return by.records.transaction(async (tx) => {
    // two that ask at once wait for each other here
    found(await tx.days.lock({ id, dropped: false }))
    const first = found(await findDay(tx, id))
    const body = { ...first.body, held: { way: {}, offer: {}, readyCut: {} }, heldJobs: {} }
    const all = Array.from({ length: weeks }, (_, week) => {
      const date = daysAfter(first.date, (week + 1) * 7)
      return { id: uuidv5(date, id), date }
    })
    const ids = all.map((day) => day.id)
    const known = new Set((await tx.days.findAll({ where: { id: ids }, attributes: ['id'] })).map((day) => day.id))
    const missing = all.filter((day) => !known.has(day.id))
    await tx.days.bulkCreate(missing.map((day) => ({ ...day, name: first.name, body, personId: by.person.id, at: new Date() })))
    // weeks that were taken off again are put back as they were
    await tx.days.update({ dropped: false }, { id: ids, dropped: true })
    for (const day of missing) {
      const after = { name: first.name, date: day.date }
      await recordChange(tx, by, { subject: 'day', subjectId: day.id, action: 'added', before: undefined, after })
    }
    const rows = await tx.days.findAll({ where: { id: ids, dropped: false }, include: [withPerson], order: ['date'] })
    return rows.map(toDay)
  })
}

/** Puts the counts of a list into a day. */
export async function countDay(by: Actor, id: string, version: number, { header, rows }: Csv): Promise<KitchenDay> {
  const { name, date, body } = found(await findDay(by.records, id))
  const counted = dayBody.safeParse(withCounts(body, readCounts(header, rows)))
  if (!counted.success) throw refuseField('text', counted.error.issues[0]?.message ?? 'These counts cannot be taken.')
  return changeDay(by, id, { version, name, date, body: counted.data })
}

/** Takes a day off the list, or puts it back. */
export async function dropDay(by: Actor, id: string, dropped: boolean): Promise<void> {
  await by.records.transaction(async (tx) => {
    const row = found(await tx.days.lock({ id }))
    await tx.days.update({ dropped }, { id })
    const action = dropped ? 'dropped' : 'put back'
    await recordChange(tx, by, { subject: 'day', subjectId: id, action, before: { name: row.name, date: row.date }, after: undefined })
  })
}

/** What the audit trail shows of a day. */
const summaryOf = ({ name, date, body }: Pick<KitchenDay, 'name' | 'date' | 'body'>) => ({
  name,
  date,
  guests: body.services.map((service) => `${service.name} ${service.guests}`).join(', '),
  dishes: body.dishes.length,
  servicePct: body.servicePct,
})

function toDay({ id, name, date, body, version, at, person }: DayRow): KitchenDay {
  // what is new in a day since it was kept stands at its usual
  return { id, name, date, body: dayBody.parse(body), version, changedAt: at.toISOString(), by: found(person).name }
}
