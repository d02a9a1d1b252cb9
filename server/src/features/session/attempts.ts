import { RateLimiterMySQL, type RateLimiterRes } from 'rate-limiter-flexible'
import type { Sequelize } from 'sequelize'
import { retried } from '../../db/retried.ts'
import { ProblemError } from '../../http/problems.ts'

/** Tries that nobody has to wait for; after them each waits twice as long as the one before. */
const freeTries = { name: 5, address: 30 }
const longestWaitSeconds = 15 * 60
const forgottenAfterSeconds = 24 * 3600

export interface Attempts {
  /**
   * Counts a try before its secret is looked at, so that of any number sent at once no more are looked at than of as many sent
   * one by one. @throws ProblemError `too-many-attempts`, with when the next is looked at
   */
  begin(name: string, address: string | undefined): Promise<void>
  /** Forgets the tries of a name: its person came in from `address`, or got a new secret. */
  forget(name: string, address?: string): Promise<void>
}

/**
 * Counts tries at signing in, in the database, so that every copy of the server counts the same.
 * `name` stands for who is meant and where from: on an enrolled tablet nobody else's tries count.
 */
export function countAttempts(sequelize: Sequelize): Attempts {
  const common = {
    storeClient: clientOf(sequelize),
    storeType: 'pool',
    dbName: sequelize.getDatabaseName(),
    tableName: 'sign_in_points',
    tableCreated: true,
  }
  const tries = new RateLimiterMySQL({ ...common, keyPrefix: 'tries', points: 1_000_000_000, duration: forgottenAfterSeconds })
  const gate = new RateLimiterMySQL({ ...common, keyPrefix: 'gate', points: 1, duration: 1 })

  async function pass(key: string, free: number): Promise<void> {
    const { consumedPoints } = await retried(() => tries.consume(key))
    if (consumedPoints <= free) return
    const wait = Math.min(longestWaitSeconds, 2 ** Math.min(20, consumedPoints - free))
    const refusal = await retried(() => gate.consume(key, 1, { customDuration: wait })).then(
      () => undefined,
      (reason: RateLimiterRes | Error) => reason,
    )
    if (refusal === undefined) return
    if (refusal instanceof Error) throw refusal
    // what is not looked at does not make the wait any longer
    await retried(() => tries.reward(key))
    const seconds = Math.max(1, Math.ceil(refusal.msBeforeNext / 1000))
    throw new ProblemError('too-many-attempts', { detail: `Wait ${seconds} s, or ask a manager for a new secret.` }, seconds)
  }

  return {
    async begin(name, address) {
      if (address !== undefined) await pass(`address ${address}`, freeTries.address)
      await pass(`name ${name}`, freeTries.name)
    },
    async forget(name, address) {
      await Promise.all([tries, gate].map((limiter) => retried(() => limiter.delete(`name ${name}`))))
      if (address !== undefined) await retried(() => tries.reward(`address ${address}`))
    },
  }
}

/** A connection of the connector that Sequelize uses: it answers by promises, and knows no `??` for names. */
interface Connection {
  query(sql: string, values: unknown[]): Promise<unknown>
}

type Done = (error: unknown, result?: unknown) => void

/** Sequelize's own connections, as the limiter asks for them. */
function clientOf(sequelize: Sequelize) {
  const { connectionManager } = sequelize as unknown as {
    connectionManager: { getConnection(options: object): Promise<Connection>; releaseConnection(connection: Connection): void }
  }
  const wrap = (connection: Connection) => ({
    query(sql: string, ...rest: unknown[]) {
      const done = rest.pop() as Done
      const values = [...((rest[0] as unknown[] | undefined) ?? [])]
      const named = sql.replaceAll('??', () => `\`${values.shift()}\``)
      connection.query(named, values).then((result) => done(null, result), done)
    },
    rollback: () => void connection.query('ROLLBACK', []).catch(() => undefined),
    release: () => connectionManager.releaseConnection(connection),
  })
  return {
    getConnection(done: Done) {
      connectionManager.getConnection({ type: 'WRITE' }).then((connection) => done(null, wrap(connection)), done)
    },
  }
}
