import type { Problem } from '@fleam/contract/problem'
import { sessionRanOut } from './session-over.ts'

/** What the server refused, as problem+json. */
export class ProblemFailure extends Error {
  readonly problem: Problem

  constructor(problem: Problem) {
    super(problem.detail ?? problem.title)
    this.problem = problem
  }

  get kind(): string {
    return this.problem.type.split(':').at(-1) ?? ''
  }
}

/** The server could not be reached: nothing is known to have been refused or accepted. */
export class Unreachable extends Error {
  constructor() {
    super('The server cannot be reached.')
  }
}

/** Whether trying the same again later can help. */
export function mayRecover(error: unknown): boolean {
  if (error instanceof Unreachable) return true
  return error instanceof ProblemFailure && (error.problem.status >= 500 || error.problem.status === 429)
}

/**
 * @param giveUpMs how long the answer is waited for
 * @param stop ends the wait, and the server's work with it
 */
export async function send<Answer>(
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  body?: unknown,
  giveUpMs = 15_000,
  stop?: AbortSignal,
): Promise<Answer> {
  const response = await reach(path, giveUpMs, stop, {
    method,
    ...(body === undefined ? {} : toBody(body)),
  })
  readClock(response)
  if (!isOurs(response)) throw new Unreachable()
  if (response.status === 204) return undefined as Answer
  const answer = await response.json().catch(() => undefined)
  if (response.ok && answer !== undefined) return answer as Answer
  if (isProblem(answer)) {
    const failure = new ProblemFailure(answer)
    if (failure.kind === 'not-signed-in' && path !== '/session') sessionRanOut()
    throw failure
  }
  throw new Unreachable()
}

/** A text goes as it is, a picture under its own kind, anything else as JSON. */
function toBody(body: unknown): RequestInit {
  if (body instanceof Blob) return { body, headers: { 'content-type': body.type } }
  return { body: typeof body === 'string' ? body : JSON.stringify(body), headers: { 'content-type': 'application/json' } }
}

/** Whether the answer is this server's: something in between, such as a network's sign-in page, answers with pages of its own. */
function isOurs(response: Response): boolean {
  return response.status === 204 || /^application\/(problem\+)?json\b/.test(response.headers.get('content-type') ?? '')
}

function isProblem(answer: unknown): answer is Problem {
  return /^urn:fleam:problem:/.test((answer as Problem | undefined)?.type ?? '')
}

let clockOffsetMs = 0

/** How far this tablet's clock is behind the server's, by the last answer. */
function readClock(response: Response): void {
  const date = Date.parse(response.headers.get('date') ?? '')
  if (!Number.isNaN(date)) clockOffsetMs = date - Date.now()
}

const smallOffsetMs = 120_000

/** A moment of this tablet's clock by the server's, never later than now: clocks of tablets are set wrong and changed. */
export function momentByServer(at: string): string {
  const offset = Math.abs(clockOffsetMs) > smallOffsetMs ? clockOffsetMs : 0
  const now = Date.now() + offset
  const moment = Date.parse(at) + offset
  return new Date(Number.isNaN(moment) ? now : Math.min(moment, now)).toISOString()
}

export function get<Answer>(path: string): Promise<Answer> {
  return send('GET', path)
}

interface Page<Entry> {
  entries: Entry[]
  nextCursor: string | null
}

/** Every entry of a cursored list that is known to be short. */
export async function getAll<Entry>(path: string): Promise<Entry[]> {
  const all: Entry[] = []
  let cursor: string | null = ''
  while (cursor !== null) {
    const page: Page<Entry> = await get(`${path}?limit=200${cursor ? `&cursor=${cursor}` : ''}`)
    all.push(...page.entries)
    cursor = page.nextCursor
  }
  return all
}

async function reach(path: string, giveUpMs: number, stop: AbortSignal | undefined, init: RequestInit): Promise<Response> {
  const giveUp = AbortSignal.timeout(giveUpMs)
  const signal = stop ? AbortSignal.any([giveUp, stop]) : giveUp
  try {
    return await fetch(`/api/v1${path}`, { ...init, signal, credentials: 'same-origin' })
  } catch {
    throw new Unreachable()
  }
}

/** What happened, what is safe and what to do, in a sentence or two. */
export function messageOf(error: unknown): string {
  if (error instanceof ProblemFailure) {
    const { title, detail } = error.problem
    return detail ? `${title} ${detail}` : title
  }
  return 'The server cannot be reached. What you typed is still here: try again in a moment.'
}
