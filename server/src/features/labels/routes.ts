import { labelPrint, labelPrintCreate, labelSize, printer } from '@fleam/contract/labels'
import { id } from '@fleam/contract/primitives'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import { ProblemError } from '../../http/problems.ts'
import { workFor } from '../../http/work-for.ts'
import { idParams, type Routes } from '../routes.ts'
import { findLots } from '../walk-in/find-lots.ts'
import { labelsOf } from './labels-of.ts'
import { printersOf } from './print-queue.ts'
import { findPrint, listPrints } from './prints.ts'

const labelQuery = z.object({
  /** Ids of lots, parted by commas. */
  ids: z
    .string()
    .transform((text) => text.split(','))
    .pipe(z.array(id).min(1, 'Say which lots.').max(120, 'At most 120 labels at once.')),
  size: labelSize.default('62x29'),
})

/** Labels for what lies in the walk-in: as PDF, or straight to a printer. */
export const labelRoutes: Routes = (app, { heavyWork, printing, simulatedPrinter }) => {
  app.get('/api/v1/labels.pdf', { config: { access: 'cook' }, schema: { querystring: labelQuery } }, async (request, reply) => {
    const { records, kitchen } = signedIn(request)
    const { ids, size } = request.query
    const lots = await findLots(records, { id: ids })
    if (lots.length < new Set(ids).size) throw new ProblemError('not-found')
    const labels = labelsOf(lots, kitchen, `${request.protocol}://${request.host}`)
    const pdf = await heavyWork.run('writeLabels', { labels, size }, workFor(request, reply))
    return reply.type('application/pdf').header('content-disposition', 'inline; filename="labels.pdf"').send(Buffer.from(pdf))
  })
  app.get(
    '/api/v1/printers',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(printer) }) } } },
    async (request) => ({
      entries: printersOf(signedIn(request).kitchen.settings, simulatedPrinter).map(({ id: printerId, name, size, isSimulated }) => ({
        ...{ name, size, isSimulated },
        id: printerId,
      })),
    }),
  )
  app.get(
    '/api/v1/label-prints',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(labelPrint) }) } } },
    async (request) => ({ entries: await listPrints(signedIn(request), simulatedPrinter) }),
  )
  app.post(
    '/api/v1/label-prints',
    { config: { access: 'cook' }, schema: { body: labelPrintCreate, response: { 201: labelPrint } } },
    async (request, reply) => {
      const by = signedIn(request)
      const { id: printId, printerId, lotIds } = request.body
      found(printersOf(by.kitchen.settings, simulatedPrinter).find((one) => one.id === printerId))
      const lots = await findLots(by.records, { id: lotIds })
      if (lots.length < new Set(lotIds).size) throw new ProblemError('not-found')
      const print = await createOnce(
        by.records,
        () =>
          by.records.labelPrints.create({
            ...{ printerId, lotIds },
            id: printId,
            state: 'waiting',
            origin: `${request.protocol}://${request.host}`.slice(0, 200),
            job: null,
            personId: by.person.id,
            askedAt: new Date(),
            printedAt: null,
          }),
        () => findPrint(by, printId, simulatedPrinter),
      )
      printing.wake()
      return reply.code(201).send(print)
    },
  )
  app.delete(
    '/api/v1/label-prints/:id',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: labelPrint } } },
    async (request) => {
      const by = signedIn(request)
      await by.records.labelPrints.update({ state: 'given up' }, { id: request.params.id, state: 'waiting' })
      return found(await findPrint(by, request.params.id, simulatedPrinter))
    },
  )
}
