import { ConnectionError, DatabaseError, type Sequelize, type Transaction } from 'sequelize'
import { isStrayKill } from '../src/db/ailments.ts'
import { retried, transacted } from '../src/db/retried.ts'

const refusal = (errno: number) => new DatabaseError(Object.assign(new Error('refused'), { errno, sql: '' }))
const gone = () => new ConnectionError(new Error('gone'))
/** A database that fails a transaction before or at its commit. */
const databaseOf = (commit: () => void): Sequelize =>
  ({
    async transaction(work: (inner: Transaction) => Promise<unknown>) {
      const result = await work({} as Transaction)
      commit()
      return result
    },
  }) as unknown as Sequelize

test('what stood in the way of another is done again, a bounded number of times', async () => {
  let tries = 0
  const work = async () => {
    tries += 1
    if (tries < 4) throw refusal(1213)
    return tries
  }
  expect(await retried(work)).toBe(4)
  tries = -100
  await expect(retried(work)).rejects.toThrow('refused')
  expect(tries).toBe(-94)
})

test('who has waited for a lock as long as is waited, or was refused for another reason, is told at once', async () => {
  for (const errno of [1205, 1062]) {
    let tries = 0
    const work = async () => {
      tries += 1
      throw refusal(errno)
    }
    await expect(retried(work)).rejects.toThrow('refused')
    expect([errno, tries]).toEqual([errno, 1])
  }
})

test('with one database, a transaction whose connection went away is not done again', async () => {
  let tries = 0
  const work = async () => {
    tries += 1
    throw gone()
  }
  await expect(
    transacted(
      databaseOf(() => undefined),
      work,
    ),
  ).rejects.toThrow('gone')
  expect(tries).toBe(1)
})

test('a certification failure at the commit is tried again; a connection that goes away at it is not', async () => {
  let commits = 0
  const certified = databaseOf(() => {
    commits += 1
    if (commits < 3) throw refusal(1213)
  })
  expect(await transacted(certified, async () => 'stored')).toBe('stored')
  expect(commits).toBe(3)
  let tries = 0
  const cut = databaseOf(() => {
    throw gone()
  })
  const work = async () => {
    tries += 1
    return 'perhaps stored'
  }
  await expect(transacted(cut, work)).rejects.toThrow('gone')
  expect(tries).toBe(1)
})

test.each([
  [Object.assign(new Error('WSREP has not yet prepared node for application use'), { sql: 'KILL 16 - parameters:[]', errno: 1047 }), true],
  [Object.assign(new Error('refused'), { sql: 'UPDATE runs SET lot = :lot' }), false],
  [new Error('a fault of our own'), false],
  [undefined, false],
])('%s that nobody hears: the connector’s own kill, and nothing else, is outlived', (reason, isOutlived) => {
  expect(isStrayKill(reason)).toBe(isOutlived)
})
