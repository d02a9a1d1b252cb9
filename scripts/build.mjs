import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './programs.mjs'

const sources = ['core/src', 'contract/src', 'catalog', 'server/src', 'web/src', 'web/public']
const files = ['package-lock.json', 'web/index.html', 'web/service-worker.js', 'web/vite.config.ts', 'scripts/build.mjs']
const built = ['server/dist/serve.cjs', 'server/dist/scale.js', 'server/dist/heavy-work-thread.js', 'web/dist/index.html']
/** Packages that are loaded when first needed, or that find their files beside themselves. */
const unbundled = ['piscina', 'umzug', 'pdfkit', 'papaparse', 'jsonc-parser']

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

async function buildServer() {
  const { build } = await import('rolldown')
  const dist = join(root, 'server/dist')
  rmSync(dist, { recursive: true, force: true })
  const common = { platform: 'node', cwd: join(root, 'server'), external: unbundled, logLevel: 'silent' }
  await build({
    ...common,
    input: join(root, 'server/src/serve.ts'),
    output: {
      dir: dist,
      format: 'cjs',
      entryFileNames: 'serve.cjs',
      codeSplitting: false,
      dynamicImportInCjs: false,
      minify: { compress: true, mangle: { keepNames: true } },
    },
  })
  await build({ ...common, input: join(root, 'server/src/heavy-work-thread.ts'), output: { dir: dist, format: 'esm' } })
  await build({
    ...common,
    input: join(root, 'server/src/simulated-scale/main.ts'),
    output: { dir: dist, format: 'esm', entryFileNames: 'scale.js', codeSplitting: false },
  })
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
