import { setImmediate as nextTurn, setTimeout as pause } from 'node:timers/promises'
import { ConnectionError, QueryTypes, Sequelize } from 'sequelize'
import type { DatabaseAddress, Node } from './address.ts'
import { isGone } from './ailments.ts'

/** A connection of the connector that Sequelize uses. */
interface Connection {
  ping(): Promise<void>
  destroy(): void
  on(event: 'end' | 'error', hear: () => void): void
}

/** How often the database is asked whether it is there, and after how long without an answer it counts as away. */
const askMs = 300
const silentMs = 1200
/** The waiting is counted in slices; of one that took longer, as this process was held up, only so much counts. */
const sliceMs = 100
const mostOfSliceMs = 150
/** How often the home node is asked whether it is back, and how often in a row it must say so. */
const askHomeMs = 1000
const timesHome = 3
/** How long what hit the gap waits for another node. */
const backMs = 3000
const mostTries = 3

export interface Watchdog {
  close(): void
  /** Which of the nodes is in use, from 1, the first being home. */
  node(): number
}

const backs = new WeakMap<Sequelize, () => Promise<boolean>>()

/**
 * Whether a node answers again that work which was cut off may be done on: waits for it where there are several, and says no at
 * once where there is one.
 */
export async function isBackSoon(sequelize: Sequelize): Promise<boolean> {
  return (await backs.get(sequelize)?.()) ?? false
}

/**
 * Asks the database all the while, on a connection of the pool that is its own, whether it is there. Once it says nothing, whatever waits for it is
 * refused at once, and so is what comes after, until it answers again; connections that hang are given up, so that the pool is
 * well by itself. Of several nodes the next is turned to, and the first again once it has been well for a while; reads that
 * were cut off are asked again there. It begins with the first statement.
 */
export function watchDatabase(sequelize: Sequelize, address: DatabaseAddress): Watchdog {
  const { nodes } = address
  const hasOthers = nodes.length > 1
  const { connectionManager } = sequelize as unknown as {
    connectionManager: {
      getConnection(options: object): Promise<Connection>
      releaseConnection(connection: Connection): void
      destroyConnection(connection: Connection): Promise<void>
    }
  }
  const connections = new Set<Connection>()
  /** Connections to a node that stood in: what is done on one is finished, and nothing is begun. */
  const outworn = new WeakSet<Connection>()
  let at = 0
  let isAway = false
  let isClosed = false
  let isWatching = false
  let isHomeWell = false
  /** What refuses each statement that waits for its answer. */
  const waiting = new Set<(error: Error) => void>()
  /** Told when a node has answered a question that was asked at this moment. */
  const hopes = new Set<(askedAt: number) => void>()
  let askNow = new AbortController()

  const query = sequelize.query.bind(sequelize) as (...given: unknown[]) => Promise<unknown>
  const ask = (given: unknown[]) =>
    new Promise<unknown>((resolve, reject) => {
      if (isAway) return reject(silence())
      waiting.add(reject)
      query(...given)
        .finally(() => waiting.delete(reject))
        .then(resolve, reject)
    })
  sequelize.query = (async (...given: unknown[]) => {
    if (!isWatching && !isClosed) {
      isWatching = true
      void watch()
    }
    const { type, transaction } = (given[1] ?? {}) as { type?: string; transaction?: unknown }
    const isLoneRead = hasOthers && !transaction && type === QueryTypes.SELECT
    for (let tries = 1; ; tries += 1) {
      try {
        return await ask(given)
      } catch (error) {
        // a read on its own changes nothing: it is asked again where its node went away
        const mayAsk = isLoneRead && tries < mostTries && isGone(error)
        if (!mayAsk || !(await comesBack())) throw error
      }
    }
  }) as typeof sequelize.query
  if (hasOthers) {
    backs.set(sequelize, comesBack)
    const getAny = connectionManager.getConnection.bind(connectionManager)
    const getConnection = async (options: object): Promise<Connection> => {
      const connection = await getAny(options)
      if (!outworn.has(connection)) return connection
      await connectionManager.destroyConnection(connection)
      return getConnection(options)
    }
    // a connection that is still being made to a node that fell silent is not waited for either
    connectionManager.getConnection = (options) =>
      new Promise((resolve, reject) => {
        if (isAway) return reject(silence())
        waiting.add(reject)
        getConnection(options).then(
          (connection) => {
            if (waiting.delete(reject)) resolve(connection)
            else connectionManager.releaseConnection(connection)
          },
          (error) => {
            waiting.delete(reject)
            reject(error)
          },
        )
      })
    sequelize.addHook('beforeConnect', (config) => {
      Object.assign(config, nodes[at])
    })
  }
  sequelize.addHook('afterConnect', (connection) => {
    const opened = connection as Connection
    opened.on('error', () => connections.delete(opened))
    connections.add(opened)
    opened.on('end', () => connections.delete(opened))
  })

  /** Whether a node answers a question that is asked from now on, within a while. */
  function comesBack(): Promise<boolean> {
    const since = performance.now()
    return new Promise((resolve) => {
      const settle = (isThere: boolean) => {
        hopes.delete(hear)
        clearTimeout(timer)
        resolve(isThere)
      }
      const hear = (askedAt: number) => {
        if (askedAt >= since) settle(true)
      }
      const timer = setTimeout(() => settle(false), backMs).unref()
      hopes.add(hear)
      askNow.abort()
    })
  }

  /** Refuses what waits, and lets every connection go. */
  function letGo(): void {
    for (const refuse of waiting) refuse(silence())
    waiting.clear()
    for (const connection of connections) {
      connection.destroy()
      // the connector may never settle what such a connection was asked, and the pool would count it for good
      connectionManager.destroyConnection(connection).catch(() => undefined)
    }
    connections.clear()
  }

  async function watch(): Promise<void> {
    let own: Question | undefined
    let lookHome: Promise<void> | undefined
    while (!isClosed) {
      const askedAt = performance.now()
      try {
        own ??= hasOthers ? askAlone(nodes[at] ?? nodes[0], address) : await askInPool()
        await inTime(own.ask())
        isAway = false
        for (const hear of [...hopes]) hear(askedAt)
      } catch {
        own?.end()
        own = undefined
        if (!isClosed) {
          const wasAway = isAway
          isAway = true
          if (hasOthers) at = (at + 1) % nodes.length
          if (!wasAway || hasOthers) letGo()
          // the next node is asked at once, for all that was refused, unless one was asked in vain already
          if (hasOthers && !wasAway) {
            await nextTurn()
            continue
          }
        }
      }
      const goesHome = isHomeWell && at > 0
      isHomeWell = false
      if (goesHome) {
        at = 0
        own?.end()
        own = undefined
        for (const connection of connections) outworn.add(connection)
        connections.clear()
        await nextTurn()
        continue
      }
      if (at > 0) lookHome ??= waitForHome().finally(() => (lookHome = undefined))
      askNow = new AbortController()
      await pause(askMs, undefined, { ref: false, signal: askNow.signal }).catch(() => undefined)
    }
    own?.end()
  }

  /** Comes when the home node has been well for a while; it may hang, so nothing waits for this. */
  async function waitForHome(): Promise<void> {
    for (let times = 0; times < timesHome && !isClosed; ) {
      await pause(askHomeMs, undefined, { ref: false })
      times = (await isReady(nodes[0], address)) ? times + 1 : 0
    }
    isHomeWell = true
  }

  /** Asks on a connection of the pool, which is so known to be well. */
  async function askInPool(): Promise<Question> {
    const opening = connectionManager.getConnection({ type: 'WRITE' })
    try {
      const connection = await inTime(opening)
      return { ask: () => connection.ping(), end: () => connectionManager.releaseConnection(connection) }
    } catch (error) {
      // one that comes after all is given back
      opening.then(
        (late) => connectionManager.releaseConnection(late),
        () => undefined,
      )
      throw error
    }
  }

  return {
    close() {
      isClosed = true
    },
    node: () => at + 1,
  }
}

