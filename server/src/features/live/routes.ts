import { id } from '@fleam/contract/primitives'
import * as z from 'zod'
import { hasRole, signedIn } from '../../http/access.ts'
import { openEventStream } from '../../http/event-stream.ts'
import { ProblemError } from '../../http/problems.ts'
import type { LiveChange } from '../../live-feed.ts'
import type { Routes } from '../routes.ts'
import { listBenchEventsAt, listWeighingsAt } from '../runs/ledger-lines.ts'

const liveQuery = z.object({ runId: id.optional() })
const mostMissed = 2000

/**
 * What happens at the kitchen's benches, as server-sent events: `weighing` and `bench`, each once and in order. A
 * listener that comes back with the id of the last event gets what it missed.
 */
export const liveRoutes: Routes = (app, { db, live, streams }) => {
  app.get('/api/v1/live', { config: { access: 'student' }, schema: { querystring: liveQuery } }, async (request, reply) => {
    const { kitchen, person, records } = signedIn(request)
    const { runId } = request.query
    if (!hasRole(person, 'cook') && (runId === undefined || (await records.runs.count({ id: runId, cookId: person.id })) === 0))
      throw new ProblemError('role-too-low', { detail: 'Students follow their own runs alone.' })
    const position = readPosition(request.headers['last-event-id'])
    const stream = openEventStream(request, reply, streams)
    const sent = new Set<string>()
    const waiting: LiveChange[] = []
    let isCatchingUp = position !== undefined
    const at = position ?? { weighing: 0, event: 0 }
    const pass = (change: LiveChange) => {
      if (change.kitchenId !== kitchen.id || (runId !== undefined && change.runId !== runId)) return
      if ('weighing' in change) {
        at.weighing = Math.max(at.weighing, change.weighing.sequence)
        stream.send('weighing', { runId: change.runId, weighing: change.weighing }, writePosition(at))
      } else {
        at.event = Math.max(at.event, change.event.sequence)
        stream.send('bench', { runId: change.runId, event: change.event }, writePosition(at))
      }
    }
    // one that cannot be told everything is ended, so that the tablet comes back for it
    const orEnd = <Result>(work: Promise<Result>) =>
      work.catch((error: Error) => {
        request.log.warn({ err: error }, 'a listener could not be told what it missed')
        stream.end()
        return undefined
      })
    const stop = await orEnd(
      live.listen(kitchen.id, (change) => {
        if (isCatchingUp) waiting.push(change)
        else pass(change)
      }),
    )
    if (!stop) return
    stream.onEnd(stop)
    stream.send('ready', {})
    if (position) {
      const missed = await orEnd(
        Promise.all([
          listWeighingsAt(db.acrossKitchens, { last: position.weighing, places: [], limit: mostMissed }),
          listBenchEventsAt(db.acrossKitchens, { last: position.event, places: [], limit: mostMissed }),
        ]),
      )
      if (!missed) return
      for (const change of missed.flat()) {
        sent.add(idOf(change))
        pass(change)
      }
      for (const change of waiting) if (!sent.has(idOf(change))) pass(change)
      isCatchingUp = false
    }
  })
}

interface Position {
  weighing: number
  event: number
}

function idOf(change: LiveChange): string {
  return 'weighing' in change ? change.weighing.id : change.event.id
}

function writePosition({ weighing, event }: Position): string {
  return `w${weighing}.e${event}`
}

function readPosition(header: string | string[] | undefined): Position | undefined {
  const read = /^w(\d+)\.e(\d+)$/.exec(String(header ?? ''))
  return read ? { weighing: Number(read[1]), event: Number(read[2]) } : undefined
}
