import * as z from 'zod'

/** RFC 9457 problem details, with a sentence for every field that was refused. */
export const problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string().optional(),
  errors: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
  current: z.unknown().optional(),
  /** By which the request is found in the server's log. */
  requestId: z.string().optional(),
})
export type Problem = z.infer<typeof problem>
