import { networkInterfaces } from 'node:os'
import { type AuditEntry, type Kitchen, type kitchenChange, readSettings } from '@fleam/contract/kitchen'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { changeAsRead, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import type { KitchenRow } from './kitchen.model.ts'

export async function changeKitchen(by: Actor, change: z.infer<typeof kitchenChange>, ownPorts: readonly number[]): Promise<Kitchen> {
  return by.records.transaction(async (tx) => {
    const { before, row } = await changeAsRead(tx.kitchens, {}, change.version, toKitchen, async (read) => {
      if (change.settings.currency !== read.settings.currency) await refuseCurrencyWithPrices(tx, read)
      refuseStrangeAddresses(change, read, ownPorts)
      return { name: change.name, settings: change.settings }
    })
    const after = toKitchen(row)
    await recordChange(tx, by, { subject: 'kitchen', subjectId: after.id, action: 'changed', before, after })
    return after
  })
}

/**
 * Fleam connects to the addresses of scales and printers: a person says that they are theirs, and none is a port of Fleam's own machine
 * that Fleam itself uses.
 */
function refuseStrangeAddresses(change: z.infer<typeof kitchenChange>, read: Kitchen, ownPorts: readonly number[]): void {
  const own = new Set(Object.values(networkInterfaces()).flatMap((list) => (list ?? []).map(({ address }) => address)))
  for (const [kind, one, isConfirmed] of [
    ['scales', 'scale', change.scalesConfirmed],
    ['printers', 'printer', change.printersConfirmed],
  ] as const) {
    const given: readonly { host: string; port: number }[] = change.settings[kind]
    for (const [index, { host, port }] of given.entries()) {
      const isHere = host === 'localhost' || host.startsWith('127.') || own.has(host)
      if (isHere && ownPorts.includes(port))
        throw refuseField(`settings.${kind}.${index}.port`, `That is Fleam itself: type the port of the ${one}.`)
    }
    const isNew = given.some(({ host, port }) => !read.settings[kind].some((known) => known.host === host && known.port === port))
    if (isNew && !isConfirmed)
      throw refuseField(`${kind}Confirmed`, `Say that these are ${kind} of this kitchen: Fleam will connect to them.`)
  }
}

/** Quotes are kept as quoted, so a kitchen that has some keeps its currency. */
async function refuseCurrencyWithPrices(tx: KitchenRecords, kitchen: Kitchen): Promise<void> {
  const quote = await tx.quotes.findOne({ attributes: ['id'] })
  if (!quote) return
  const message = `Prices are kept in ${kitchen.settings.currency}: the currency can only change while there are none.`
  throw refuseField('settings.currency', message)
}

export async function listAudit(records: KitchenRecords, before: number, limit: number): Promise<AuditEntry[]> {
  const rows = await records.auditTrail.findAll({
    where: { id: { [Op.lt]: before } },
    include: [{ association: 'person', attributes: ['name'] }],
    order: [['id', 'DESC']],
    limit,
  })
  const nameOf = await namesOf(
    records,
    rows.map(({ subjectId }) => subjectId),
  )
  return rows.map((row) => ({
    id: String(row.id),
    at: row.at.toISOString(),
    by: row.person?.name ?? 'Fleam',
    subject: row.subject,
    subjectId: row.subjectId,
    about: nameOf(row.subjectId),
    action: row.action,
    before: row.before ?? null,
    after: row.after ?? null,
  }))
}

/** What the subjects of changes are called today, whatever they are. */
async function namesOf(records: KitchenRecords, ids: readonly string[]): Promise<(id: string) => string> {
  const where = { id: [...new Set(ids)] }
  const named = { attributes: ['id', 'name'], where, raw: true }
  const [runs, tubs, ...lists] = await Promise.all([
    records.runs.findAll({ attributes: ['id', 'number'], where, include: [{ association: 'item', attributes: ['name'] }] }),
    records.tubs.findAll(named),
    records.items.findAll(named),
    records.suppliers.findAll(named),
    records.people.findAll(named),
    records.comparisons.findAll(named),
  ])
  const names = new Map([...lists.flat(), ...tubs].map(({ id, name }) => [id, name]))
  for (const run of runs) names.set(run.id, `run ${run.number}, ${run.item?.name ?? ''}`)
  return (id) => names.get(id) ?? ''
}

function toKitchen({ id, name, settings, version }: KitchenRow): Kitchen {
  return { id, name, settings: readSettings(settings), version }
}
