import type { SafetyLine, SafetyRecord, safetyNoteCreate } from '@fleam/contract/safety'
import { coldClock } from '@fleam/core/bench/cold-clock'
import { coolFirstC, coolToC } from '@fleam/core/follow-ons/checks'
import { groupBy } from '@fleam/core/group-by'
import { startOfDay } from '@fleam/core/quantities/house-day'
import { amountText } from '@fleam/core/walk-in/amount-text'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { Actor } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import { csvLine } from '../../http/csv.ts'

const withPerson = { association: 'person', attributes: ['name'] }
const withRun = { association: 'run', attributes: ['number', 'startedAt'], include: [{ association: 'item', attributes: ['name'] }] }
const mostRuns = 500

/** A day's food-safety record by the kitchen's own clock: what was received, measured, cooked, cooled, kept, thrown away and cleaned. */
export async function readSafetyRecord(by: Actor, day: string): Promise<SafetyRecord> {
  const { timeZone } = by.kitchen.settings
  const during = { [Op.gte]: startOfDay(day, timeZone), [Op.lt]: startOfDay(day, timeZone, 1) }
  const parts = await Promise.all([
    received(by, during),
    atBenches(by, during),
    ofFollowOns(by, during),
    ofLots(by, during),
    notes(by, during),
  ])
  return { day, lines: parts.flat().sort((a, b) => a.at.localeCompare(b.at)) }
}

interface During {
  [Op.gte]: Date
  [Op.lt]: Date
}

const nothing = { limit: '', isOut: false, action: '' }
const degrees = (celsius: number) => `${celsius} °C`

async function received({ records }: Actor, during: During): Promise<SafetyLine[]> {
  const runs = await records.runs.findAll({
    attributes: ['id', 'number', 'startedAt', 'coreTempC', 'temperature', 'lot'],
    where: { startedAt: during },
    include: [
      { association: 'item', attributes: ['name'] },
      { association: 'cook', attributes: ['name'] },
      { association: 'supplier', attributes: ['name'] },
    ],
    limit: mostRuns,
  })
  const defects = await records.defects.findAll({
    where: { runId: runs.map(({ id }) => id) },
    include: [withPerson],
  })
  const nameOf = new Map(runs.map(({ id, number, item }) => [id, `run ${number}, ${item?.name}`]))
  return [
    ...runs.map(
      ({ startedAt, number, item, supplier, cook, coreTempC, temperature, lot }): SafetyLine => ({
        at: startedAt.toISOString(),
        what: 'receiving',
        about: `run ${number}, ${item?.name}${supplier ? `, ${supplier.name}` : ''}${lot ? `, lot ${lot}` : ''}`,
        found: coreTempC === null ? 'not measured' : degrees(coreTempC),
        limit: temperature ? `at most ${degrees(temperature.limitC)}` : '',
        isOut: temperature !== null && coreTempC !== null && coreTempC > temperature.limitC,
        action: temperature ? [temperature.decision, temperature.note].filter(Boolean).join(': ') : '',
        by: cook?.name ?? '',
      }),
    ),
    ...defects.map(
      ({ runId, kind, note, at, person }): SafetyLine => ({
        ...nothing,
        at: at.toISOString(),
        what: 'defect',
        about: nameOf.get(runId) ?? '',
        found: [kind, note].filter(Boolean).join(': '),
        by: found(person).name,
      }),
    ),
  ]
}

async function atBenches({ records, kitchen }: Actor, during: During): Promise<SafetyLine[]> {
  const { outOfColdMinutes, coldWarningMinutes } = kitchen.settings.limits
  const events = await records.benchEvents.findAll({
    where: { kind: ['temperature', 'cold', 'station'], happenedAt: during },
    include: [withPerson, withRun],
    order: ['sequence'],
  })
  const lines: SafetyLine[] = []
  for (const [, ofRun] of groupBy(events, ({ runId }) => runId)) {
    const [first] = ofRun
    const run = found(first?.run)
    const about = `run ${run.number}, ${run.item?.name}`
    const moves = ofRun.flatMap(({ body, happenedAt }) => (body.kind === 'cold' ? [{ at: happenedAt.getTime(), isOut: body.out }] : []))
    const last = ofRun.findLast(({ body }) => body.kind === 'cold')
    if (last) {
      const { minutesOut, isOut } = coldClock(run.startedAt.getTime(), moves, last.happenedAt.getTime(), {
        limitMinutes: outOfColdMinutes,
        warningMinutes: coldWarningMinutes,
      })
      lines.push({
        at: last.happenedAt.toISOString(),
        what: 'out of the cold',
        about,
        found: `${Math.round(minutesOut)} min out${isOut ? ', still out then' : ', back in the cold'}`,
        limit: `at most ${outOfColdMinutes} min`,
        isOut: minutesOut > outOfColdMinutes,
        action: '',
        by: found(last.person).name,
      })
    }
    const ticked = ofRun.filter(({ body }) => body.kind === 'station' && body.ticked)
    const lastTick = ticked.at(-1)
    if (lastTick)
      lines.push({
        ...nothing,
        at: lastTick.happenedAt.toISOString(),
        what: 'station',
        about,
        found: `${ticked.length} lines of the station list ticked`,
        by: found(lastTick.person).name,
      })
    for (const { body, happenedAt, person } of ofRun) {
      if (body.kind !== 'temperature') continue
      const { of, celsius, limitC, action } = body
      lines.push({
        at: happenedAt.toISOString(),
        what: 'temperature',
        about: `${about}, ${of}`,
        found: degrees(celsius),
        limit: limitC === null ? '' : `at most ${degrees(limitC)}`,
        isOut: limitC !== null && celsius > limitC,
        action,
        by: found(person).name,
      })
    }
  }
  return lines
}

