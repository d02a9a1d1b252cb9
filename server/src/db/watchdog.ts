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
  let refuseWaiting: (error: Error) => void = () => undefined
  let away = new Promise<never>(() => undefined)

  const silence = () => new ConnectionError(new Error('The database says nothing.'))
  const renew = () => {
    away = new Promise((_, reject) => {
      refuseWaiting = reject
    })
    away.catch(() => undefined)
  }
  renew()

  const query = sequelize.query.bind(sequelize) as (...given: unknown[]) => Promise<unknown>
  sequelize.query = ((...given: unknown[]) => {
    if (!isWatching && !isClosed) {
      isWatching = true
      void watch()
    }
    return isAway ? Promise.reject(silence()) : Promise.race([query(...given), away])
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
    refuseWaiting(silence())
    renew()
    for (const connection of connections) connection.destroy()
    connections.clear()
  }

  async function watch(): Promise<void> {
    let own: Connection | undefined
    while (!isClosed) {
      try {
        own ??= await connectionManager.getConnection({ type: 'WRITE' })
        const answered = own.ping().then(() => true)
        if (await Promise.race([answered, waited()])) isAway = false
        else throw silence()
      } catch {
        if (own) connectionManager.releaseConnection(own)
        own = undefined
        if (!isClosed) giveUp()
      }
      await pause(askMs, undefined, { ref: false })
    }
    if (own) connectionManager.releaseConnection(own)
  }

  return {
    close() {
      isClosed = true
    },
  }
}

/** The time is over; an answer that has come meanwhile, while this process was busy, is heard first. */
async function waited(): Promise<false> {
  await pause(silentMs, undefined, { ref: false })
  for (let turns = 0; turns < 3; turns += 1) await nextTurn()
  return false
}
