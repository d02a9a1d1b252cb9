import type { Run, Weighing } from '@fleam/contract/runs'
import { ProblemFailure, Unreachable } from '../src/api/http.ts'
import { createOutbox, type OutboxStore, signInTrouble } from '../src/outbox/outbox.ts'
import type { NewLine, OutboxLine, StoredAnswer } from '../src/outbox/outbox-line.ts'
import { sendLine } from '../src/outbox/send-line.ts'
import { withWaiting } from '../src/outbox/with-waiting.ts'

const person = { id: 'p', name: 'Pip Marsden' }
const line = (id: string, tenths = 1840): NewLine => ({
  id,
  runId: 'run',
  at: '2026-11-02T09:00:00.000Z',
  person,
  kind: 'weighing',
  tubId: 'steaks',
  tenths,
  entered: `${tenths / 10} g`,
  piece: null,
})
const problem = (kind: string, status: number, detail?: string) =>
  new ProblemFailure({ type: `urn:fleam:problem:${kind}`, title: `It is ${kind}.`, status, ...(detail ? { detail } : {}) })

/** A tablet's store that a reload leaves as it is. */
function storeOf(kept: OutboxLine[] = []): OutboxStore & { kept: OutboxLine[] } {
  let order = kept.length
  return {
    kept,
    all: async () => [...kept],
    async add(added) {
      order += 1
      kept.push({ ...added, order } as OutboxLine)
      return order
    },
    async change(id, part) {
      const at = kept.findIndex((one) => one.id === id)
      kept[at] = { ...(kept[at] as OutboxLine), ...part }
    },
    async remove(id) {
      kept.splice(
        kept.findIndex((one) => one.id === id),
        1,
      )
    },
  }
}

type Sent = (line: OutboxLine) => Promise<StoredAnswer>
const stored = async (sent: OutboxLine): Promise<StoredAnswer> => ({ weighings: [{ id: sent.id } as Weighing] })

function open(send: Sent, store = storeOf()) {
  const said: string[] = []
  const outbox = createOutbox({ store, send, say: (words) => said.push(words), pauseMs: () => 1 })
  return { outbox, store, said }
}

const settled = async (until: () => boolean) => {
  for (let turn = 0; turn < 500 && !until(); turn += 1) await new Promise((resolve) => setTimeout(resolve, 1))
  expect(until()).toBe(true)
}

describe('the outbox', () => {
  test('shows a line at once, sends lines in the order they were made, and lets go of what is stored', async () => {
    const sent: string[] = []
    const told: string[] = []
    const { outbox, store } = open(async (one) => {
      sent.push(one.id)
      return stored(one)
    })
    outbox.whenStored((one, answer) => told.push(`${one.runId} ${'weighings' in answer ? answer.weighings[0]?.id : ''}`))
    const posted = ['a', 'b', 'c'].map((id) => outbox.post(line(id)))
    expect(outbox.state().lines.map(({ id }) => id)).toEqual(['a', 'b', 'c'])
    await Promise.all(posted)
    await settled(() => outbox.state().lines.length === 0)
    expect([sent, told, store.kept]).toEqual([['a', 'b', 'c'], ['run a', 'run b', 'run c'], []])
  })

  test('goes on trying while the server is away, in order, and says so', async () => {
    let isAway = true
    const sent: string[] = []
    const { outbox } = open(async (one) => {
      if (isAway) throw new Unreachable()
      sent.push(one.id)
      return stored(one)
    })
    await outbox.post(line('a'))
    await outbox.post(line('b'))
    await settled(() => outbox.state().trouble === 'The server cannot be reached.')
    isAway = false
    await settled(() => outbox.state().lines.length === 0)
    expect([sent, outbox.state().trouble]).toEqual([['a', 'b'], null])
  })

  test('waits for a sign-in, and goes on at once when asked', async () => {
    let isSignedIn = false
    const { outbox } = open(async (one) => {
      if (!isSignedIn) throw problem('not-signed-in', 401)
      return stored(one)
    })
    await outbox.post(line('a'))
    await settled(() => outbox.state().trouble === signInTrouble)
    expect(outbox.state().lines[0]?.refusal).toBeNull()
    isSignedIn = true
    outbox.tryNow()
    await settled(() => outbox.state().lines.length === 0)
  })

  test('keeps what the server will not have until a person has dealt with it; what came after goes out', async () => {
    let isClosed = true
    const { outbox, store } = open(async (one) => {
      if (isClosed && one.id === 'a') throw problem('run-closed', 409, 'Ines finished it.')
      return stored(one)
    })
    await outbox.post(line('a'))
    await outbox.post(line('b'))
    await settled(() => outbox.state().lines.length === 1)
    expect(outbox.state().lines[0]).toMatchObject({ id: 'a', refusal: 'Ines finished it.', refusalKind: 'run-closed' })
    expect(store.kept).toMatchObject([{ id: 'a', refusalKind: 'run-closed' }])
    isClosed = false
    await outbox.sendAgain('a')
    await settled(() => outbox.state().lines.length === 0)
    await outbox.post(line('c'))
    await outbox.dismiss('c')
    expect(outbox.state().lines).toEqual([])
  })

  test('lets go of a load that another tablet took, and says whose it is', async () => {
    const { outbox, store, said } = open(async () => {
      throw problem('load-taken', 409, 'Jory has put it into Centre steaks.')
    })
    await outbox.post(line('a'))
    await settled(() => said.length > 0)
    expect([said, store.kept]).toEqual([['Jory has put it into Centre steaks. It was not counted twice.'], []])
  })

  test('sends what an earlier page left waiting before what is new', async () => {
    const store = storeOf()
    const away = open(() => new Promise(() => undefined), store)
    await away.outbox.post(line('a'))
    await away.outbox.post(line('b'))
    const sent: string[] = []
    const { outbox } = open(
      async (one) => {
        sent.push(one.id)
        return stored(one)
      },
      storeOf([...store.kept]),
    )
    await outbox.opened
    await outbox.post(line('c'))
    await settled(() => outbox.state().lines.length === 0)
    expect(sent).toEqual(['a', 'b', 'c'])
  })

  test('goes on without a store, and knows that nothing is kept', async () => {
    const broken = { ...storeOf(), add: () => Promise.reject(new Error('full')) }
    let isAway = true
    const { outbox } = open(async (one) => {
      if (isAway) await new Promise((resolve) => setTimeout(resolve, 5))
      isAway = false
      return stored(one)
    }, broken)
    const posted = outbox.post(line('a'))
    await settled(() => !outbox.state().isKeeping)
    await posted
    await settled(() => outbox.state().lines.length === 0)
  })
})

