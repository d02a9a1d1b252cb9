import type { BenchEvent } from '@fleam/contract/bench'
import type { FollowOn } from '@fleam/contract/follow-ons'
import type { Picture } from '@fleam/contract/pictures'
import type { Move, Weighing } from '@fleam/contract/runs'
import type { LotWithMoves } from '@fleam/contract/walk-in'
import { momentByServer, send, Unreachable } from '../api/http.ts'
import type { FollowOnWhat, OutboxLine, StoredAnswer } from './outbox-line.ts'

const pictureGiveUpMs = 60_000

/** Sends one line to its run or lot; what is answered is what the server has stored. */
export async function sendLine(line: OutboxLine): Promise<StoredAnswer> {
  const { id, person } = line
  const at = momentByServer(line.at)
  const common = { id, personId: person.id }
  if (line.kind === 'lot') {
    const { lotId, what } = line
    const lot =
      what.kind === 'undo'
        ? await send<LotWithMoves>('POST', `/lots/${lotId}/undos`, { ...common, at, moveId: what.moveId })
        : await send<LotWithMoves>('POST', `/lots/${lotId}/moves`, { ...common, at, what })
    if (!lot?.moves?.some((move) => move.id === id)) throw new Unreachable()
    return { lot }
  }
  if (line.kind === 'follow-on') {
    const { followOnId, what } = line
    const path = `/follow-ons/${followOnId}`
    const followOn =
      what.kind === 'weighed'
        ? await send<FollowOn>('POST', `${path}/weighings`, { ...common, at, ...weighedOf(what) })
        : await send<FollowOn>('POST', `${path}/checks`, { ...common, at, ...checkOf(what) })
    const lines = what.kind === 'weighed' ? followOn?.body?.weighings : followOn?.body?.checks
    if (!lines?.some((one) => one.id === id)) throw new Unreachable()
    return { followOn }
  }
  if (line.kind === 'picture') {
    const about = new URLSearchParams({ about: line.about, at, personId: person.id, ...(line.defectId ? { defectId: line.defectId } : {}) })
    const path = `/runs/${line.ofRunId}/pictures/${id}?${about}`
    return { picture: known(id, await send<Picture>('PUT', path, new Blob([line.jpeg], { type: 'image/jpeg' }), pictureGiveUpMs)) }
  }
  const path = `/runs/${line.runId}`
  if (line.kind === 'event')
    return { event: known(id, await send<BenchEvent>('POST', `${path}/bench-events`, { ...common, at, what: line.what })) }
  if (line.kind === 'move') {
    const { reversalId, weighingId, tubId, piece } = line
    const moved = { ...common, reversalId, weighingId, tubId, ...(piece === null ? {} : { piece }), weighedAt: at }
    const { reversal, weighing } = await send<Move>('POST', `${path}/moves`, moved)
    return { weighings: [known(reversalId, reversal), known(id, weighing)] }
  }
  if (line.kind === 'reversal') {
    const stored = await send<Weighing>('POST', `${path}/reversals`, { ...common, reversesId: line.reversesId, weighedAt: at })
    return { weighings: [known(id, stored)] }
  }
  const { tubId, entered, piece, load = null } = line
  const stored = await send<Weighing>('POST', `${path}/weighings`, { ...common, tubId, weight: entered, piece, load, weighedAt: at })
  return { weighings: [known(id, stored)] }
}

const weighedOf = ({ output, tenths, reversesId }: Extract<FollowOnWhat, { kind: 'weighed' }>) => ({ output, tenths, reversesId })
const checkOf = ({ check, words, celsius, action }: Extract<FollowOnWhat, { kind: 'checked' }>) => ({ kind: check, words, celsius, action })

/** Only an answer that names what was sent says that it is stored: anything else is not the server's. */
function known<Stored extends { id: string }>(id: string, stored: Stored | undefined): Stored {
  if (stored?.id !== id) throw new Unreachable()
  return stored
}
