import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Trouble } from './fail.mjs'

export const root = join(import.meta.dirname, '..')

const debianPackages = {
  '/usr/sbin/mariadbd': { names: ['mariadb-server-core', 'mariadb-client-core'], what: 'MariaDB’s server' },
  '/usr/bin/my_print_defaults': { names: ['mariadb-server-core', 'mariadb-client-core'], what: 'MariaDB’s tools' },
  '/usr/bin/mariadb-dump': { names: ['mariadb-client'], what: 'MariaDB’s backup program' },
  '/usr/bin/mariadb-binlog': { names: ['mariadb-client'], what: 'MariaDB’s reader of binary logs' },
  '/usr/bin/mariadb': { names: ['mariadb-client-core'], what: 'MariaDB’s client' },
  '/usr/lib/galera/libgalera_smm.so': { names: ['galera-4'], what: 'Galera' },
  '/usr/bin/rsync': { names: ['rsync'], what: 'rsync' },
  '/usr/bin/lsof': { names: ['lsof'], what: 'lsof' },
  '/usr/bin/ip': { names: ['iproute2'], what: 'iproute2' },
  '/usr/bin/chromium': { names: ['chromium'], what: 'the Chromium browser' },
}

/** Installs the Debian packages that hold `program`, if it is not there. Core packages only: no service is set up. */
export function ensureProgram(program) {
  if (existsSync(program)) return
  const { names, what } = debianPackages[program]
  const byHand = `An administrator can: apt-get update && apt-get install ${names.join(' ')}`
  if (!existsSync('/usr/bin/apt-get')) throw new Trouble(`Fleam needs ${what} (${program}), and this machine has no apt-get to install it.`)
  if (process.getuid?.() !== 0) throw new Trouble(`Fleam needs ${what}, and you may not install it. ${byHand}`)
  process.stdout.write(`Installing ${what} …\n`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  for (const args of [
    ['update', '-q'],
    ['install', '-q', '-y', '--no-install-recommends', ...names],
  ]) {
    const result = spawnSync('apt-get', args, { env, encoding: 'utf8' })
    if (result.status !== 0) {
      const reason = `${result.stderr}`.trim().split('\n').at(-1)
      throw new Trouble(`Installing ${what} failed (apt-get ${args[0]}: ${reason}). ${byHand}`)
    }
  }
  if (!existsSync(program)) throw new Trouble(`${names.join(', ')} was installed, but ${program} is still missing.`)
}

/**
 * Installs the npm packages of the lock file, unless they are those that were installed last. `npm install` rather than
 * `npm ci`, which refuses a lock file whose registry lacks the builds for other platforms.
 */
export function ensurePackages() {
  const lock = readFileSync(join(root, 'package-lock.json'), 'utf8')
  const stamp = join(root, 'node_modules', '.fleam-lock')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  process.stdout.write('Installing npm packages …\n')
  const result = spawnSync('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root, encoding: 'utf8' })
  if (result.error) throw new Trouble('Fleam needs npm to install its packages, and it is not on the path.')
  if (result.status !== 0) {
    const reason = result.stderr
      .split('\n')
      .filter((line) => line.startsWith('npm error'))
      .slice(0, 3)
      .join(' ')
    throw new Trouble(`The npm packages could not be installed (${reason.replaceAll('npm error ', '')}).`)
  }
  mkdirSync(join(root, 'node_modules'), { recursive: true })
  writeFileSync(stamp, lock)
}
