import type { Kitchen } from '@fleam/contract/kitchen'
import { scale, scaleCommand } from '@fleam/contract/scales'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { openEventStream } from '../../http/event-stream.ts'
import { ProblemError } from '../../http/problems.ts'
import type { Routes, Services } from '../routes.ts'
import type { ScaleAddress } from './scale-connection.ts'

const scaleParams = z.object({ id: z.string().max(20) })

/** The kitchen's bench scales: a list, what one reads as server-sent events, and its tare. */
export const scaleRoutes: Routes = (app, services) => {
  app.get(
    '/api/v1/scales',
    { config: { access: 'student' }, schema: { response: { 200: z.object({ entries: z.array(scale) }) } } },
    async (request) => ({
      entries: scalesOf(signedIn(request).kitchen, services).map(({ id, name, isSimulated }) => ({ id, name, isSimulated })),
    }),
  )
  app.get('/api/v1/scales/:id/live', { config: { access: 'student' }, schema: { params: scaleParams } }, async (request, reply) => {
    const address = found(scalesOf(signedIn(request).kitchen, services).find((one) => one.id === request.params.id))
    const stream = openEventStream(request, reply, services.streams)
    const leave = services.scales.listen(address, {
      onName: (name) => stream.send('scale', { name }),
      onReading: (reading) => stream.send('reading', reading),
      onLost(why) {
        stream.send('lost', { why })
        stream.end()
      },
    })
    stream.onEnd(leave)
  })
  app.post(
    '/api/v1/scales/:id/commands',
    { config: { access: 'student' }, schema: { params: scaleParams, body: scaleCommand, response: { 204: z.null() } } },
    async (request, reply) => {
      const address = found(scalesOf(signedIn(request).kitchen, services).find((one) => one.id === request.params.id))
      await services.scales.command(address, request.body).catch((error: Error) => {
        throw new ProblemError('scale-away', { detail: error.message })
      })
      return reply.code(204).send(null)
    },
  )
}

interface KnownScale extends ScaleAddress {
  id: string
  name: string
  isSimulated: boolean
}

function scalesOf({ settings }: Kitchen, { simulatedScale }: Services): KnownScale[] {
  const own = settings.scales.map((one, index) => ({ ...one, id: String(index + 1), isSimulated: false }))
  if (!simulatedScale) return own
  return [...own, { ...simulatedScale, id: 'simulated', name: 'Simulated bench scale', isSimulated: true }]
}
