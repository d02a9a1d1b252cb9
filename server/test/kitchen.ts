import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { type KitchenSettings, usualCutting, usualIdle, usualLimits, usualPlace, usualWalkIn } from '@fleam/contract/kitchen'
import type { PersonRole } from '@fleam/contract/roles'
import type { FastifyInstance, InjectOptions } from 'fastify'
import { QueryTypes } from 'sequelize'
import { makeTestDatabase } from '../../scripts/test-database.mjs'
import { buildApp } from '../src/app.ts'
import { type Database, openDatabase } from '../src/db/database.ts'
import { migrate } from '../src/db/migrate.ts'
import { listCutSheets } from '../src/features/cut-sheets/service.ts'
import { hashSecret } from '../src/features/people/secrets.ts'
import { createKitchen } from '../src/features/setup/service.ts'
import { openHeavyWork } from '../src/heavy-work.ts'

export const settings: KitchenSettings = {
  ...usualPlace,
  currency: 'EUR',
  weightSystem: 'metric',
  labour: { ratePerHour: 19.5, onCostPct: 12 },
  disposalPerKg: 0.18,
  cutting: usualCutting,
  limits: usualLimits,
  signedOutAfter: usualIdle,
  walkIn: usualWalkIn,
  scales: [],
  printers: [],
}

export interface TestApp {
  app: FastifyInstance
  db: Database
  url: string
  close(): Promise<void>
}

export async function openTestApp({ migrated = true } = {}): Promise<TestApp> {
  const { url, drop } = makeTestDatabase()
  const db = openDatabase(url, { connections: 4 })
  if (migrated) await migrate(db)
  const heavyWork = openHeavyWork(join(__dirname, '../dist/heavy-work-thread.js'), url)
  const app = await buildApp({ db, heavyWork })
  return {
    app,
    db,
    url,
    async close() {
      await app.close()
      await heavyWork.close()
      await db.close()
      drop()
    },
  }
}

export type Answer = {
  status: number
  body: Record<string, never> & { errors?: { field: string; message: string }[]; type?: string }
  headers: Record<string, unknown>
}

