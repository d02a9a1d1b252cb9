import { dayBody, type dayChange, type dayCreate, type KitchenDay } from '@fleam/contract/day'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { changeAsRead, createOnce, found, recordChange } from '../../http/changes.ts'
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
