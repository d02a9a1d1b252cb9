import type { QueryInterface } from 'sequelize'
import type { Database } from './database.ts'
import { withLease } from './lease.ts'
import { kitchenAndPrices } from './migrations/001-kitchen-and-prices.ts'
import { cutSheetsAndRuns } from './migrations/002-cut-sheets-and-runs.ts'
import { catalogFingerprint } from './migrations/003-catalog-fingerprint.ts'
import { bench } from './migrations/004-bench.ts'
import { plans } from './migrations/005-plans.ts'
import { yieldBook } from './migrations/006-yield-book.ts'
import { models } from './migrations/007-models.ts'
import { servedWeights } from './migrations/008-served-weights.ts'
import { loadsAndReasons } from './migrations/009-loads-and-reasons.ts'
import { pieces } from './migrations/010-pieces.ts'
import { signingIn } from './migrations/011-signing-in.ts'
import { walkIn } from './migrations/012-walk-in.ts'
import { printingAndSheets } from './migrations/013-printing-and-sheets.ts'
import { theDoor } from './migrations/014-the-door.ts'
import { theSchedule } from './migrations/015-the-schedule.ts'
import { practice } from './migrations/016-practice.ts'
import { theSchool } from './migrations/017-the-school.ts'
import { severalKitchens } from './migrations/018-several-kitchens.ts'
import type { SchemaStep } from './migrations/schema-step.ts'

export const migrations: readonly SchemaStep[] = [
  kitchenAndPrices,
  cutSheetsAndRuns,
  catalogFingerprint,
  bench,
  plans,
  yieldBook,
  models,
  servedWeights,
  loadsAndReasons,
  pieces,
  signingIn,
  walkIn,
  printingAndSheets,
  theDoor,
  theSchedule,
  practice,
  theSchool,
  severalKitchens,
]

/**
 * Brings the schema up to date. Several servers may start at once: one migrates, the others wait for it. A step that was
 * interrupted is taken up again.
 * @param upTo name of the last migration to run; all unless given
 */
export async function migrate(db: Database, upTo?: string): Promise<void> {
  if (await isUpToDate(db)) return
  // most starts have nothing to migrate, and do without what migrates
  const { SequelizeStorage, Umzug } = await import('umzug')
  const { sequelize } = db
  const umzug = new Umzug({
    migrations: migrations.map(({ name, statements }) => ({
      name,
      up: ({ context }: { context: QueryInterface }) => run(context, statements),
    })),
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ model: sequelize.model('migration') }),
    logger: undefined,
  })
  await withLease(db, 'migrations', () => umzug.up(upTo === undefined ? {} : { to: upTo }))
}

async function isUpToDate({ sequelize, acrossKitchens }: Database): Promise<boolean> {
  if (!(await sequelize.getQueryInterface().tableExists('migrations'))) return false
  const taken = new Set((await acrossKitchens.migrations.findAll({ raw: true })).map(({ name }) => name))
  return migrations.every(({ name }) => taken.has(name))
}

async function run(schema: QueryInterface, statements: SchemaStep['statements']): Promise<void> {
  if (typeof statements === 'function') return statements(schema)
  for (const statement of statements) await schema.sequelize.query(statement)
}
