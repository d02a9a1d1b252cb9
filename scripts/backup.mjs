import { spawn } from 'node:child_process'
import { createReadStream, createWriteStream, existsSync, rmSync, statSync } from 'node:fs'
import { resolve } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { createGunzip, createGzip } from 'node:zlib'
import { runMain, Trouble } from './fail.mjs'
import { databaseForTools } from './mariadb.mjs'
import { ensurePackages, ensureProgram } from './programs.mjs'

/**
 * `npm run backup [file]` writes the whole database into one compressed file, as it stood at one moment, while the
 * kitchen works. `npm run restore file` reads one into an empty database.
 */
const [what, given] = process.argv.slice(2)

await runMain(async () => {
  ensurePackages()
  if (what === 'restore') await restore(given)
  else await backup(given ?? `fleam-backup-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}.sql.gz`)
})

async function backup(name) {
  const file = resolve(name)
  if (existsSync(file)) throw new Trouble(`${file} is there already: name another file.`)
  ensureProgram('/usr/bin/mariadb-dump')
  const database = await databaseForTools()
  try {
    const dump = run('/usr/bin/mariadb-dump', database.url, [
      '--single-transaction',
      '--skip-lock-tables',
      '--no-tablespaces',
      '--hex-blob',
    ])
    await pipeline(dump.child.stdout, createGzip(), createWriteStream(file))
    await dump.ended
  } catch (error) {
    rmSync(file, { force: true })
    throw error
  } finally {
    await database.close()
  }
  process.stdout.write(`Kept in ${file}, ${Math.ceil(statSync(file).size / 1024)} kB.\n`)
}

async function restore(name) {
  if (!name) throw new Trouble('Say which file to read: npm run restore -- fleam-backup.sql.gz')
  const file = resolve(name)
  if (!existsSync(file)) throw new Trouble(`There is no file ${file}.`)
  ensureProgram('/usr/bin/mariadb')
  const database = await databaseForTools()
  try {
    await refuseFullDatabase(database.url)
    const client = run('/usr/bin/mariadb', database.url, [])
    try {
      await pipeline(createReadStream(file), createGunzip(), client.child.stdin)
    } catch (error) {
      if (error.code?.startsWith('Z_')) throw new Trouble(`${file} is not a backup of Fleam, or only a part of one.`)
      throw error
    }
    await client.ended
  } finally {
    await database.close()
  }
  process.stdout.write(`Restored from ${file}. Start Fleam with npm start.\n`)
}

async function refuseFullDatabase(url) {
  const { createConnection } = await import('mariadb')
  const { hostname, port, username, password, pathname } = new URL(url)
  const connection = await createConnection({
    host: hostname,
    port: Number(port || 3306),
    user: decodeURIComponent(username),
    password: decodeURIComponent(password),
    database: pathname.slice(1),
  })
  const tables = await connection.query('SHOW TABLES')
  await connection.end()
  if (tables.length > 0) {
    throw new Trouble('The database holds something already. Restore into an empty one: set FLEAM_DATA to a new folder, or DATABASE_URL.')
  }
}

function run(program, url, options) {
  const { hostname, port, username, password, pathname } = new URL(url)
  const child = spawn(
    program,
    [
      '--no-defaults',
      `--host=${hostname}`,
      `--port=${port || 3306}`,
      `--user=${decodeURIComponent(username)}`,
      '--default-character-set=utf8mb4',
      ...options,
      pathname.slice(1),
    ],
    { env: { ...process.env, MYSQL_PWD: decodeURIComponent(password) }, stdio: ['pipe', 'pipe', 'pipe'] },
  )
  let said = ''
  child.stderr.on('data', (chunk) => {
    said += chunk
  })
  const ended = new Promise((done, fail) => {
    child.once('error', fail)
    child.once('close', (code) =>
      code === 0 ? done() : fail(new Trouble(`The database refused: ${said.trim().split('\n').at(-1) || `code ${code}`}`)),
    )
  })
  ended.catch(() => undefined)
  return { child, ended }
}
