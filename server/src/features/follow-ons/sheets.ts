import type {
  CookingTest,
  FollowOnSheetBody,
  FollowOnSheetEntry,
  followOnSheetChange,
  followOnSheetCreate,
  SavedValue,
} from '@fleam/contract/follow-ons'
import { expectFollowOn, type MadeFollowOn } from '@fleam/core/follow-ons/follow-on-book'
import { allFollowOnSheets, type FollowOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import { savedPerKg } from '@fleam/core/follow-ons/saved-value'
import { groupBy } from '@fleam/core/group-by'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'
import type { LotMoveRow } from '../walk-in/lot-move.model.ts'
import type { FollowOnRow } from './follow-on.model.ts'
import type { FollowOnSheetRow } from './follow-on-sheet.model.ts'
import { inputsOf } from './recost.ts'

/** So many follow-ons back the book looks. */
const testsKept = 500

/** Every sheet, Fleam's and then the kitchen's own, with what the kitchen's follow-ons gave by it. */
export async function listSheets({ records, kitchen }: Pick<Actor, 'records' | 'kitchen'>): Promise<FollowOnSheetEntry[]> {
  const [own, made] = await Promise.all([records.followOnSheets.findAll({ order: ['id'] }), madeBySheet(records)])
  const book = (sheet: FollowOnSheet) => expectFollowOn(sheet, made.get(sheet.key) ?? [], kitchen.settings.cutting.priorTests)
  return [
    ...allFollowOnSheets.map((sheet) => ({
      ...{ id: null, key: sheet.key, version: 1, isRetired: false },
      body: sheet as unknown as FollowOnSheetBody,
      book: book(sheet),
    })),
    ...own.map(({ id, version, isRetired, body }) => ({ id, key: id, version, isRetired, body, book: book({ ...body, key: id }) })),
  ]
}

async function madeBySheet(records: KitchenRecords): Promise<ReadonlyMap<string, MadeFollowOn[]>> {
  const rows = await lastFinished(records)
  const inputs = await inputsByFollowOn(records, rows)
  const made = rows.map(({ id, sheet, body }) => ({
    sheet,
    inputGrams: gramsOf(inputs.get(id) ?? []),
    addedGrams: body.added.reduce((sum, { grams }) => sum + (grams ?? 0), 0),
    minutes: body.minutes,
    outputs: [
      ...body.outputs.map(({ name, tenths }) => ({ name: name ?? '', amount: tenths / 10 })),
      ...body.waste.map(({ name, grams }) => ({ name, amount: grams })),
    ],
  }))
  return groupBy(made, ({ sheet }) => sheet)
}

const lastFinished = (records: KitchenRecords): Promise<FollowOnRow[]> =>
  records.followOns.findAll({ where: { status: 'finished' }, order: [['finishedAt', 'DESC']], limit: testsKept })

/** What went into each of these follow-ons, by its id. */
async function inputsByFollowOn(records: KitchenRecords, rows: readonly FollowOnRow[]): Promise<ReadonlyMap<string, LotMoveRow[]>> {
  const moves = await inputsOf(
    records,
    rows.map(({ id }) => id),
  )
  return groupBy(moves, ({ followOnId }) => followOnId ?? '')
}

const gramsOf = (moves: readonly LotMoveRow[]) => moves.reduce((sum, { lot, tenths }) => sum + (lot?.unit === 'g' ? -tenths / 10 : 0), 0)

/** What by-products were worth by what was made of them last, for the run that sets their value. */
export async function listSavedValues(records: KitchenRecords): Promise<SavedValue[]> {
  const rows = (await lastFinished(records)).filter(({ body, figures }) => body.boughtPerUnit != null && figures)
  const inputs = await inputsByFollowOn(records, rows)
  const known = new Map<string, SavedValue>()
  for (const { id, number, body, figures } of rows) {
    const main = body.outputs.find(({ role }) => role === 'main')
    const went = inputs.get(id) ?? []
    if (!main || body.boughtPerUnit == null) continue
    const perKg = savedPerKg({
      amount: main.tenths / (main.unit === 'piece' ? 10 : 10_000),
      boughtPerUnit: body.boughtPerUnit,
      gross: found(figures).gross,
      inputCost: went.reduce((sum, { lot, tenths }) => sum + ((lot?.cost ?? 0) * -tenths) / (lot?.packedTenths ?? 1), 0),
      inputGrams: gramsOf(went),
    })
    for (const lot of went.map((move) => found(move.lot))) {
      const key = `${lot.outputKey} ${lot.animal}`
      if (perKg === undefined || lot.outputKey === null || known.has(key)) continue
      known.set(key, {
        outputKey: lot.outputKey,
        animal: lot.animal,
        perKg,
        name: main.name ?? '',
        tenths: main.tenths,
        unit: main.unit ?? 'g',
        boughtPerUnit: body.boughtPerUnit,
        followOnId: id,
        number,
      })
    }
  }
  return [...known.values()]
}

/** What is kept in the pan, by cut and animal: grams served over grams raw, of all its cooking tests together. */
export async function listCookingTests(records: KitchenRecords): Promise<CookingTest[]> {
  const rows = await records.followOns.findAll({
    where: { status: 'finished', sheet: 'cooking-test' },
    order: [['finishedAt', 'DESC']],
    limit: testsKept,
  })
  const inputs = await inputsByFollowOn(records, rows)
  const known = new Map<string, { outputKey: string; animal: string | null; raw: number; served: number; tests: number }>()
  for (const { id, body } of rows) {
    const went = inputs.get(id) ?? []
    const [first] = went
    const served = body.outputs.filter(({ role, unit }) => role === 'main' && unit === 'g').reduce((sum, { tenths }) => sum + tenths, 0)
    const { outputKey = null, animal = null } = first?.lot ?? {}
    // what is of several cuts says nothing of one
    if (outputKey === null || served === 0 || went.some(({ lot }) => lot?.outputKey !== outputKey || lot.animal !== animal)) continue
    const key = `${outputKey} ${animal}`
    const so = known.get(key) ?? { outputKey, animal, raw: 0, served: 0, tests: 0 }
    const raw = went.reduce((sum, { tenths }) => sum - tenths, 0)
    known.set(key, { ...so, raw: so.raw + raw, served: so.served + served, tests: so.tests + 1 })
  }
  return [...known.values()].map(({ outputKey, animal, raw, served, tests }) => ({
    ...{ outputKey, animal, tests },
    keptPct: (served / raw) * 100,
  }))
}

export async function createSheet(by: Actor, { id, body }: z.infer<typeof followOnSheetCreate>): Promise<FollowOnSheetEntry> {
  const { records } = by
  await createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        await tx.followOnSheets.create({ id, body })
        await recordChange(tx, by, { subject: 'follow-on-sheet', subjectId: id, action: 'added', before: undefined, after: body })
      }),
    async () => (await records.followOnSheets.findOne({ where: { id } })) ?? undefined,
  )
  return findSheet(by, id)
}

export async function changeSheet(by: Actor, id: string, change: z.infer<typeof followOnSheetChange>): Promise<FollowOnSheetEntry> {
  await by.records.transaction(async (tx) => {
    const row: FollowOnSheetRow = found(await tx.followOnSheets.lock({ id }))
    refuseStale(change.version, row)
    const before = { body: row.body, isRetired: row.isRetired }
    const { body, isRetired } = change
    await tx.followOnSheets.save(row, { body, isRetired })
    await recordChange(tx, by, { subject: 'follow-on-sheet', subjectId: id, action: 'changed', before, after: { body, isRetired } })
  })
  return findSheet(by, id)
}

const findSheet = async (by: Actor, id: string) => found((await listSheets(by)).find((sheet) => sheet.id === id))

/** The sheet that a follow-on goes by. */
export async function sheetOf(records: KitchenRecords, key: string): Promise<FollowOnSheet> {
  const known = allFollowOnSheets.find((sheet) => sheet.key === key)
  if (known) return known
  const own = await records.followOnSheets.findOne({ where: { id: key } })
  return own ? { ...own.body, key } : (allFollowOnSheets.at(-1) as FollowOnSheet)
}