test('a store that never answers keeps nothing from being sent, and is not believed to keep anything', async () => {
  const never = () => new Promise<never>(() => undefined)
  const store: OutboxStore = { all: never, add: never, change: never, remove: never }
  const sent: string[] = []
  const send: Sent = async (one) => {
    sent.push(one.id)
    return stored(one)
  }
  const outbox = createOutbox({ store, send, say: () => undefined, pauseMs: () => 1, storePatienceMs: 20 })
  await settled(() => !outbox.state().isKeeping)
  await outbox.post(line('a'))
  await outbox.post(line('b'))
  await settled(() => outbox.state().lines.length === 0)
  expect(sent).toEqual(['a', 'b'])
  expect(outbox.state().isKeeping).toBe(false)
})

test('a page that was held up itself does not say that its store keeps nothing', async () => {
  // the answer comes in a few turns, as that of a browser's store does
  const inTurns = <Value>(value: Value) =>
    new Promise<Value>((resolve) => setTimeout(() => setImmediate(() => setTimeout(() => resolve(value), 1)), 0))
  const store: OutboxStore = { ...storeOf(), all: () => inTurns([]) }
  const outbox = createOutbox({ store, send: async (one) => stored(one), say: () => undefined, storePatienceMs: 120 })
  const told: boolean[] = []
  outbox.watch(() => told.push(outbox.state().isKeeping))
  const until = Date.now() + 300
  while (Date.now() < until);
  await outbox.opened
  await new Promise((resolve) => setTimeout(resolve, 200))
  expect(told).not.toContain(false)
  expect(outbox.state().isKeeping).toBe(true)
})

test('a store that answers after all is believed again', async () => {
  const late = storeOf()
  const store: OutboxStore = { ...late, all: () => new Promise((resolve) => setTimeout(() => resolve([]), 80)) }
  const outbox = createOutbox({ store, send: async (one) => stored(one), say: () => undefined, storePatienceMs: 20 })
  await settled(() => !outbox.state().isKeeping)
  await outbox.opened
  await outbox.post(line('a'))
  expect(outbox.state().isKeeping).toBe(true)
})

test('what is done to a lot is kept and sent like a weighing, under its own id', async () => {
  const sent: unknown[] = []
  const { outbox } = open(async (one) => {
    sent.push(one.kind === 'lot' && [one.lotId, one.what])
    return stored(one)
  })
  const what = { kind: 'take', tenths: null, portions: 1, takenFor: 'dish', note: 'Steak, chips' } as const
  await outbox.post({ id: 'm', kind: 'lot', lotId: 'lot', name: 'Steaks', what, at: '2026-11-02T09:00:00.000Z', person })
  await settled(() => outbox.state().lines.length === 0)
  expect(sent).toEqual([['lot', what]])
})

