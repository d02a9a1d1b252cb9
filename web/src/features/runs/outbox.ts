import type { Run, Weighing } from '@fleam/contract/runs'
import Dexie, { type EntityTable } from 'dexie'
import { mayRecover, ProblemFailure, send } from '../../api/http.ts'

/** A weighing, or the taking back of one, that this tablet holds until the server has it. */
export interface OutboxLine {
  order: number
  id: string
  runId: string
  tubId: string
  tenths: number
  /** As typed, with its unit. */
  entered: string
  reversesId: string | null
  weighedAt: string
  person: { id: string; name: string }
  /** Why the server will not have it; it is kept until a person has seen it. */
  refusal: string | null
}

export interface OutboxState {
  lines: readonly OutboxLine[]
  /** What keeps lines waiting, in words; `null` while nothing does. */
  trouble: string | null
}

type Stored = (runId: string, weighing: Weighing) => void

const database = new Dexie('fleam') as Dexie & { outbox: EntityTable<OutboxLine, 'order'> }
database.version(1).stores({ outbox: '++order, id' })

let state: OutboxState = { lines: [], trouble: null }
const watchers = new Set<() => void>()
let onStored: Stored = () => undefined
let sending = false
let retryTimer: ReturnType<typeof setTimeout> | undefined
let failures = 0

/** Reads what an earlier page left waiting and goes on sending it. */
export const outboxOpened: Promise<void> = database.outbox
  .orderBy('order')
  .toArray()
  .then((lines) => {
    change({ lines: [...lines, ...state.lines] })
    void sendWaiting()
  })
outboxOpened.catch(() => change({ trouble: 'This browser keeps nothing on the tablet: do not close the page while something waits.' }))

export function watchOutbox(watcher: () => void): () => void {
  watchers.add(watcher)
  return () => watchers.delete(watcher)
}

export function outboxState(): OutboxState {
  return state
}

export function whenStored(listener: Stored): void {
  onStored = listener
}

/** Shows a line at once, keeps it on the tablet, then sends it; lines go out in the order they were made. */
export async function post(line: Omit<OutboxLine, 'order' | 'refusal'>): Promise<void> {
  const shown: OutboxLine = { ...line, refusal: null, order: Number.POSITIVE_INFINITY }
  change({ lines: [...state.lines, shown] })
  try {
    const { order: _unset, ...fresh } = shown
    const order = await database.outbox.add(fresh as OutboxLine)
    replace(line.id, (held) => ({ ...held, order: order as number }))
  } catch {
    change({ trouble: 'This browser keeps nothing on the tablet: do not close the page while something waits.' })
  }
  void sendWaiting()
}

/** Lets go of a refused line once a person has seen why. */
export async function dismiss(id: string): Promise<void> {
  await forget(id)
}

/** Goes on sending at once, such as after signing in again. */
export function tryNow(): void {
  failures = 0
  void sendWaiting()
}

async function sendWaiting(): Promise<void> {
  if (sending) return
  sending = true
  clearTimeout(retryTimer)
  try {
    for (let next = firstWaiting(); next; next = firstWaiting()) {
      const { runId, id, reversesId, tubId, entered, weighedAt } = next
      try {
        const stored =
          reversesId === null
            ? await send<Weighing>('POST', `/runs/${runId}/weighings`, { id, tubId, weight: entered, weighedAt })
            : await send<Weighing>('POST', `/runs/${runId}/reversals`, { id, reversesId, weighedAt })
        onStored(runId, stored)
        await forget(id)
        failures = 0
        change({ trouble: null })
      } catch (error) {
        if (isFinal(error)) {
          await refuse(id, error instanceof Error ? error.message : String(error))
          continue
        }
        failures += 1
        change({ trouble: reasonOf(error) })
        retryTimer = setTimeout(sendWaiting, Math.min(5_000, 400 * 2 ** Math.min(failures, 4)))
        return
      }
    }
  } finally {
    sending = false
  }
}

function firstWaiting(): OutboxLine | undefined {
  return state.lines.find((line) => line.refusal === null)
}

function isFinal(error: unknown): boolean {
  if (mayRecover(error)) return false
  return !(error instanceof ProblemFailure && error.problem.status === 401)
}

function reasonOf(error: unknown): string {
  if (error instanceof ProblemFailure && error.problem.status === 401) return 'Sign in again to send what waits.'
  if (error instanceof ProblemFailure) return error.problem.title
  return 'The server cannot be reached.'
}

async function refuse(id: string, refusal: string): Promise<void> {
  replace(id, (line) => ({ ...line, refusal }))
  await database.outbox
    .where('id')
    .equals(id)
    .modify({ refusal })
    .catch(() => undefined)
}

async function forget(id: string): Promise<void> {
  change({ lines: state.lines.filter((line) => line.id !== id) })
  await database.outbox
    .where('id')
    .equals(id)
    .delete()
    .catch(() => undefined)
}

function replace(id: string, turn: (line: OutboxLine) => OutboxLine): void {
  change({ lines: state.lines.map((line) => (line.id === id ? turn(line) : line)) })
}

function change(part: Partial<OutboxState>): void {
  state = { ...state, ...part }
  for (const watcher of watchers) watcher()
}

addEventListener('online', tryNow)

/** The ledger of a run with what waits on this tablet at its end; refused lines do not count. */
export function withWaiting(run: Run, lines: readonly OutboxLine[]): Run {
  const stored = new Set(run.weighings.map((line) => line.id))
  const waiting = lines.filter((line) => line.runId === run.id && line.refusal === null && !stored.has(line.id))
  if (waiting.length === 0) return run
  const last = run.weighings.at(-1)?.sequence ?? 0
  const added = waiting.map((line, index) => ({
    id: line.id,
    sequence: last + 1 + index,
    tubId: line.tubId,
    tenths: line.tenths,
    entered: line.entered,
    reversesId: line.reversesId,
    weighedAt: line.weighedAt,
    by: line.person,
  }))
  return { ...run, weighings: [...run.weighings, ...added] }
}
