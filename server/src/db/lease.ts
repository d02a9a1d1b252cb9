import { randomUUID } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import { literal, Op } from 'sequelize'
import { type Database, duplicateKey } from './database.ts'

const heldSeconds = 20
const renewMs = 5_000
const askAgainMs = 100
const giveUpMs = 10 * 60_000

/** Moments by the database's clock, which all servers share. */
const now = literal('UTC_TIMESTAMP(3)')
const until = literal(`UTC_TIMESTAMP(3) + INTERVAL ${heldSeconds} SECOND`) as unknown as Date

/**
 * Does work that only one server at a time may do, on whichever node of a cluster it stands: the one whose row stands has
 * it, renews it while it works, and gives it back. One that dies leaves it to the others after twenty seconds.
 */
export async function withLease<Result>(
  { sequelize, acrossKitchens }: Database,
  name: string,
  work: () => Promise<Result>,
): Promise<Result> {
  const { leases } = acrossKitchens
  // the first lease is for making the tables
  await sequelize.model('lease').sync()
  const holder = randomUUID()
  const take = async () => {
    if ((await leases.update({ holder, until }, { name, until: { [Op.lt]: now } })) === 1) return true
    try {
      await leases.create({ name, holder, until })
      return true
    } catch (error) {
      if (duplicateKey(error) === undefined) throw error
      return false
    }
  }
  const giveUpAt = Date.now() + giveUpMs
  while (!(await take())) {
    if (Date.now() > giveUpAt) throw new Error(`Another server has been at “${name}” for ten minutes: is it still running?`)
    await pause(askAgainMs)
  }
  const renewing = setInterval(() => leases.update({ until }, { name, holder }).catch(() => undefined), renewMs)
  try {
    return await work()
  } finally {
    clearInterval(renewing)
    await leases.destroy({ name, holder })
  }
}
