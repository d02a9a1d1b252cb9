const connectionTroubles = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ER_GET_CONNECTION_TIMEOUT',
  'ER_CONNECTION_TIMEOUT',
  'ER_SOCKET_TIMEOUT',
  'ER_SOCKET_UNEXPECTED_CLOSE',
  'ER_CMD_CONNECTION_CLOSED',
  'ER_CMD_NOT_EXECUTED_DESTROYED',
  'ER_POOL_ALREADY_CLOSED',
  'ER_SERVER_SHUTDOWN',
  'ER_CONNECTION_KILLED',
  'ER_SOCKET_BAD_PORT',
])

/** Disk or table space full, writes refused, a write or commit that failed, a file or server that may only be read. */
const unwritable = new Set([3, 28, 1021, 1026, 1036, 1114, 1180, 1290, 1792])
/** A table, index or page that cannot be read as it stands, or whose file is gone. */
const damaged = new Set([1033, 1034, 1194, 1195, 1712, 1812, 1814, 1877, 1932])
/** Deadlock and lock wait, after they were tried again; a node of a cluster that is not ready. */
const contended = new Set([1213, 1205, 1047])

/** What is wrong with the database itself, as against what was asked of it. */
export type Ailment = 'away' | 'unwritable' | 'damaged' | 'contended'

interface Failure {
  name?: string
  parent?: { code?: string; errno?: number; fatal?: boolean }
}

/** @returns `undefined` where the database has merely refused something */
export function ailmentOf(error: unknown): Ailment | undefined {
  const { name, parent } = (error ?? {}) as Failure
  const errno = parent?.errno ?? 0
  if (unwritable.has(errno)) return 'unwritable'
  if (damaged.has(errno)) return 'damaged'
  if (contended.has(errno)) return 'contended'
  if (name?.startsWith('SequelizeConnection') || name === 'SequelizeHostNotFoundError') return 'away'
  return parent?.fatal === true || (parent?.code !== undefined && connectionTroubles.has(parent.code)) ? 'away' : undefined
}

/** Whether the database could not be reached. */
export const isUnreachable = (error: unknown): boolean => ailmentOf(error) === 'away'

/** A node of a cluster that was cut off from the others: it answers, and refuses everything. */
const notReady = 1047

/** Whether what was asked may have gone to a node that is gone, or gone from its cluster. */
export const isGone = (error: unknown): boolean => isUnreachable(error) || (error as Failure | undefined)?.parent?.errno === notReady

/**
 * Lets a process live through what the connector leaves unheard: to be rid of a statement it opens a connection of its own and
 * kills it there, and does not hear how that ended. A node that was cut off from its cluster refuses even this. Other
 * rejections that nobody hears end the process, as they would without this.
 */
export function outliveStrayKills(): void {
  process.on('unhandledRejection', (reason) => {
    if (!isStrayKill(reason)) throw reason
  })
}

export const isStrayKill = (reason: unknown): boolean => /^KILL \d+/.test(String((reason as { sql?: unknown } | null)?.sql ?? ''))
