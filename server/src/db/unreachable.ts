const connectionTroubles = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ER_GET_CONNECTION_TIMEOUT',
  'ER_CONNECTION_TIMEOUT',
  'ER_SOCKET_UNEXPECTED_CLOSE',
  'ER_CMD_CONNECTION_CLOSED',
  'ER_CMD_NOT_EXECUTED_DESTROYED',
  'ER_POOL_ALREADY_CLOSED',
  'ER_SERVER_SHUTDOWN',
  'ER_CONNECTION_KILLED',
  'ER_SOCKET_BAD_PORT',
])

/** Whether the database could not be reached, as against having refused something. */
export function isUnreachable(error: unknown): boolean {
  const { name, parent } = (error ?? {}) as { name?: string; parent?: { code?: string; fatal?: boolean } }
  if (name?.startsWith('SequelizeConnection') || name === 'SequelizeHostNotFoundError') return true
  return parent?.fatal === true || (parent?.code !== undefined && connectionTroubles.has(parent.code))
}
