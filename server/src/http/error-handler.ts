import { InputError } from '@fleam/core/input-error'
import type { FastifyError, FastifyInstance, FastifyReply } from 'fastify'
import { hasZodFastifySchemaValidationErrors, isResponseSerializationError } from 'fastify-type-provider-zod'
import { ailmentProblem, ProblemError, type ProblemKind } from './problems.ts'

/** Somebody asked for what is not theirs, or from elsewhere. */
const refusals: ReadonlySet<ProblemKind> = new Set(['role-too-low', 'foreign-origin', 'unknown-host', 'tablet-needed'])

/** Turns whatever was thrown into problem+json; what is not foreseen is logged and answered without its inside. */
export function registerErrorHandler(app: FastifyInstance): void {
  app.setErrorHandler((error: FastifyError, request, reply) => {
    const problem = toProblem(error)
    const where = { method: request.method, route: request.routeOptions.url }
    if (refusals.has(problem.kind)) request.log.warn({ ...where, kind: problem.kind }, 'refused')
    if (problem.kind === 'internal') request.log.error({ err: error, ...where }, 'unforeseen')
    if (problem.kind.startsWith('database-')) request.log.warn({ err: error, ...where }, problem.kind)
    if (problem.kind === 'too-much-work') request.log.warn({ ...where, detail: problem.extra.detail }, 'too much work')
    return sendProblem(reply, problem)
  })
}

export function sendProblem(reply: FastifyReply, problem: ProblemError): FastifyReply {
  const body = { ...problem.body(), requestId: reply.request.id }
  if (problem.retryAfterSeconds !== undefined) reply.header('retry-after', String(problem.retryAfterSeconds))
  return reply.code(body.status).type('application/problem+json').serializer(JSON.stringify).send(body)
}

function toProblem(error: FastifyError): ProblemError {
  if (error instanceof ProblemError) return error
  if (error instanceof InputError) {
    return new ProblemError('invalid-input', { errors: [{ field: error.field, message: error.message }] })
  }
  if (hasZodFastifySchemaValidationErrors(error)) {
    const errors = error.validation.map((issue) => ({
      field: issue.instancePath.slice(1).replaceAll('/', '.') || (error.validationContext ?? 'body'),
      message: issue.message ?? 'This cannot be accepted.',
    }))
    return new ProblemError('invalid-input', { errors })
  }
  if (isResponseSerializationError(error)) return new ProblemError('internal')
  const ailing = ailmentProblem(error)
  if (ailing) return ailing
  const kind = kindOfStatus(error.statusCode)
  return new ProblemError(kind, kind === 'internal' ? {} : { detail: error.message })
}

function kindOfStatus(status: number | undefined): ProblemKind {
  if (status === 413) return 'too-large'
  if (status === 404) return 'not-found'
  if (status === 408) return 'too-slow'
  return status !== undefined && status >= 400 && status < 500 ? 'broken-request' : 'internal'
}
