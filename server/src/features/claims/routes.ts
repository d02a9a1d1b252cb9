import { claim, claimCreate, claimSettle } from '@fleam/contract/claims'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { workFor } from '../../http/work-for.ts'
import { picturesForPdf } from '../pictures/service.ts'
import { idParams, type Routes } from '../routes.ts'
import { createClaim, findClaim, listClaims, settleClaim } from './service.ts'

/** What suppliers are asked to make good. */
export const claimRoutes: Routes = (app, { heavyWork }) => {
  app.get(
    '/api/v1/claims',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(claim) }) } } },
    async (request) => ({ entries: await listClaims(signedIn(request).records) }),
  )
  app.get('/api/v1/claims/:id', { config: { access: 'cook' }, schema: { params: idParams, response: { 200: claim } } }, async (request) =>
    found(await findClaim(signedIn(request).records, request.params.id)),
  )
  app.get('/api/v1/claims/:id/claim.pdf', { config: { access: 'cook' }, schema: { params: idParams } }, async (request, reply) => {
    const { records, kitchen } = signedIn(request)
    const one = found(await findClaim(records, request.params.id))
    const pictures = await picturesForPdf(records, one.run.id, ['delivery', 'defect'])
    const pdf = await heavyWork.run('writeClaim', { claim: one, kitchen, pictures }, workFor(request, reply))
    return reply.type('application/pdf').header('content-disposition', `inline; filename="claim-${one.number}.pdf"`).send(Buffer.from(pdf))
  })
  app.post(
    '/api/v1/claims',
    { config: { access: 'cook' }, schema: { body: claimCreate, response: { 201: claim } } },
    async (request, reply) => reply.code(201).send(await createClaim(signedIn(request), request.body)),
  )
  app.post(
    '/api/v1/claims/:id/settle',
    { config: { access: 'lead' }, schema: { params: idParams, body: claimSettle, response: { 200: claim } } },
    async (request) => settleClaim(signedIn(request), request.params.id, request.body),
  )
}
