import { id } from '@fleam/contract/primitives'
import { amountText, portionsText } from '@fleam/core/walk-in/amount-text'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { ProblemError } from '../../http/problems.ts'
import { workFor } from '../../http/work-for.ts'
import type { Routes } from '../routes.ts'
import { findLots } from '../walk-in/find-lots.ts'
import { type Label, type LabelSize, labelSizes } from './write-labels.ts'

const labelQuery = z.object({
  /** Ids of lots, parted by commas. */
  ids: z
    .string()
    .transform((text) => text.split(','))
    .pipe(z.array(id).min(1, 'Say which lots.').max(120, 'At most 120 labels at once.')),
  size: z.enum(Object.keys(labelSizes) as [LabelSize, ...LabelSize[]]).default('62x29'),
})

/** Labels for what lies in the walk-in. */
export const labelRoutes: Routes = (app, { heavyWork }) => {
  app.get('/api/v1/labels.pdf', { config: { access: 'cook' }, schema: { querystring: labelQuery } }, async (request, reply) => {
    const { records, kitchen } = signedIn(request)
    const { ids, size } = request.query
    const lots = await findLots(records, { id: ids })
    if (lots.length < new Set(ids).size) throw new ProblemError('not-found')
    const { weightSystem, locale } = kitchen.settings
    const day = new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
    const origin = `${request.protocol}://${request.host}`
    const labels = lots.map(
      (lot): Label => ({
        name: lot.run ? `${lot.name}, ${lot.run.item}` : lot.name,
        amount: [amountText(lot.unit, lot.leftTenths, weightSystem), lot.leftPortions === null ? '' : portionsText(lot.leftPortions)]
          .filter(Boolean)
          .join(' · '),
        lot: `Lot ${lot.number}`,
        packed: day.format(new Date(lot.packedOn)),
        useBy: day.format(new Date(lot.useBy)),
        allergens: lot.allergens.join(', '),
        isFormed: lot.isFormed,
        state: lot.state,
        by: lot.by.name,
        address: `${origin}/walk-in/${lot.id}`,
      }),
    )
    const pdf = await heavyWork.run('writeLabels', { labels, size }, workFor(request, reply))
    return reply.type('application/pdf').header('content-disposition', 'inline; filename="labels.pdf"').send(Buffer.from(pdf))
  })
}
