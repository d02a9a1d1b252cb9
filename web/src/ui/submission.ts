import { useRef, useState } from 'react'
import type * as z from 'zod'
import { ProblemFailure } from '../api/http.ts'

export type FieldErrors = Readonly<Record<string, string>>

export interface Submission<Request, Answer> {
  errors: FieldErrors
  /** What was refused or went wrong as a whole. */
  message: string | undefined
  busy: boolean
  submit(request: Request): Promise<Answer | undefined>
}

/**
 * Sends a form: checks the request against its contract first, shows each refusal beside its field, and takes a second
 * press while the first is under way for the same press.
 */
export function useSubmission<Request, Answer>(
  schema: z.ZodType,
  send: (request: Request) => Promise<Answer>,
): Submission<Request, Answer> {
  const [errors, setErrors] = useState<FieldErrors>({})
  const [message, setMessage] = useState<string>()
  const [busy, setBusy] = useState(false)
  const underWay = useRef(false)

  async function submit(request: Request): Promise<Answer | undefined> {
    if (underWay.current) return undefined
    const checked = schema.safeParse(request)
    if (!checked.success) {
      setErrors(byField(checked.error.issues.map((issue) => ({ field: issue.path.join('.'), message: issue.message }))))
      setMessage(undefined)
      return undefined
    }
    underWay.current = true
    setBusy(true)
    try {
      const answer = await send(request)
      setErrors({})
      setMessage(undefined)
      return answer
    } catch (error) {
      const refused = error instanceof ProblemFailure ? (error.problem.errors ?? []) : []
      setErrors(byField(refused))
      setMessage(messageOf(error))
      return undefined
    } finally {
      underWay.current = false
      setBusy(false)
    }
  }

  return { errors, message, busy, submit }
}

function byField(errors: readonly { field: string; message: string }[]): FieldErrors {
  const fields: Record<string, string> = {}
  for (const { field, message } of errors) fields[field] ??= message
  return fields
}

/** What happened, what is safe and what to do, in a sentence or two. */
export function messageOf(error: unknown): string {
  if (error instanceof ProblemFailure) {
    const { title, detail } = error.problem
    return detail ? `${title} ${detail}` : title
  }
  return 'The server cannot be reached. What you typed is still here: try again in a moment.'
}
