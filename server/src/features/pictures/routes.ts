import { largestPicture, picture, pictureCreate, pictures } from '@fleam/contract/pictures'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { idParams, type Routes } from '../routes.ts'
import { findJpeg, keepPicture, listPictures, takeOffPicture } from './service.ts'

const pictureParams = idParams.extend({ pictureId: idParams.shape.id })
const ofRun = { access: 'student', isOfRun: true } as const
const kinds = ['image/jpeg', 'image/png', 'image/webp']

/** Pictures of a run: how it came, what went wrong, how the tray stood. */
export const pictureRoutes: Routes = (app, { live }) => {
  app.addContentTypeParser(kinds, { parseAs: 'buffer', bodyLimit: largestPicture }, (_request, body, done) => done(null, body))
  app.get('/api/v1/runs/:id/pictures', { config: ofRun, schema: { params: idParams, response: { 200: pictures } } }, async (request) => ({
    entries: await listPictures(signedIn(request).records, request.params.id),
  }))
  app.get(
    '/api/v1/runs/:id/pictures/:pictureId',
    {
      config: ofRun,
      schema: { params: pictureParams, querystring: z.object({ size: z.enum(['whole', 'small']).default('whole') }) },
    },
    async (request, reply) => {
      const { id, pictureId } = request.params
      const jpeg = await findJpeg(signedIn(request).records, id, pictureId, request.query.size)
      // what an id names never changes: a tablet keeps it, and nobody else's store does
      return reply.type('image/jpeg').header('cache-control', 'private, max-age=604800, immutable').send(jpeg)
    },
  )
  app.put(
    '/api/v1/runs/:id/pictures/:pictureId',
    {
      config: ofRun,
      bodyLimit: largestPicture,
      schema: { params: pictureParams, querystring: pictureCreate, response: { 201: picture } },
    },
    async (request, reply) => {
      const { id, pictureId } = request.params
      const kept = await keepPicture(signedIn(request), id, pictureId, request.query, request.body)
      live.wake()
      return reply.code(201).send(kept)
    },
  )
  app.delete('/api/v1/runs/:id/pictures/:pictureId', { config: ofRun, schema: { params: pictureParams } }, async (request, reply) => {
    await takeOffPicture(signedIn(request), request.params.id, request.params.pictureId)
    live.wake()
    return reply.code(204).send()
  })
}