/** A person of a kitchen, who asks the API things. */
export interface Asker {
  personId: string
  kitchenId: string
  cookie: string
  ask(method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<Answer>
}

const secret = 'a-long-secret'
/** Made once: hashing is slow on purpose. */
let secretHash: Promise<string> | undefined

/** Makes a person of a role and signs them in. */
export async function addPerson(
  { app, db }: TestApp,
  kitchenId: string,
  role: PersonRole,
  name = `${role} ${randomUUID().slice(0, 8)}`,
): Promise<Asker> {
  const personId = randomUUID()
  secretHash ??= hashSecret(secret)
  await db
    .of(kitchenId)
    .people.create({ id: personId, name, signInName: name, role, secretHash: await secretHash, secretKind: 'passphrase' })
  const signedIn = await app.inject({ method: 'POST', url: '/api/v1/session', payload: { name, secret, kitchen: kitchenId } })
  const cookie = String(signedIn.headers['set-cookie']).split(';')[0] ?? ''
  const ask: Asker['ask'] = async (method, path, body) => {
    const options: InjectOptions = { method, url: `/api/v1${path}`, headers: { cookie } }
    const response = await app.inject(body === undefined ? options : { ...options, payload: body as object })
    const isJson = String(response.headers['content-type']).includes('json') && response.body !== ''
    return { status: response.statusCode, body: isJson ? response.json() : (response.body as never), headers: response.headers }
  }
  return { personId, kitchenId, cookie, ask }
}

export interface Stocked {
  kitchenId: string
  itemId: string
  readyCutId: string
  supplierId: string
  cutSheetId: string
  student: Asker
  cook: Asker
  instructor: Asker
  lead: Asker
  manager: Asker
}

/** A kitchen with the catalog's cut sheets and nothing else. */
export function addKitchen({ acrossKitchens }: Database, name: string): Promise<string> {
  return acrossKitchens.transaction((tx) => createKitchen(tx, { name, settings, isDemo: false }))
}

/** Rows of a SELECT, to hold against what the application says. */
export function rowsOf<Row extends object>(
  { sequelize }: Database,
  sql: string,
  replacements: Record<string, unknown> = {},
): Promise<Row[]> {
  return sequelize.query<Row>(sql, { type: QueryTypes.SELECT, replacements })
}

/** A kitchen with people of each role, a tenderloin that has a price, and a ready-cut steak to set it against. */
export async function stockKitchen(test: TestApp, name = 'Test kitchen'): Promise<Stocked> {
  const kitchenId = await addKitchen(test.db, name)
  const [student, cook, instructor, lead, manager] = await Promise.all([
    addPerson(test, kitchenId, 'student'),
    addPerson(test, kitchenId, 'cook'),
    addPerson(test, kitchenId, 'instructor'),
    addPerson(test, kitchenId, 'lead'),
    addPerson(test, kitchenId, 'manager'),
  ])
  const [supplierId, itemId, readyCutId] = [randomUUID(), randomUUID(), randomUUID()]
  await manager.ask('POST', '/suppliers', { id: supplierId, name: 'Harrow & Fenn' })
  const readyCut = { portion: '180 g', trimPct: 1, lossPct: 2, feePerOrder: 12, portionsPerOrder: 60 }
  await manager.ask('POST', '/items', {
    id: readyCutId,
    name: 'Steak, ready-cut',
    kind: 'ready-cut',
    animal: 'beef',
    readyCut,
    againstId: null,
  })
  await manager.ask('POST', '/items', {
    id: itemId,
    name: 'Tenderloin',
    kind: 'whole',
    animal: 'beef',
    readyCut: null,
    againstId: readyCutId,
  })
  const quotedOn = '2026-01-05'
  await manager.ask('POST', `/items/${itemId}/quotes`, { id: randomUUID(), supplierId, price: { amount: 31.4, per: 'kg' }, quotedOn })
  await manager.ask('POST', `/items/${readyCutId}/quotes`, { id: randomUUID(), supplierId, price: { amount: 10.9, per: 'each' }, quotedOn })
  const sheets = await listCutSheets(test.db.of(kitchenId), '', 1000)
  const sheet = sheets.find((other) => other.slug === 'beef-tenderloin-traditional')
  return { kitchenId, itemId, readyCutId, supplierId, cutSheetId: sheet?.id ?? '', student, cook, instructor, lead, manager }
}

/** An app and a stocked kitchen for the tests of a file: both are filled in before the first and gone after the last. */
export function stockedKitchen(): { test_: TestApp; kitchen: Stocked } {
  const [test_, kitchen] = [{} as TestApp, {} as Stocked]
  beforeAll(async () => {
    Object.assign(test_, await openTestApp())
    Object.assign(kitchen, await stockKitchen(test_))
  })
  afterAll(() => test_.close())
  return { test_, kitchen }
}

/** A comparison of the kitchen's steaks with its ready-cut ones, as it is kept. */
export function comparisonBody(stocked: Stocked, changes: object = {}) {
  return {
    itemId: stocked.itemId,
    cutSheetId: stocked.cutSheetId,
    outputKey: 'centre-steak',
    readyCutIds: [stocked.readyCutId],
    changed: {},
    byproducts: 'market',
    mains: 'together',
    idleHands: false,
    pricesMove: false,
    leftOver: 'used',
    supplierId: null,
    cookId: null,
    ...changes,
  }
}

export function runRequest(stocked: Stocked, changes: Record<string, unknown> = {}) {
  return {
    id: randomUUID(),
    itemId: stocked.itemId,
    cutSheetId: stocked.cutSheetId,
    supplierId: stocked.supplierId,
    lot: '14-B',
    billed: '2950 g',
    received: '2936 g',
    coreTempC: 2.8,
    target: '180 g',
    startedAt: new Date().toISOString(),
    ...changes,
  }
}

export function weighingRequest(tubId: string, weight = '184 g', changes: Record<string, unknown> = {}) {
  return { id: randomUUID(), tubId, weight, weighedAt: new Date().toISOString(), ...changes }
}

export interface FinishedRun {
  id: string
  version: number
}

interface FinishedRunOptions {
  steaks: readonly string[]
  received: string
  minutes: number
  leaveOutStep?: number
  takeBackLast?: boolean
  startedAt?: string
}

/** A run of the kitchen's tenderloin from receiving to its end: so many steaks, the rest into the last tub. */
export async function finishedRun(
  stocked: Stocked,
  { steaks, received, minutes, leaveOutStep, takeBackLast = false, startedAt = new Date().toISOString() }: FinishedRunOptions,
): Promise<FinishedRun> {
  const { cook } = stocked
  const started = await cook.ask('POST', '/runs', runRequest(stocked, { received, billed: received, startedAt, weightsChecked: true }))
  const run = started.body as unknown as FinishedRun & { tubs: { id: string; key: string }[] }
  const put = (tubId: string, weight: string) => cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(tubId, weight))
  let last = ''
  for (const steak of steaks) last = String((await put(run.tubs[0]?.id ?? '', steak)).body.id)
  if (takeBackLast) {
    await cook.ask('POST', `/runs/${run.id}/reversals`, { id: randomUUID(), reversesId: last, weighedAt: new Date().toISOString() })
  }
  if (leaveOutStep !== undefined) {
    const what = { kind: 'optional-step', step: leaveOutStep, done: false }
    await cook.ask('POST', `/runs/${run.id}/bench-events`, { id: randomUUID(), what, at: new Date().toISOString() })
  }
  const finish = { version: run.version, minutes, consumables: 0.6, unaccountedReason: 'The rest was not weighed' }
  const finished = await cook.ask('POST', `/runs/${run.id}/finish`, finish)
  if (finished.status !== 200) throw new Error(`The run could not be finished: ${JSON.stringify(finished.body)}`)
  return finished.body as unknown as FinishedRun
}