/** So many days at most something is made: what dries is weighed for weeks. */
const longestMakingMs = 90 * 86_400_000

async function ofFollowOns({ records, kitchen }: Actor, during: During): Promise<SafetyLine[]> {
  const { coolFirstHours, coolSecondHours } = kitchen.settings.limits
  const [from, to] = [during[Op.gte], during[Op.lt]]
  const rows = await records.followOns.findAll({
    where: { status: ['open', 'finished'], startedAt: { [Op.gte]: new Date(from.getTime() - longestMakingMs), [Op.lt]: to } },
    order: [['startedAt', 'DESC']],
    limit: mostRuns,
  })
  const limitOf = (kind: string, limitC: number | null | undefined) =>
    kind === 'cooling'
      ? `${coolFirstC} °C in ${coolFirstHours} h, ${coolToC} °C in ${coolSecondHours} h more`
      : limitC == null
        ? ''
        : `at least ${degrees(limitC)}`
  return rows.flatMap(({ number, name, body }) =>
    (body.checks ?? [])
      .filter(({ at }) => at >= from.toISOString() && at < to.toISOString())
      .map(
        ({ kind, words, celsius, isOut, limitC, action, at, by }): SafetyLine => ({
          ...{ at, isOut, action, by },
          what: kind === 'core' ? 'cooking' : kind === 'cooling' ? 'cooling' : 'check',
          about: `follow-on ${number}, ${name}`,
          found: celsius === null ? words : degrees(celsius),
          limit: limitOf(kind, limitC),
        }),
      ),
  )
}

const moveWords = { keep: 'kept longer', block: 'blocked', release: 'released', freeze: 'frozen', thaw: 'thawed' } as const

async function ofLots({ records, kitchen }: Actor, during: During): Promise<SafetyLine[]> {
  const moves = await records.lotMoves.findAll({
    where: { at: during, kind: [...Object.keys(moveWords), 'take'] },
    include: [withPerson, { association: 'lot', attributes: ['number', 'name', 'unit', 'useBy'] }],
    order: ['sequence'],
  })
  return moves.flatMap(({ kind, takenFor, tenths, note, at, person, lot }): SafetyLine[] => {
    if (kind === 'take' && takenFor !== 'thrown away') return []
    const { number, name, unit, useBy } = found(lot)
    const amount = amountText(unit, -tenths, kitchen.settings.weightSystem)
    return [
      {
        at: at.toISOString(),
        what: kind === 'take' ? 'thrown away' : 'use-by',
        about: `lot ${number}, ${name}`,
        found: kind === 'take' ? `${amount} thrown away` : `${moveWords[kind as 'keep']}, use by ${useBy}`,
        limit: '',
        isOut: false,
        action: note,
        by: found(person).name,
      },
    ]
  })
}

async function notes({ records }: Actor, during: During): Promise<SafetyLine[]> {
  const rows = await records.safetyNotes.findAll({ where: { at: during }, include: [withPerson], order: ['at'] })
  return rows.map(({ at, kind, about, celsius, limitC, action, person }) => ({
    at: at.toISOString(),
    what: kind,
    about,
    found: celsius === null ? 'done' : degrees(celsius),
    limit: limitC === null ? '' : `at most ${degrees(limitC)}`,
    isOut: limitC !== null && celsius !== null && celsius > limitC,
    action,
    by: found(person).name,
  }))
}

/** Puts down a cold store's temperature, a clean-down or anything else, with the limit of that moment. */
export async function noteSafety(by: Actor, { kind, at, ...line }: z.infer<typeof safetyNoteCreate>): Promise<SafetyLine> {
  const limitC = kind === 'cold store' ? by.kitchen.settings.limits.receiveMaxC : null
  return createOnce(
    by.records,
    () => by.records.safetyNotes.create({ ...line, kind, limitC, personId: by.person.id, at: new Date(at) }),
    async () => {
      const row = await by.records.safetyNotes.findOne({ where: { id: line.id }, include: [withPerson] })
      return row ? (await notes(by, { [Op.gte]: row.at, [Op.lt]: new Date(row.at.getTime() + 1) })).at(0) : undefined
    },
  )
}

export function* writeSafetyCsv({ lines }: SafetyRecord): Generator<string> {
  yield csvLine(['at', 'what', 'about', 'found', 'limit', 'out_of_limit', 'action', 'by'])
  for (const { at, what, about, found: was, limit, isOut, action, by } of lines)
    yield csvLine([at, what, about, was, limit, isOut ? 'yes' : 'no', action, by])
}
