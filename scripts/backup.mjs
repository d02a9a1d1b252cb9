import { spawn } from 'node:child_process'
import { createReadStream, createWriteStream, existsSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs'
import { open } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import { PassThrough, Transform, Writable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { parseArgs } from 'node:util'
import { createGunzip, createGzip } from 'node:zlib'
import { isSealed, openSeal, seal } from './backup-seal.mjs'
import { runMain, Trouble } from './fail.mjs'
import { databaseForTools } from './mariadb.mjs'
import { ensurePackages, ensureProgram } from './programs.mjs'

/**
 * `npm run backup [file]` writes the whole database into one compressed file, as it stood at one moment, while the kitchen
 * works; with FLEAM_BACKUP_PASSPHRASE set it is encrypted. `npm run backup -- about file` says what is in one.
 * `npm run restore file` reads one into an empty database; with `--until 2026-03-14T09:30:00Z --binlog folder` after it what was changed
 * since, up to that moment, from the binary log.
 */
const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: { until: { type: 'string' }, binlog: { type: 'string' } },
})
const [what, ...given] = positionals
const passphrase = process.env.FLEAM_BACKUP_PASSPHRASE

/** First and last words of a backup: what is in it, and that it is whole. */
const firstWords = '-- Fleam backup '
const lastWords = '-- Dump completed'
/** Stands in the database for as long as a restore is under way; the server does not start on it. */
const mark = 'unfinished_restore'

await runMain(async () => {
  ensurePackages()
  const [first, second] = given
  if (what === 'restore') await restore(first, laterChanges(values))
  else if (first === 'about') await about(second)
  else await backup(first ?? `fleam-backup-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}.sql.gz`)
})

async function backup(name) {
  const file = resolve(name)
  if (existsSync(file)) throw new Trouble(`${file} is there already: name another file.`)
  ensureProgram('/usr/bin/mariadb-dump')
  const database = await databaseForTools()
  const part = `${file}.part`
  try {
    const contents = await withConnection(database.url, contentsOf)
    const hasBinlog = await withConnection(database.url, async (connection) => (await connection.query('SELECT @@log_bin AS isOn'))[0].isOn)
    const dump = run('/usr/bin/mariadb-dump', database.url, [
      '--single-transaction',
      '--skip-lock-tables',
      '--no-tablespaces',
      '--hex-blob',
      ...(hasBinlog ? ['--master-data=2'] : []),
    ])
    const sealed = passphrase ? [await seal(passphrase)] : []
    rmSync(part, { force: true })
    await pipeline(
      dump.child.stdout,
      beginning(`${firstWords}${JSON.stringify(contents)}\n`),
      createGzip(),
      ...sealed,
      createWriteStream(part, { mode: 0o600 }),
    )
    await dump.ended
    await flush(part)
    renameSync(part, file)
    await withConnection(database.url, noteBackup)
    process.stdout.write(
      `Kept in ${file}${passphrase ? ', encrypted' : ''}, ${Math.ceil(statSync(file).size / 1024)} kB: ${inWords(contents)}.\n`,
    )
  } finally {
    rmSync(part, { force: true })
    await database.close()
  }
}

async function about(name) {
  const { contents } = await verified(fileNamed(name))
  process.stdout.write(`${resolve(name)}: ${inWords(contents)}.\n`)
}

/** Up to when changes are read again after a backup, and from where. */
function laterChanges({ until, binlog }) {
  if (until === undefined && binlog === undefined) return undefined
  if (until === undefined || binlog === undefined) throw new Trouble('Give both: --until 2026-03-14T09:30:00Z and --binlog folder.')
  const moment = new Date(until)
  if (Number.isNaN(moment.getTime()) || !/(Z|[+-]\d\d:\d\d)$/.test(until))
    throw new Trouble(`“${until}” is no moment with its offset, such as 2026-03-14T09:30:00Z.`)
  if (!existsSync(binlog)) throw new Trouble(`There is no folder ${resolve(binlog)}.`)
  return { moment, folder: resolve(binlog) }
}

/** Files of the binary log from the one that a backup names, each with where in it to begin. */
function logsFrom({ log, position }, folder) {
  const files = readdirSync(folder)
    .filter((file) => /^[\w-]+\.\d{6,}$/.test(file) && file >= log)
    .sort()
  if (files[0] !== log) throw new Trouble(`The binary log ${log}, from which the backup goes on, is no longer in ${folder}.`)
  return [`--start-position=${position}`, ...files.map((file) => join(folder, file))]
}

async function restore(name, later) {
  const file = fileNamed(name)
  ensureProgram('/usr/bin/mariadb')
  const { contents, stood } = await verified(file)
  if (later && !stood) throw new Trouble(`${file} was made without a binary log: it can be restored as it is, without --until.`)
  if (later && contents.madeAt && later.moment < new Date(contents.madeAt))
    throw new Trouble(`${file} was made after ${later.moment.toISOString()}: restore an older one.`)
  const logs = later && logsFrom(stood, later.folder)
  const database = await databaseForTools()
  try {
    await withConnection(database.url, async (connection) => {
      await refuseFullDatabase(connection)
      await connection.query(`CREATE TABLE ${mark} (file VARCHAR(300) NOT NULL PRIMARY KEY)`)
    })
    // the client runs no line of a dump that would reach files or a shell
    const client = run('/usr/bin/mariadb', database.url, ['--sandbox'])
    await Promise.all([pipeline(await plain(file), client.child.stdin).catch(() => undefined), client.ended])
    if (later) await replay(database.url, logs, contents.database ?? 'fleam', later.moment)
    await withConnection(database.url, (connection) => connection.query(`DROP TABLE ${mark}`))
  } finally {
    await database.close()
  }
  process.stdout.write(
    `Restored from ${file}: ${inWords(contents)}${later ? `, and what was changed until ${later.moment.toISOString()}` : ''}. Start Fleam with npm start.\n`,
  )
}

