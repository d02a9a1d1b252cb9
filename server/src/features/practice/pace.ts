import type { Pace } from '@fleam/contract/practice'
import { paceByStep, paceOfRun } from '@fleam/core/practice/pace'
import { col, fn, literal } from 'sequelize'
import type { Actor } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { findCutSheet } from '../cut-sheets/service.ts'
import { findRuns } from '../runs/find-run.ts'
import { findWatched } from './watched.ts'

const ownRuns = 20
const houseRuns = 40

/** How long somebody takes by step, against their own best and the house. Of the sheet that they cut by most, unless another is asked for. */
export async function findPace(by: Actor, asked?: string, sheetId?: string): Promise<Pace> {
  const { records, kitchen } = by
  const { id: personId, name } = await findWatched(by, asked)
  const counted = (await records.runs.findAll({
    attributes: [
      [col('cutSheetVersion.cut_sheet_id'), 'sheetId'],
      [fn('COUNT', literal('*')), 'runs'],
    ] as never,
    where: { cookId: personId, status: 'finished' },
    include: [{ association: 'cutSheetVersion', attributes: [] }],
    group: ['cutSheetVersion.cut_sheet_id'],
    raw: true,
  })) as unknown as { sheetId: string; runs: number }[]
  const rows = await records.cutSheets.findAll({
    where: { id: counted.map((one) => one.sheetId) },
    include: [{ association: 'newestVersion', attributes: ['name'] }],
  })
  const sheets = counted
    .map((one) => ({ id: one.sheetId, name: rows.find(({ id }) => id === one.sheetId)?.newestVersion?.name ?? '', runs: Number(one.runs) }))
    .sort((a, b) => b.runs - a.runs)
  const chosen = sheetId ?? sheets[0]?.id
  if (chosen === undefined) return { personId, name, sheets, sheet: null, ownRuns: 0, houseRuns: 0, steps: [] }
  const sheet = found(await findCutSheet(records, chosen))
  const versions = await records.cutSheetVersions.findAll({ where: { cutSheetId: chosen }, attributes: ['id'] })
  const latest = (where: object, limit: number) =>
    records.runs.findAll({
      attributes: ['id', 'cookId'],
      where: { ...where, status: 'finished', cutSheetVersionId: versions.map(({ id }) => id) },
      order: [['startedAt', 'DESC']],
      limit,
    })
  const [mine, recent] = await Promise.all([latest({ cookId: personId }, ownRuns), latest({}, houseRuns + ownRuns)])
  const theirs = recent.filter(({ cookId }) => cookId !== personId).slice(0, houseRuns)
  const runs = new Map(
    (
      await findRuns(
        records,
        [...mine, ...theirs].map(({ id }) => id),
      )
    ).map((run) => [run.id, run]),
  )
  const pacesOf = (some: readonly { id: string }[]) =>
    some.map(({ id }) => paceOfRun(found(runs.get(id)), kitchen.settings.limits.breakMinutes))
  const { body } = sheet
  const steps = [...(body.station.length > 0 ? ['Set the station'] : []), ...body.steps.map(({ title }) => title)]
  const cautions = [...new Set([...body.cautions, ...body.steps.flatMap(({ caution }) => (caution === undefined ? [] : [caution]))])]
  return {
    ...{ personId, name, sheets, ownRuns: mine.length, houseRuns: theirs.length },
    sheet: { id: sheet.id, versionId: sheet.versionId, name: body.name, cautions },
    steps: paceByStep(steps, pacesOf(mine.reverse()), pacesOf(theirs)),
  }
}
