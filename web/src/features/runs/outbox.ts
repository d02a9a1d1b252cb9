import type { BenchEvent, Happening } from '@fleam/contract/bench'
import type { Move, Run, Weighing } from '@fleam/contract/runs'
import type { TakenLoad } from '@fleam/contract/scales'
import Dexie, { type EntityTable } from 'dexie'
import { mayRecover, momentByServer, ProblemFailure, send, Unreachable } from '../../api/http.ts'
import { say } from '../../ui/toasts.ts'

/** What this tablet holds until the server has it: a weighing, one taken back or moved, or what happened beside. */
export type OutboxLine = OutboxBase & OutboxWhat

export type OutboxWhat =
  | {
      kind: 'weighing'
      tubId: string
      tenths: number
      /** As typed, with its unit. */
      entered: string
      item: number | null
      /** The load that a scale gave; absent in lines of an older page. */
      load?: TakenLoad | null
    }
  | { kind: 'reversal'; reversesId: string; tubId: string; tenths: number; entered: string; item: number | null }
  | {
      kind: 'move'
      reversalId: string
      weighingId: string
      fromTubId: string
      tubId: string
      tenths: number
      entered: string
      item: number | null
    }
  | { kind: 'event'; what: Happening }

interface OutboxBase {
  order: number
  id: string
  runId: string
  at: string
  person: { id: string; name: string }
  /** Why the server will not have it, in words and by kind; it is kept until a person has dealt with it. */
  refusal: string | null
  refusalKind?: string | undefined
}

export interface OutboxState {
  lines: readonly OutboxLine[]
  /** What keeps lines waiting, in words; `null` while nothing does. */
  trouble: string | null
}

/** What the server answered once it had a line. */
export type StoredAnswer = { weighings: Weighing[] } | { event: BenchEvent }
type Stored = (runId: string, answer: StoredAnswer) => void

const database = new Dexie('fleam') as Dexie & { outbox: EntityTable<OutboxLine, 'order'> }
database.version(1).stores({ outbox: '++order, id' })
database
  .version(2)
  .stores({ outbox: '++order, id' })
  .upgrade((transaction) =>
    transaction
      .table('outbox')
      .toCollection()
      .modify((line) => {
        line.kind = line.reversesId === null ? 'weighing' : 'reversal'
        line.at = line.weighedAt
        line.item = null
      }),
  )

export const signInTrouble = 'Sign in again to send what waits.'

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
export async function post(line: Omit<OutboxBase, 'order' | 'refusal'> & OutboxWhat): Promise<void> {
  const shown = { ...line, refusal: null, order: Number.POSITIVE_INFINITY } as OutboxLine
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

/** Sends a refused line again, such as into a run that was opened again. */
export async function sendAgain(id: string): Promise<void> {
  await refuse(id, null)
  tryNow()
}

/** Lets go of a refused line once a person has dealt with it. */
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
      const { runId, id } = next
      try {
        onStored(runId, await sendLine(next))
        await forget(id)
        failures = 0
        change({ trouble: null })
      } catch (error) {
        if (error instanceof ProblemFailure && error.kind === 'load-taken') {
          // it stands in the ledger already, from another tablet or from before this page was opened
          await forget(id)
          say(`${error.problem.detail ?? error.problem.title} It was not counted twice.`)
          continue
        }
        if (isFinal(error)) {
          await refuse(id, error instanceof Error ? error.message : String(error), error instanceof ProblemFailure ? error.kind : undefined)
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

async function sendLine(line: OutboxLine): Promise<StoredAnswer> {
  const { id, person } = line
  const at = momentByServer(line.at)
  const path = `/runs/${line.runId}`
  const common = { id, personId: person.id }
  if (line.kind === 'event')
    return { event: known(id, await send<BenchEvent>('POST', `${path}/bench-events`, { ...common, at, what: line.what })) }
  if (line.kind === 'move') {
    const { reversalId, weighingId, tubId, item } = line
    const { reversal, weighing } = await send<Move>('POST', `${path}/moves`, {
      ...common,
      reversalId,
      weighingId,
      tubId,
      ...(item === null ? {} : { item }),
      weighedAt: at,
    })
    return { weighings: [known(reversalId, reversal), known(weighingId, weighing)] }
  }
  if (line.kind === 'reversal') {
    const stored = await send<Weighing>('POST', `${path}/reversals`, { ...common, reversesId: line.reversesId, weighedAt: at })
    return { weighings: [known(id, stored)] }
  }
  const { tubId, entered, item, load = null } = line
  const stored = await send<Weighing>('POST', `${path}/weighings`, { ...common, tubId, weight: entered, item, load, weighedAt: at })
  return { weighings: [known(id, stored)] }
}

/** Only an answer that names what was sent says that it is stored: anything else is not the server's. */
function known<Stored extends { id: string }>(id: string, stored: Stored | undefined): Stored {
  if (stored?.id !== id) throw new Unreachable()
  return stored
}

function firstWaiting(): OutboxLine | undefined {
  return state.lines.find((line) => line.refusal === null)
}

function isFinal(error: unknown): boolean {
  if (mayRecover(error)) return false
  return !(error instanceof ProblemFailure && error.problem.status === 401)
}

function reasonOf(error: unknown): string {
  if (error instanceof ProblemFailure && error.problem.status === 401) return signInTrouble
  if (error instanceof ProblemFailure) return error.problem.title
  return 'The server cannot be reached.'
}

async function refuse(id: string, refusal: string | null, refusalKind?: string): Promise<void> {
  replace(id, (line) => ({ ...line, refusal, refusalKind }))
  await database.outbox
    .where('id')
    .equals(id)
    .modify({ refusal, refusalKind })
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
  const own = lines.filter((line) => line.runId === run.id && line.refusal === null)
  if (own.length === 0) return run
  const weighed = new Set(run.weighings.map((line) => line.id))
  const happened = new Set(run.events.map((event) => event.id))
  let place = Math.max(run.weighings.at(-1)?.sequence ?? 0, run.events.at(-1)?.sequence ?? 0)
  const weighings: Weighing[] = []
  const events: BenchEvent[] = []
  for (const line of own) {
    place += 1
    if (line.kind === 'event') {
      if (!happened.has(line.id)) events.push({ id: line.id, sequence: place, what: line.what, at: line.at, by: line.person })
    } else if (!weighed.has(line.id)) weighings.push(...ledgerLines(line, place))
  }
  return { ...run, weighings: [...run.weighings, ...weighings], events: [...run.events, ...events] }
}

/** What a line will be in the ledger once the server has it. */
function ledgerLines(line: Exclude<OutboxLine, { kind: 'event' }>, sequence: number): Weighing[] {
  const { id, tubId, tenths, entered, item, at, person } = line
  const common = { sequence, tenths, entered, item, movedFromId: null, weighedAt: at, by: person }
  if (line.kind === 'weighing') return [{ ...common, id, tubId, reversesId: null }]
  if (line.kind === 'reversal') return [{ ...common, id, tubId, reversesId: line.reversesId }]
  return [
    { ...common, id: line.reversalId, tubId: line.fromTubId, reversesId: line.weighingId },
    { ...common, id, tubId, reversesId: null, movedFromId: line.weighingId },
  ]
}
