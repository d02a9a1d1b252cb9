import { randomUUID } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { DatabaseError } from 'sequelize'
import { retried } from '../src/db/retried.ts'
import { storeOnce } from '../src/http/changes.ts'
import { addKitchen, runRequest, stockedKitchen, weighingRequest } from './kitchen.ts'
import { root } from './processes.ts'

const { test_, kitchen } = stockedKitchen()
const source = join(root, 'server/src')
const files = readdirSync(source, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts'))
  .map((file) => ({ file, text: readFileSync(join(source, file), 'utf8') }))

describe('what is reached how', () => {
  const isMigration = (file: string) => file.startsWith('db/migrations/')

  test('every statement by hand stands beside its model, for one kitchen, and is one of these', () => {
    const byHand = files.filter(({ file, text }) => !isMigration(file) && /\b(INSERT INTO|UPDATE \w+ SET|DELETE FROM|SELECT )/.test(text))
    expect(byHand.map(({ file }) => file).filter((file) => !file.endsWith('.sql.ts'))).toEqual(['db/records.ts'])
    const statements = byHand.flatMap(({ text }) => [...text.matchAll(/export const (\w+) = `([^`]*)`/g)])
    expect(statements.map(([, name]) => name).sort()).toEqual([
      'addToCutTotals',
      'addToOutputTotals',
      'figuresOfRuns',
      'insertBenchEvent',
      'insertReversal',
      'insertWeighing',
      'latestQuotes',
      'latestQuotesBySupplier',
      'latestQuotesOfSupplier',
      'piecesSince',
      'portionsThrownAway',
      'recentMoves',
      'sessionByToken',
      'sheetsOfDays',
      'standingSessions',
      'thrownAwayByWeek',
      'thrownAwayOfDays',
    ])
    // nobody is in a kitchen before the session is found
    const ofKitchen = statements.filter(([, name]) => name !== 'sessionByToken' && name !== 'standingSessions')
    for (const [, name, sql] of ofKitchen) expect([name, sql]).toEqual([name, expect.stringContaining(':kitchenId')])
  })

  test('models are defined in one place, and only what must cross kitchens does', () => {
    const bare = files.filter(({ file, text }) => !file.startsWith('db/') && /import \{[^}]*\bdefine\w+/.test(text))
    expect(bare.map(({ file }) => file)).toEqual([])
    const crossing = files.filter(({ file, text }) => !file.startsWith('db/') && /acrossKitchens|AllRecords/.test(text))
    expect(crossing.map(({ file }) => file).sort()).toEqual([
      'consistency.ts',
      'demo/kitchen.ts',
      'demo/sisters.ts',
      'features/cut-sheets/catalog-sheets.ts',
      'features/days/calendar.ts',
      'features/kitchens/places.ts',
      'features/labels/print-queue.ts',
      'features/live/routes.ts',
      'features/prices/price-watch.ts',
      'features/runs/ledger-lines.ts',
      'features/session/service.ts',
      'features/setup/service.ts',
      'features/tablets/service.ts',
      'http/access.ts',
      'http/open-streams.ts',
      'live-feed.ts',
    ])
    expect(files.filter(({ text }) => /from 'mariadb'/.test(text))).toEqual([])
  })

  test('one kitchen’s records hold no row of another’s, whatever is asked for', async () => {
    const other = test_.db.of(await addKitchen(test_.db, 'Another'))
    const own = test_.db.of(kitchen.kitchenId)
    const where = { id: kitchen.itemId }
    expect(await own.items.count(where)).toBe(1)
    expect(await other.items.findOne({ where })).toBeNull()
    expect(await other.items.findAll({ where: { kitchenId: kitchen.kitchenId } })).toEqual([])
    expect(await other.items.update({ name: 'Taken' }, where)).toBe(0)
    expect(await other.items.destroy(where)).toBe(0)
    await other.suppliers.create({ id: randomUUID(), name: 'Ours', priceList: null, ...({ kitchenId: kitchen.kitchenId } as object) })
    expect([await other.suppliers.count({ name: 'Ours' }), await own.suppliers.count({ name: 'Ours' })]).toEqual([1, 0])
  })
})

describe('what is stored once', () => {
  const records = () => test_.db.of(kitchen.kitchenId)
  const taken = async () => records().suppliers.create({ id: kitchen.supplierId, name: randomUUID(), priceList: null })
  const repeats = async () => (await records().repeats.findOne())?.count ?? 0

  test('is made once more where the database had lost it', async () => {
    const make = jest.fn().mockImplementationOnce(taken).mockResolvedValueOnce(undefined)
    const find = jest.fn().mockResolvedValueOnce(undefined).mockResolvedValueOnce('stored')
    expect(await storeOnce(records(), make, find)).toBe('stored')
  })

  test('is the answer where it is there, on disk; nothing where another’s stands; other troubles come through', async () => {
    const before = await repeats()
    expect(await storeOnce(records(), taken, async () => 'first')).toBe('first')
    expect(await repeats()).toBe(before + 1)
    const make = jest.fn().mockImplementation(taken)
    expect(await storeOnce(records(), make, async () => undefined)).toBeUndefined()
    expect(make).toHaveBeenCalledTimes(2)
    await expect(storeOnce(records(), jest.fn().mockRejectedValue(new Error('away')), async () => 'first')).rejects.toThrow('away')
  })

  test('is not made twice where the statement took no part', async () => {
    const make = jest.fn().mockResolvedValue(false)
    expect(await storeOnce(records(), make, async () => undefined)).toBeUndefined()
    expect(make).toHaveBeenCalledTimes(1)
  })

  test('an id that belongs to something else is refused as such, a name that is taken by its field', async () => {
    const person = { id: kitchen.cook.personId, name: 'Somebody new', role: 'cook', secret: '4712' }
    const twin = { ...person, name: 'Twin', signInName: 'Twin', secretHash: null, role: 'cook' } as const
    const elsewhere = randomUUID()
    await test_.db.of(kitchen.kitchenId).people.create({ ...twin, id: randomUUID() })
    await test_.db.of(await addKitchen(test_.db, 'Elsewhere')).people.create({ ...twin, id: elsewhere })
    expect((await kitchen.manager.ask('POST', '/people', { ...person, id: kitchen.itemId, name: 'Twin' })).body).toMatchObject({
      type: 'urn:fleam:problem:name-in-use',
      errors: [{ field: 'name' }],
    })
    expect((await kitchen.manager.ask('POST', '/people', { ...person, id: elsewhere })).body.type).toBe('urn:fleam:problem:id-in-use')
  })
})

describe('another transaction that stands in the way', () => {
  const trouble = (errno: number) => new DatabaseError(Object.assign(new Error('in the way'), { errno, sql: '' }))

  test.each([1213, 1047])('%i: it is done again, a bounded number of times', async (errno) => {
    const work = jest.fn().mockRejectedValueOnce(trouble(errno)).mockRejectedValueOnce(trouble(errno)).mockResolvedValue('done')
    expect(await retried(work)).toBe('done')
    const hopeless = jest.fn().mockRejectedValue(trouble(errno))
    await expect(retried(hopeless)).rejects.toThrow('in the way')
    expect(hopeless).toHaveBeenCalledTimes(6)
    const other = jest.fn().mockRejectedValue(trouble(1062))
    await expect(retried(other)).rejects.toThrow()
    expect(other).toHaveBeenCalledTimes(1)
    // who has waited for a lock as long as is waited is told
    const waited = jest.fn().mockRejectedValue(trouble(1205))
    await expect(retried(waited)).rejects.toThrow()
    expect(waited).toHaveBeenCalledTimes(1)
  })

  test('two that lock each other’s rows are both done', async () => {
    const records = test_.db.of(kitchen.kitchenId)
    const [a, b] = [kitchen.itemId, kitchen.readyCutId]
    const both = (first: string, second: string) =>
      records.transaction(async (tx) => {
        await tx.items.lock({ id: first })
        await new Promise((resolve) => setTimeout(resolve, 60))
        await tx.items.lock({ id: second })
        return 'done'
      })
    expect(await Promise.all([both(a, b), both(b, a)])).toEqual(['done', 'done'])
  })

  test('runs are received and weighed while items, suppliers and people are saved: no answer is a fault', async () => {
    const answers: number[] = []
    const keep = async (answer: Promise<{ status: number }>) => answers.push((await answer).status)
    const save = async (turn: number) => {
      const { body } = await kitchen.manager.ask('GET', '/items')
      const item = (body.entries as unknown as { id: string; version: number; name: string }[]).find(({ id }) => id === kitchen.itemId)
      const change = { ...item, version: item?.version, kind: 'whole', animal: 'beef', readyCut: null, againstId: kitchen.readyCutId }
      await keep(kitchen.manager.ask('PUT', `/items/${kitchen.itemId}`, change))
      await keep(kitchen.manager.ask('PUT', `/suppliers/${kitchen.supplierId}`, { version: turn, name: `Harrow ${turn}` }))
    }
    const receive = async () => {
      const request = runRequest(kitchen)
      await keep(kitchen.cook.ask('POST', '/runs', request))
      const { body } = await kitchen.cook.ask('GET', `/runs/${request.id}`)
      const tubs = body.tubs as unknown as { id: string }[]
      const line = weighingRequest(tubs[0]?.id ?? '')
      await Promise.all([1, 2].map(() => keep(kitchen.cook.ask('POST', `/runs/${request.id}/weighings`, line))))
      await keep(kitchen.cook.ask('POST', `/runs/${request.id}/finish`, { version: 1, minutes: 9, unaccountedReason: 'a test' }))
    }
    for (let turn = 1; turn <= 6; turn += 1) await Promise.all([save(turn), receive(), receive(), receive()])
    expect(answers.filter((status) => status >= 500)).toEqual([])
    expect(answers.filter((status) => status === 201 || status === 200).length).toBeGreaterThan(70)
  })
})