/** Does again what was changed since a backup. */
async function replay(url, logs, from, moment) {
  ensureProgram('/usr/bin/mariadb-binlog')
  const to = new URL(url).pathname.slice(1)
  const until = moment.toISOString().slice(0, 19).replace('T', ' ')
  const rewritten = to === from ? [] : [`--rewrite-db=${from}->${to}`]
  // moments of its options are of the machine's zone
  const env = { ...process.env, TZ: 'UTC' }
  const reader = watched(
    spawn('/usr/bin/mariadb-binlog', ['--no-defaults', `--stop-datetime=${until}`, ...rewritten, `--database=${from}`, ...logs], { env }),
  )
  // a log that ends before the moment holds all there is
  const read = reader.ended.catch((error) => {
    if (!/Did not reach stop datetime/.test(error.message)) throw error
  })
  const client = run('/usr/bin/mariadb', url, ['--sandbox', '--binary-mode'])
  await Promise.all([pipeline(reader.child.stdout, client.child.stdin).catch(() => undefined), read, client.ended])
}

function fileNamed(name) {
  if (!name) throw new Trouble('Say which file to read: npm run restore -- fleam-backup.sql.gz')
  const file = resolve(name)
  if (!existsSync(file)) throw new Trouble(`There is no file ${file}.`)
  return file
}

/** The lines of a backup, decrypted and unpacked. */
async function plain(file) {
  const sealed = await isSealed(file)
  if (sealed && !passphrase) throw new Trouble(`${file} is encrypted: set FLEAM_BACKUP_PASSPHRASE to what it was made with.`)
  const lines = new PassThrough()
  const opened = sealed ? [await openSeal(file, passphrase)] : [createReadStream(file)]
  pipeline(...opened, createGunzip(), lines).catch((error) => lines.destroy(error))
  return lines
}

/** Reads a backup from end to end before anything is made of it. @returns what is in it, and where the binary log stood, where it says so */
async function verified(file) {
  let start = ''
  let end = ''
  const look = new Writable({
    write(chunk, _encoding, done) {
      const text = chunk.toString('latin1')
      if (start.length < 4096) start += text
      end = (end + text).slice(-400)
      done()
    },
  })
  try {
    await pipeline(await plain(file), look)
  } catch (error) {
    if (error instanceof Trouble) throw error
    if (await isSealed(file)) throw new Trouble(`${file} does not open with that passphrase, or was changed.`)
    throw new Trouble(`${file} is not a backup of Fleam, or only a part of one.`)
  }
  if (!end.includes(lastWords)) throw new Trouble(`${file} is not a backup of Fleam, or only a part of one.`)
  const [line] = start.split('\n')
  const contents = line.startsWith(firstWords) ? JSON.parse(Buffer.from(line.slice(firstWords.length), 'latin1').toString('utf8')) : {}
  const [, log, position] = /^-- CHANGE MASTER TO MASTER_LOG_FILE='([\w.-]+)', MASTER_LOG_POS=(\d+)/m.exec(start) ?? []
  return { contents, stood: log ? { log, position } : undefined }
}

function inWords({ madeAt, kitchens, runs, weighings, people }) {
  if (!madeAt) return 'an older backup, which does not say what is in it'
  return `${kitchens.join('; ')}, ${people} people, ${runs} runs, ${weighings} weighings, as on ${madeAt}`
}

async function contentsOf(connection) {
  const count = async (table) => Number((await connection.query(`SELECT COUNT(*) AS n FROM ${table}`))[0].n)
  const kitchens = (await connection.query('SELECT name FROM kitchens ORDER BY name')).map(({ name }) => name)
  const [people, runs, weighings] = [await count('people'), await count('runs'), await count('weighings')]
  const [{ name: schema }] = await connection.query('SELECT MAX(name) AS name FROM migrations')
  const [{ database }] = await connection.query('SELECT DATABASE() AS `database`')
  return { madeAt: new Date().toISOString(), database, schema, kitchens, people, runs, weighings }
}

/** Every kitchen's managers see that its data was taken out. */
async function noteBackup(connection) {
  await connection
    .query(
      "INSERT INTO security_events (kitchen_id, at, kind, person_id, address, about) SELECT id, UTC_TIMESTAMP(3), 'backed up', NULL, 'this machine', ? FROM kitchens",
      [passphrase ? 'encrypted' : 'not encrypted'],
    )
    .catch(() => process.stderr.write('This schema is older than the list of backups: start Fleam once to bring it up to date.\n'))
}

async function flush(file) {
  const handle = await open(file, 'r+')
  await handle.sync()
  await handle.close()
}

/** Puts words before everything else. */
function beginning(words) {
  let isFirst = true
  return new Transform({
    transform(chunk, _encoding, done) {
      if (isFirst) this.push(words)
      isFirst = false
      done(null, chunk)
    },
  })
}

async function withConnection(url, work) {
  const { createConnection } = await import('mariadb')
  const { hostname, port, username, password, pathname } = new URL(url)
  const connection = await createConnection({
    host: hostname,
    port: Number(port || 3306),
    user: decodeURIComponent(username),
    password: decodeURIComponent(password),
    database: pathname.slice(1),
  })
  try {
    return await work(connection)
  } finally {
    await connection.end()
  }
}

async function refuseFullDatabase(connection) {
  const tables = (await connection.query('SHOW TABLES')).map((row) => Object.values(row)[0])
  if (tables.includes(mark))
    throw new Trouble(
      'A restore into this database was not finished: restore into an empty one, with FLEAM_DATA set to a new folder, or DATABASE_URL.',
    )
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
  return watched(child)
}

function watched(child) {
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
