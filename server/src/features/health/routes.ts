import * as z from 'zod'
import { ProblemError } from '../../http/problems.ts'
import type { Routes } from '../routes.ts'

const health = z.object({
  status: z.literal('ok'),
  database: z.literal('ok'),
  /** Which node of a cluster answers, from 1; another than the first stands in for it. */
  node: z.object({ at: z.int(), of: z.int() }).optional(),
})

export const healthRoutes: Routes = (app, { db }) => {
  app.get('/api/v1/health', { config: { access: 'public' }, schema: { response: { 200: health } } }, async () => {
    const isThere = await db.sequelize.authenticate().then(
      () => true,
      () => false,
    )
    if (!isThere) throw new ProblemError('database-away', { detail: 'Nothing that was accepted is lost. Try again in a moment.' }, 2)
    return { status: 'ok' as const, database: 'ok' as const, node: db.node() }
  })
}
