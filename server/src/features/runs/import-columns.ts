import type { ExportedRun } from '@fleam/contract/run-export'
import type { Run } from '@fleam/contract/runs'
import { figuresOfRun } from '@fleam/core/runs/run-record'
import { found } from '../../http/changes.ts'
import type { ReadPicture } from '../pictures/read-picture.ts'

/** What a run's names have become in this kitchen. */
export interface Ids {
  itemId: string
  supplierId: string | null
  readyCutItemId: string | null
  versionId: string
  cookId: string
  finishedById: string | null
  quoteId: string
  readyCutQuoteId: string | null
  personOf(line: { by: { name: string } }): string
}

/** The columns of an imported run and of all that belongs to it, under ids of this kitchen's own. */
export function runColumns(id: string, number: number, run: Run, ids: Ids) {
  const { versionId, personOf, ...named } = ids
  const figures = run.status === 'finished' ? figuresOfRun(run) : null
  return {
    ...named,
    id,
    number,
    version: 2,
    cutSheetVersionId: versionId,
    status: run.status,
    lot: run.lot,
    billedTenths: run.billed.tenths,
    billedEntered: run.billed.entered,
    receivedTenths: run.received.tenths,
    receivedEntered: run.received.entered,
    pieces: run.pieces,
    coreTempC: run.coreTempC,
    temperature: run.temperature,
    readyCutTerms: run.readyCut?.terms ?? null,
    rates: run.rates,
    method: run.method,
    minutes: run.minutes,
    consumables: run.consumables,
    claimCredit: run.claimCredit,
    unaccountedReason: run.unaccountedReason,
    byPiece: run.byPiece,
    fish: run.fish,
    deliveryCheck: run.deliveryCheck,
    discarded: run.discarded,
    reopened: run.reopened,
    leftOut: run.leftOut,
    startedAt: new Date(run.startedAt),
    finishedAt: run.finishedAt === null ? null : new Date(run.finishedAt),
    mainPct: figures?.mainPct ?? null,
    usablePct: figures?.usablePct ?? null,
    unaccountedPct: figures?.unaccountedPct ?? null,
    netCost: figures?.netCost ?? null,
    costPerKg: figures?.costPerKg ?? null,
    costPerPortion: figures?.costPerPortion ?? null,
    portions: figures?.portions ?? null,
  }
}

export function tubColumns(own: (id: string) => string, run: Run) {
  return run.tubs.map(({ id, key, ...tub }) => ({ ...tub, id: own(id), runId: own(run.id), outputKey: key }))
}

export function weighingColumns(own: (id: string) => string, run: Run, { personOf }: Ids) {
  return run.weighings.map((line) => ({
    id: own(line.id),
    runId: own(run.id),
    tubId: own(line.tubId),
    tenths: line.tenths,
    entered: line.entered,
    reversesId: line.reversesId && own(line.reversesId),
    pieceNumber: line.piece,
    movedFromId: line.movedFromId && own(line.movedFromId),
    personId: personOf(line),
    sentById: null,
    weighedAt: new Date(line.weighedAt),
  }))
}

export function defectColumns(own: (id: string) => string, run: Run, { personOf }: Ids) {
  return run.defects.map((defect) => {
    const { kind, note, step } = defect
    return { id: own(defect.id), runId: own(run.id), kind, note, step, personId: personOf(defect), at: new Date(defect.at) }
  })
}

export function eventColumns(own: (id: string) => string, run: Run, { personOf }: Ids) {
  return run.events.map((event) => {
    const { what } = event
    const body = what.kind === 'slice' ? { ...what, weighingId: own(what.weighingId) } : what
    const personId = personOf(event)
    return { id: own(event.id), runId: own(run.id), body, personId, sentById: personId, happenedAt: new Date(event.at) }
  })
}

/** @param read the bytes of each picture, as they are kept */
export function pictureColumns(own: (id: string) => string, run: ExportedRun, { personOf }: Ids, read: ReadonlyMap<string, ReadPicture>) {
  return run.pictures.map((picture) => ({
    ...found(read.get(picture.id)),
    id: own(picture.id),
    runId: own(run.id),
    about: picture.about,
    defectId: picture.defectId && own(picture.defectId),
    personId: personOf(picture),
    at: new Date(picture.at),
  }))
}
