import { spawn, spawnSync } from 'node:child_process'
import { closeSync, existsSync, mkdtempSync, openSync, readFileSync, rmSync, statfsSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { assault } from './assault.mjs'
import { ensureBuilt } from './build.mjs'
import { runMain, Trouble } from './fail.mjs'
import { ensureGalera } from './galera.mjs'
import { healthy } from './healthy.mjs'
import { freePort, startMariadb } from './mariadb.mjs'
import { ensurePackages, ensureProgram, root } from './programs.mjs'
import { soak } from './soak.mjs'
import { soakCluster } from './soak-cluster.mjs'
import { soakUpgrade } from './soak-upgrade.mjs'
import { askDatabase } from './test-database.mjs'

/** Seconds of random kills that the ledger must come through on every run of the tests, on one database and on a cluster. */
const soakSeconds = 45
const clusterSeconds = 20

/** Seconds of requests that nobody means, the same ones on every run of the tests. */
const assaultSeconds = 45
const assaultSeed = 4

/** Bytes of memory that the databases of the tests may have. */
const leastMemory = 4 * 2 ** 30

/** `npm test` runs everything; `npm test -- jest runs` or `npm test -- e2e bench` only what the words name. */
const [only, ...words] = process.argv.slice(2)

await runMain(async () => {
  ensurePackages()
  const counts = []
  if (!only) counts.push(check('lint', ['biome', 'check', '.']), check('types', ['tsc', '--noEmit']))
  await ensureBuilt()
  if (only !== 'jest') ensureProgram('/usr/bin/chromium')
  ensureProgram('/usr/bin/mariadb')
  ensureProgram('/usr/bin/mariadb-dump')
  const scratch = mkdtempSync(join(roomyFolder(), 'fleam-test-'))
  const database = await startMariadb({ dataDirectory: join(scratch, 'data'), databases: 'fleam\\_test\\_%' })
  try {
    await database.ready()
    const env = { ...process.env, FLEAM_TEST_DATABASE: database.url.replace(/\/fleam$/, '/'), FLEAM_TEST_SCRATCH: scratch }
    const browserOrJest = !['soak', 'assault'].includes(only)
    if (browserOrJest && needsDemo()) env.FLEAM_TEST_DEMO = await keepDemo(env.FLEAM_TEST_DATABASE, join(scratch, 'demo.sql'))
    if (only !== 'e2e' && browserOrJest) counts.push(await runJest(env, scratch))
    if (only !== 'jest' && browserOrJest) counts.push(await runPlaywright(env, scratch))
    if (!only || only === 'soak') {
      counts.push(await runSoak())
      counts.push(await runOther('soak on a cluster', () => soakCluster(clusterSeconds), ensureGalera))
      counts.push(await runOther('soak of an upgrade', soakUpgrade))
    }
    if (!only || only === 'assault') counts.push(await runAssault())
  } finally {
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
  const passed = counts.reduce((sum, count) => sum + count.passed, 0)
  const failed = counts.reduce((sum, count) => sum + count.failed, 0)
  process.exitCode = failed === 0 && passed > 0 ? 0 : 1
  process.stdout.write(`${passed} passed, ${failed} failed\n`)
})

/** Browser tests stand on the demo kitchen, and those that draw the pages without a browser. */
function needsDemo() {
  return only !== 'jest' || words.length === 0 || words.some((word) => word.includes('page'))
}

/** Memory, where there is enough of it: the tests make thousands of tables, which need not outlive a power cut. */
function roomyFolder() {
  const memory = '/dev/shm'
  if (!existsSync(memory)) return tmpdir()
  const { bavail, bsize } = statfsSync(memory)
  return bavail * bsize > leastMemory ? memory : tmpdir()
}

/**
 * Fills a demo kitchen once and keeps it in a file, from which each test's own database is read.
 * @returns the file
 */
async function keepDemo(databases, file) {
  const name = 'fleam_test_demo'
  askDatabase(databases, ['-e', `CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`])
  const ownPort = await freePort()
  const env = { ...process.env, DATABASE_URL: `${databases}${name}`, HOST: '127.0.0.1', PORT: String(ownPort), FLEAM_DEMO: '1' }
  const server = spawn(process.execPath, [join(root, 'server/dist/main.js')], { cwd: root, env, stdio: 'ignore' })
  try {
    await healthy(`http://127.0.0.1:${ownPort}/api/v1`)
  } finally {
    const gone = new Promise((resolve) => server.once('exit', resolve))
    server.kill('SIGTERM')
    await gone
  }
  const output = openSync(file, 'w', 0o600)
  askDatabase(databases, ['--single-transaction', '--no-tablespaces', '--hex-blob', name], { program: 'mariadb-dump', output })
  closeSync(output)
  return file
}

function check(name, command) {
  const { status } = spawnSync('npx', ['--no-install', ...command], { cwd: root, stdio: 'inherit' })
  process.stdout.write(`${name}: ${status === 0 ? 'good' : 'refused'}\n`)
  return { passed: status === 0 ? 1 : 0, failed: status === 0 ? 0 : 1 }
}

function run(command, env) {
  return new Promise((resolve) => {
    const child = spawn('npx', ['--no-install', ...command], { cwd: root, env, stdio: 'inherit' })
    child.once('exit', (code) => resolve(code ?? 1))
  })
}

async function runJest(env, scratch) {
  const report = join(scratch, 'jest.json')
  const code = await run(['jest', '--json', `--outputFile=${report}`, '--maxWorkers=2', ...words], {
    ...env,
    NODE_OPTIONS: '--experimental-vm-modules --no-warnings',
    // the build of the pages has said otherwise
    NODE_ENV: 'test',
  })
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = readReport(report)
  const failed = (numFailedTests ?? 0) + (numRuntimeErrorTestSuites ?? 0)
  return { passed: numPassedTests ?? 0, failed: Math.max(failed, code === 0 ? 0 : 1) }
}

async function runPlaywright(env, scratch) {
  const report = join(scratch, 'playwright.json')
  const code = await run(['playwright', 'test', '--config=e2e/playwright.config.ts', ...words], {
    ...env,
    PLAYWRIGHT_JSON_OUTPUT_FILE: report,
  })
  const { stats, suites } = readReport(report)
  const { expected, unexpected, flaky } = stats ?? {}
  for (const title of (suites ?? []).flatMap(secondTries)) process.stdout.write(`needed a second try: ${title}\n`)
  return { passed: (expected ?? 0) + (flaky ?? 0), failed: Math.max(unexpected ?? 0, code === 0 ? 0 : 1) }
}

/** Titles of the tests of a suite that failed first and then passed. */
function secondTries({ specs = [], suites = [] }) {
  const own = specs.filter((spec) => spec.tests.some((test) => test.status === 'flaky')).map((spec) => spec.title)
  return [...own, ...suites.flatMap(secondTries)]
}

async function runSoak() {
  const { passed, failures } = await soak(soakSeconds)
  process.stdout.write(`soak: ${[`${passed} checks held`, ...failures].join('; ')}\n`)
  return { passed, failed: failures.length }
}

/** A soak that needs what not every machine has: without it, it is said and left out. */
async function runOther(name, work, ensure = () => undefined) {
  try {
    ensure()
    const { words, passed, failures } = await work()
    process.stdout.write(`${name}: ${[`${passed} checks held. ${words}`, ...failures].join('; ')}\n`)
    return { passed, failed: failures.length }
  } catch (error) {
    if (!(error instanceof Trouble)) throw error
    process.stdout.write(`${name}: left out. ${error.message}\n`)
    return { passed: 0, failed: 0 }
  }
}

async function runAssault() {
  const { words, failures } = await assault(assaultSeconds, assaultSeed, 0.02)
  process.stdout.write(`assault: ${[words, ...failures].join('\n')}\n`)
  return { passed: failures.length === 0 ? 1 : 0, failed: failures.length }
}

function readReport(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return {}
  }
}
