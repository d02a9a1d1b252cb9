import type { LabelPrint } from '@fleam/contract/labels'
import type { Actor } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import type { Services } from '../routes.ts'
import type { LabelPrintRow } from './label-print.model.ts'
import { printersOf } from './print-queue.ts'

type Simulated = Services['simulatedPrinter']
const withPerson = { association: 'person', attributes: ['name'] }
const shown = 50

/** What waits at the kitchen's printers, and what was printed last. */
export async function listPrints(by: Actor, simulated: Simulated): Promise<LabelPrint[]> {
  const rows = await by.records.labelPrints.findAll({ include: [withPerson], order: [['askedAt', 'DESC']], limit: shown })
  return rows.map((row) => toPrint(row, by, simulated))
}

export async function findPrint(by: Actor, id: string, simulated: Simulated): Promise<LabelPrint | undefined> {
  const row = await by.records.labelPrints.findOne({ where: { id }, include: [withPerson] })
  return row ? toPrint(row, by, simulated) : undefined
}

function toPrint(row: LabelPrintRow, { kitchen }: Actor, simulated: Simulated): LabelPrint {
  const { id, printerId, lotIds, state, why, person, askedAt, printedAt } = row
  return {
    ...{ id, state, why },
    printer: printersOf(kitchen.settings, simulated).find((one) => one.id === printerId)?.name ?? 'a printer that is gone',
    labels: lotIds.length,
    by: found(person).name,
    askedAt: askedAt.toISOString(),
    printedAt: printedAt?.toISOString() ?? null,
  }
}