/** A way to ask one database whether it is there. */
interface Question {
  ask(): Promise<void>
  end(): void
}

/** Asks one node of several on a connection beside the pool, whose connections may lead to another by now. */
function askAlone(node: Node, { username, password, database }: DatabaseAddress): Question {
  const alone = new Sequelize({
    dialect: 'mariadb',
    ...node,
    username,
    password,
    database,
    pool: { max: 1, acquire: silentMs },
    dialectOptions: { connectTimeout: silentMs, socketTimeout: silentMs },
    logging: false,
  })
  const show = async (what: string) => (await alone.query(`SHOW ${what}`, { type: QueryTypes.SELECT, raw: true })) as { Value: string }[]
  return {
    /** Fails too where the node answers, but is cut off from its cluster or not yet in step with it. */
    async ask() {
      const isUnready = (await show("STATUS LIKE 'wsrep_ready'")).some(({ Value }) => Value === 'OFF')
      // it says OFF too where the server was never part of a cluster
      if (isUnready && (await show("VARIABLES LIKE 'wsrep_on'")).some(({ Value }) => Value === 'ON')) throw silence()
    },
    end: () => void alone.close().catch(() => undefined),
  }
}

async function isReady(node: Node, address: DatabaseAddress): Promise<boolean> {
  const question = askAlone(node, address)
  return inTime(question.ask())
    .then(
      () => true,
      () => false,
    )
    .finally(() => question.end())
}

/** What comes in time, or a failure. */
async function inTime<Result>(work: Promise<Result>): Promise<Result> {
  const late = Symbol('late')
  const result = await Promise.race([work, waited().then(() => late)])
  if (result === late) throw silence()
  return result as Result
}

/**
 * The time is over. Time in which this process itself was held up does not count, and an answer that has come meanwhile is heard
 * first.
 */
async function waited(): Promise<void> {
  for (let counted = 0; counted < silentMs; ) {
    const from = performance.now()
    await pause(sliceMs, undefined, { ref: false })
    counted += Math.min(performance.now() - from, mostOfSliceMs)
  }
  for (let turns = 0; turns < 3; turns += 1) await nextTurn()
}

const silence = () => new ConnectionError(new Error('The database says nothing.'))
