import { mayRecover, ProblemFailure } from '../api/http.ts'
import type { NewLine, OutboxLine, StoredAnswer } from './outbox-line.ts'

/** Where lines are kept through a reload. */
export interface OutboxStore {
  /** All lines, in the order they were made. */
  all(): Promise<OutboxLine[]>
  /** @returns the line's place in the order */
  add(line: Omit<OutboxLine, 'order'>): Promise<number>
  change(id: string, part: Partial<Pick<OutboxLine, 'refusal' | 'refusalKind'>> & { isHeld?: boolean }): Promise<unknown>
  remove(id: string): Promise<unknown>
}

export interface OutboxState {
  lines: readonly OutboxLine[]
  /** What keeps lines waiting, in words; `null` while nothing does. */
  trouble: string | null
  /** Whether the tablet keeps lines through a reload, as far as it has shown. */
  isKeeping: boolean
}

/**
 * Weighings on their way to the server: shown at once, kept on the tablet, sent in the order they were made, once each, however
 * often the network, the server or the page goes in between.
 */
export interface Outbox {
  /** Settled once what an earlier page left waiting has been read. */
  opened: Promise<void>
  state(): OutboxState
  watch(watcher: () => void): () => void
  /** Who is told what the server has stored. */
  whenStored(listener: (line: OutboxLine, answer: StoredAnswer) => void): () => void
  post(line: NewLine): Promise<void>
  /** Sends a picture that was held until its run was received. */
  release(id: string): Promise<void>
  /** Sends a refused line again, such as into a run that was opened again. */
  sendAgain(id: string): Promise<void>
  /** Lets go of a refused line once a person has dealt with it. */
  dismiss(id: string): Promise<void>
  /** Goes on sending at once, such as after signing in again. */
  tryNow(): void
}

export interface OutboxOptions {
  store: OutboxStore
  /** Sends one line; throws as `send` of the API does. */
  send: (line: OutboxLine) => Promise<StoredAnswer>
  /** Says a word to the person at the tablet. */
  say: (words: string) => void
  /** Waits before another try, in ms. */
  pauseMs?: (failures: number) => number
  /** How long the store is waited for. */
  storePatienceMs?: number
}

/** Lines that go out one after the other. */
interface Way {
  isFor(line: OutboxLine): boolean
  isSending: boolean
  retryTimer?: ReturnType<typeof setTimeout>
}

/** The wait for the store is counted in slices. */
const sliceMs = 50
export const signInTrouble = 'Sign in again to send what waits.'
const usualPause = (failures: number) => Math.min(5_000, 400 * 2 ** Math.min(failures, 4))

export function createOutbox({ store, send, say, pauseMs = usualPause, storePatienceMs = 1500 }: OutboxOptions): Outbox {
  let state: OutboxState = { lines: [], trouble: null, isKeeping: true }
  const watchers = new Set<() => void>()
  const listeners = new Set<(line: OutboxLine, answer: StoredAnswer) => void>()
  /** Pictures take long: they have a way of their own, and no weighing waits behind one. */
  const ways: Way[] = [
    { isFor: (line) => line.kind !== 'picture', isSending: false },
    { isFor: (line) => line.kind === 'picture' && !line.isHeld, isSending: false },
  ]
  let failures = 0
  let patienceMs = storePatienceMs

  function change(part: Partial<OutboxState>): void {
    state = { ...state, ...part }
    for (const watcher of watchers) watcher()
  }

  function keeps(isKeeping: boolean): void {
    if (isKeeping !== state.isKeeping) change({ isKeeping })
  }

  function replace(id: string, turn: (line: OutboxLine) => OutboxLine): void {
    change({ lines: state.lines.map((line) => (line.id === id ? turn(line) : line)) })
  }

  async function refuse(id: string, refusal: string | null, refusalKind?: string): Promise<void> {
    replace(id, (line) => ({ ...line, refusal, refusalKind }))
    await isDone(store.change(id, { refusal, refusalKind }))
  }

  async function forget(id: string): Promise<void> {
    change({ lines: state.lines.filter((line) => line.id !== id) })
    await isDone(store.remove(id))
  }

  /**
   * Whether the store has done something. One that did not answer in time is not waited for until it has answered after all. A page
   * that is held up itself hears the answer late: of the time only slices count.
   */
  async function isDone(work: Promise<unknown>): Promise<boolean> {
    let isThere: boolean | undefined
    const done = work.then(
      () => {
        isThere = true
        patienceMs = storePatienceMs
      },
      () => {
        isThere = false
      },
    )
    let waitedMs = 0
    do {
      let timer: ReturnType<typeof setTimeout> | undefined
      const slice = new Promise<void>((resolve) => {
        timer = setTimeout(resolve, Math.min(sliceMs, patienceMs))
      })
      await Promise.race([done, slice])
      clearTimeout(timer)
      waitedMs += sliceMs
    } while (isThere === undefined && waitedMs < patienceMs)
    if (isThere === undefined) patienceMs = 0
    return isThere === true
  }

  /** Sends what waits, one after the other. @returns whether to go on with the next */
  async function sendOne(line: OutboxLine): Promise<boolean> {
    const { id } = line
    try {
      const answer = await send(line)
      for (const listener of listeners) listener(line, answer)
      await forget(id)
      failures = 0
      change({ trouble: null })
      return true
    } catch (error) {
      if (error instanceof ProblemFailure && error.kind === 'load-taken') {
        // it stands in the ledger already, from another tablet or from before this page was opened
        await forget(id)
        say(`${error.problem.detail ?? error.problem.title} It was not counted twice.`)
        return true
      }
      if (isFinal(error)) {
        await refuse(id, error instanceof Error ? error.message : String(error), error instanceof ProblemFailure ? error.kind : undefined)
        return true
      }
      failures += 1
      change({ trouble: reasonOf(error) })
      return false
    }
  }

  async function sendBy(way: Way): Promise<void> {
    if (way.isSending) return
    way.isSending = true
    clearTimeout(way.retryTimer)
    const firstWaiting = () => state.lines.find((line) => line.refusal === null && way.isFor(line))
    try {
      for (let next = firstWaiting(); next; next = firstWaiting()) {
        if (await sendOne(next)) continue
        way.retryTimer = setTimeout(() => void sendBy(way), pauseMs(failures))
        return
      }
    } finally {
      way.isSending = false
    }
  }

  function sendWaiting(): void {
    for (const way of ways) void sendBy(way)
  }

  function tryNow(): void {
    failures = 0
    sendWaiting()
  }

  const opened = store.all().then((lines) => {
    change({ lines: [...lines, ...state.lines] })
    sendWaiting()
  })
  void isDone(opened).then(keeps)

  return {
    opened,
    state: () => state,
    watch(watcher) {
      watchers.add(watcher)
      return () => watchers.delete(watcher)
    },
    whenStored(listener) {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    async post(line) {
      const shown = { ...line, refusal: null, order: Number.POSITIVE_INFINITY } as OutboxLine
      change({ lines: [...state.lines, shown] })
      const { order: _unset, ...fresh } = shown
      const added = store.add(fresh).then((order) => replace(line.id, (held) => ({ ...held, order })))
      keeps(await isDone(added))
      sendWaiting()
    },
    async release(id) {
      replace(id, (line) => ({ ...line, isHeld: false }) as OutboxLine)
      await isDone(store.change(id, { isHeld: false }))
      sendWaiting()
    },
    async sendAgain(id) {
      await refuse(id, null)
      tryNow()
    },
    dismiss: forget,
    tryNow,
  }
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
