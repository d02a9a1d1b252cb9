import type { Database } from './database.ts'
import { kitchenAndPrices } from './migrations/001-kitchen-and-prices.ts'
import { cutSheetsAndRuns } from './migrations/002-cut-sheets-and-runs.ts'
import { catalogFingerprint } from './migrations/003-catalog-fingerprint.ts'
import { bench } from './migrations/004-bench.ts'
import { plans } from './migrations/005-plans.ts'
import { yieldBook } from './migrations/006-yield-book.ts'

/** A step forward of the schema; there are none back. */
export interface Migration {
  name: string
  statements: readonly string[]
}

export const migrations: readonly Migration[] = [kitchenAndPrices, cutSheetsAndRuns, catalogFingerprint, bench, plans, yieldBook]

/**
 * Brings the schema up to date. Several servers may start at once: one migrates, the others wait for it.
 * @param upTo name of the last migration to run; all unless given
 */
export async function migrate(db: Database, upTo?: string): Promise<void> {
  const applied = await appliedMigrations(db)
  if (migrations.every((migration) => applied.has(migration.name))) return
  await db.transaction(async (tx) => {
    await tx.run("SELECT GET_LOCK(CONCAT(DATABASE(), '.migrations'), 60)")
    try {
      await (await umzugOn(db)).up(upTo === undefined ? {} : { to: upTo })
    } finally {
      await tx.run("SELECT RELEASE_LOCK(CONCAT(DATABASE(), '.migrations'))")
    }
  })
}

/** Loaded only when there is something to migrate: most starts have nothing to. */
async function umzugOn(db: Database) {
  const { Umzug } = await import('umzug')
  return new Umzug({
    migrations: migrations.map(({ name, statements }) => ({
      name,
      up: async () => {
        for (const statement of statements) await db.run(statement)
      },
    })),
    storage: {
      executed: async () => [...(await appliedMigrations(db))],
      logMigration: async ({ name }) => void (await db.run('INSERT INTO migrations (name) VALUES (:name)', { name })),
      unlogMigration: async () => {
        throw new Error('Migrations only go forward.')
      },
    },
    logger: undefined,
  })
}

/** Names of the migrations that have run; makes their table where there is none yet. */
async function appliedMigrations(db: Database): Promise<Set<string>> {
  try {
    return new Set((await db.rows<{ name: string }>('SELECT name FROM migrations')).map((row) => row.name))
  } catch (error) {
    if ((error as { code?: string }).code !== 'ER_NO_SUCH_TABLE') throw error
    await db.run(
      'CREATE TABLE IF NOT EXISTS migrations (name VARCHAR(100) PRIMARY KEY, applied_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)) CHARACTER SET utf8mb4',
    )
    return new Set()
  }
}
