import { setImmediate as nextTurn, setTimeout as pause } from 'node:timers/promises'
import { ConnectionError, type Sequelize } from 'sequelize'

/** A connection of the connector that Sequelize uses. */
interface Connection {
  ping(): Promise<void>
  destroy(): void
  on(event: 'end' | 'error', hear: () => void): void
}

/** How often the database is asked whether it is there, and after how long without an answer it counts as away. */
const askMs = 300
const silentMs = 1200
const busyMs = 300

/**
 * Asks the database all the while, on a connection of the pool that is its own, whether it is there. Once it says nothing, whatever waits for it is
 * refused at once, and so is what comes after, until it answers again; connections that hang are given up, so that the pool is
 * well by itself. It begins with the first statement.
 */
export function watchDatabase(sequelize: Sequelize): { close(): void } {
  const { connectionManager } = sequelize as unknown as {
    connectionManager: { getConnection(options: object): Promise<Connection>; releaseConnection(connection: Connection): void }
  }
  const connections = new Set<Connection>()
  let isAway = false
  let isClosed = false
  let isWatching = false
  /** What refuses each statement that waits for its answer. */
  const waiting = new Set<(error: Error) => void>()

  const query = sequelize.query.bind(sequelize) as (...given: unknown[]) => Promise<unknown>
  sequelize.query = ((...given: unknown[]) => {
    if (!isWatching && !isClosed) {
      isWatching = true
      void watch()
    }
    return new Promise((resolve, reject) => {
      if (isAway) return reject(silence())
      waiting.add(reject)
      query(...given)
        .finally(() => waiting.delete(reject))
        .then(resolve, reject)
    })
  }) as typeof sequelize.query
  sequelize.addHook('afterConnect', (connection) => {
    const opened = connection as Connection
    opened.on('error', () => connections.delete(opened))
    connections.add(opened)
    opened.on('end', () => connections.delete(opened))
  })

  function giveUp(): void {
    if (isAway) return
    isAway = true
    for (const refuse of waiting) refuse(silence())
    waiting.clear()
    for (const connection of connections) connection.destroy()
    connections.clear()
  }

  async function watch(): Promise<void> {
    let own: Connection | undefined
    while (!isClosed) {
      try {
        own ??= await connect()
        await inTime(own.ping())
        isAway = false
      } catch {
        if (own) connectionManager.releaseConnection(own)
        own = undefined
        if (!isClosed) giveUp()
      }
      await pause(askMs, undefined, { ref: false })
    }
    if (own) connectionManager.releaseConnection(own)
  }

  async function connect(): Promise<Connection> {
    const opening = connectionManager.getConnection({ type: 'WRITE' })
    try {
      return await inTime(opening)
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
  }
}

/** What comes in time, or a failure. */
async function inTime<Result>(work: Promise<Result>): Promise<Result> {
  const late = Symbol('late')
  const result = await Promise.race([work, waited().then(() => late)])
  if (result === late) throw silence()
  return result as Result
}

/**
 * The time is over. Time in which this process itself was busy does not count, and an answer that has come meanwhile is heard
 * first.
 */
async function waited(): Promise<void> {
  for (let isBusy = true; isBusy; ) {
    const from = performance.now()
    await pause(silentMs, undefined, { ref: false })
    isBusy = performance.now() - from > silentMs + busyMs
    for (let turns = 0; turns < 3; turns += 1) await nextTurn()
  }
}

const silence = () => new ConnectionError(new Error('The database says nothing.'))
