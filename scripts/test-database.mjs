import { spawnSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { closeSync, openSync } from 'node:fs'

/**
 * An empty database of its own on a server, that of the tests unless given, or one with the demo kitchen that the run of the tests
 * keeps in a file.
 * @returns its address, and `drop()`
 */
export function makeTestDatabase({ demo = false, server = process.env.FLEAM_TEST_DATABASE } = {}) {
  const file = process.env.FLEAM_TEST_DEMO
  if (!server || (demo && !file)) throw new Error('Run the tests with npm test, which starts their database.')
  const name = `fleam_test_${randomUUID().replaceAll('-', '')}`
  askDatabase(server, ['-e', `CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`])
  if (demo) {
    const input = openSync(file, 'r')
    askDatabase(server, [name], { input })
    closeSync(input)
  }
  return { url: `${server}${name}`, drop: () => askDatabase(server, ['-e', `DROP DATABASE ${name}`]) }
}

/** Runs MariaDB's client, or another of its programs, on the server of an address. */
export function askDatabase(server, given, { program = 'mariadb', input = 'ignore', output = 'ignore' } = {}) {
  const { hostname, port, username, password } = new URL(server)
  const { status, stderr } = spawnSync(program, ['--no-defaults', `--host=${hostname}`, `--port=${port}`, `--user=${username}`, ...given], {
    env: { ...process.env, MYSQL_PWD: password },
    encoding: 'utf8',
    stdio: [input, output, 'pipe'],
  })
  if (status !== 0) throw new Error(`${program} on the database of the tests: ${stderr.trim()}`)
}
