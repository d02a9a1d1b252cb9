import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './programs.mjs'

const sources = ['core/src', 'contract/src', 'catalog', 'server/src', 'web/src', 'web/public']
const files = ['package-lock.json', 'web/index.html', 'web/vite.config.ts', 'scripts/build.mjs']
const built = [
  'server/dist/main.js',
  'server/dist/check.js',
  'server/dist/scale.js',
  'server/dist/printer.js',
  'server/dist/supplier.js',
  'server/dist/heavy-work-thread.js',
  'web/dist/index.html',
]

/** Builds the server and the pages, unless nothing they are made of has changed since. */
export async function ensureBuilt() {
  const stampFile = join(root, '.cache/build')
  const stamp = fingerprint()
  const isCurrent =
    existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp && built.every((file) => existsSync(join(root, file)))
  if (isCurrent) return
  process.stdout.write('Building …\n')
  await buildServer()
  await buildWeb()
  mkdirSync(join(root, '.cache'), { recursive: true })
  writeFileSync(stampFile, stamp)
}

/** Our own TypeScript, as JavaScript that Node runs; packages stay where npm put them. `at` is the folder of the whole tree. */
export async function buildServer(at = root) {
  const { build } = await import('rolldown')
  const dist = join(at, 'server/dist')
  rmSync(dist, { recursive: true, force: true })
  await build({
    input: {
      main: join(at, 'server/src/main.ts'),
      check: join(at, 'server/src/check.ts'),
      'heavy-work-thread': join(at, 'server/src/heavy-work-thread.ts'),
      scale: join(at, 'server/src/simulated-scale/main.ts'),
      printer: join(at, 'server/src/simulated-printer/main.ts'),
      supplier: join(at, 'server/src/simulated-supplier/main.ts'),
    },
    cwd: join(at, 'server'),
    platform: 'node',
    external: (id) => !isOurs(id),
    output: { dir: dist, format: 'esm', sourcemap: true },
    logLevel: 'warn',
  })
}

/** Whether an import is of our own code rather than of a package. */
export function isOurs(id) {
  return /^[./\0]/.test(id) || id.startsWith('@fleam/')
}

async function buildWeb() {
  const { build } = await import('vite')
  await build({ root: join(root, 'web'), configFile: join(root, 'web/vite.config.ts'), logLevel: 'warn' })
}

/** Path, size and time of change of every file that goes into the build. */
function fingerprint() {
  const hash = createHash('sha256')
  const add = (path) => {
    const { mtimeMs, size } = statSync(path)
    hash.update(`${path} ${size} ${mtimeMs}\n`)
  }
  for (const folder of sources) {
    if (!existsSync(join(root, folder))) continue
    for (const entry of readdirSync(join(root, folder), { recursive: true, withFileTypes: true })) {
      if (entry.isFile()) add(join(entry.parentPath, entry.name))
    }
  }
  for (const file of files) if (existsSync(join(root, file))) add(join(root, file))
  return hash.digest('hex')
}