describe('a line on its way', () => {
  const asked: { path: string; body: Record<string, unknown> }[] = []
  function answering(answer: (body: Record<string, unknown>) => unknown): void {
    asked.length = 0
    globalThis.fetch = async (path, init) => {
      const body = JSON.parse(String(init?.body))
      asked.push({ path: String(path), body })
      return new Response(JSON.stringify(answer(body)), { status: 201, headers: { 'content-type': 'application/json' } })
    }
  }
  const made = (what: object): OutboxLine => ({ ...line('n'), order: 1, refusal: null, ...what }) as OutboxLine

  test('a moved piece is stored under its own id, and the line taken back under its', async () => {
    answering(({ id, reversalId }) => ({ reversal: { id: reversalId }, weighing: { id } }))
    const move = made({ kind: 'move', reversalId: 'r', weighingId: 'w', fromTubId: 'steaks', tubId: 'tips', piece: 2 })
    expect(await sendLine(move)).toEqual({ weighings: [{ id: 'r' }, { id: 'n' }] })
    expect(asked).toMatchObject([
      { path: '/api/v1/runs/run/moves', body: { id: 'n', reversalId: 'r', weighingId: 'w', tubId: 'tips', piece: 2 } },
    ])
  })

  test('a weighing carries the load that it came from, an event what happened, a reversal what it takes back', async () => {
    answering(({ id }) => ({ id }))
    const load = { id: 'l', tenths: 1840 }
    await sendLine(made({ load }))
    await sendLine(made({ kind: 'event', what: { kind: 'step', step: 2 } }))
    await sendLine(made({ kind: 'reversal', reversesId: 'w' }))
    expect(asked).toMatchObject([
      { path: '/api/v1/runs/run/weighings', body: { id: 'n', weight: '184 g', load, personId: 'p' } },
      { path: '/api/v1/runs/run/bench-events', body: { what: { kind: 'step', step: 2 } } },
      { path: '/api/v1/runs/run/reversals', body: { reversesId: 'w' } },
    ])
  })

  test('an answer that names something else is not the server’s', async () => {
    answering(() => ({ id: 'other' }))
    await expect(sendLine(made({}))).rejects.toBeInstanceOf(Unreachable)
  })
})

describe('pictures', () => {
  const picture = (id: string, changes: object = {}): NewLine => ({
    ...{ id, kind: 'picture', ofRunId: 'run', about: 'tray', defectId: null, jpeg: new ArrayBuffer(3) },
    ...{ at: '2026-11-02T09:00:00.000Z', person, ...changes },
  })

  test('no weighing waits behind one, and those that are held go out when they are let', async () => {
    const sent: string[] = []
    let arrive: () => void = () => undefined
    const { outbox, store } = open(async (one) => {
      sent.push(one.id)
      if (one.id === 'slow') await new Promise<void>((resolve) => (arrive = resolve))
      return stored(one)
    })
    await outbox.post(picture('slow'))
    await outbox.post(picture('held', { isHeld: true }))
    await outbox.post(line('a'))
    await settled(() => sent.includes('a') && store.kept.length === 2)
    expect(sent).toEqual(['slow', 'a'])
    arrive()
    await settled(() => store.kept.length === 1)
    expect(sent).toEqual(['slow', 'a'])
    await outbox.release('held')
    await settled(() => store.kept.length === 0)
    expect(sent).toEqual(['slow', 'a', 'held'])
  })

  test('one that is held stays so through a reload', async () => {
    const { outbox, store } = open(stored)
    await outbox.post(picture('held', { isHeld: true }))
    const sent: string[] = []
    const again = open(async (one) => {
      sent.push(one.id)
      return stored(one)
    }, storeOf(store.kept))
    await again.outbox.opened
    await again.outbox.post(line('a'))
    await settled(() => sent.includes('a'))
    expect(sent).toEqual(['a'])
  })

  test('goes as the bytes that it is, with what it is of', async () => {
    let asked: { path: string; kind: string } | undefined
    globalThis.fetch = async (path, init) => {
      asked = { path: String(path), kind: (init as { body: Blob }).body.type }
      return new Response(JSON.stringify({ id: 'p1' }), { status: 201, headers: { 'content-type': 'application/json' } })
    }
    await sendLine({ ...picture('p1', { about: 'defect', defectId: 'd' }), order: 1, refusal: null } as OutboxLine)
    expect(asked?.kind).toBe('image/jpeg')
    expect(asked?.path).toMatch(/^\/api\/v1\/runs\/run\/pictures\/p1\?about=defect&.*personId=p&defectId=d$/)
  })
})

describe('a run with what waits on the tablet', () => {
  const run = {
    id: 'run',
    weighings: [{ id: 'w', sequence: 4, tubId: 'steaks', tenths: 1800, reversesId: null }],
    events: [],
  } as unknown as Run
  const waiting = (id: string, what: object = {}): OutboxLine => ({ ...line(id), order: 1, refusal: null, ...what }) as OutboxLine

  test('has its lines at the end, once, and none of another run or refused', () => {
    const lines = [waiting('w'), waiting('a'), waiting('b', { refusal: 'no' }), waiting('c', { runId: 'other' })]
    expect(withWaiting(run, lines).weighings.map(({ id }) => id)).toEqual(['w', 'a'])
    expect(withWaiting(run, [])).toBe(run)
  })

  test('a moved piece is taken back there and weighed here', () => {
    const move = waiting('n', { kind: 'move', reversalId: 'r', weighingId: 'w', fromTubId: 'steaks', tubId: 'tips' })
    expect(withWaiting(run, [move]).weighings.slice(1)).toMatchObject([
      { id: 'r', tubId: 'steaks', reversesId: 'w' },
      { id: 'n', tubId: 'tips', movedFromId: 'w', reversesId: null },
    ])
  })
})
