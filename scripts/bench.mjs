import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBuilt, isOurs } from './build.mjs'
import { runMain } from './fail.mjs'
import { startMariadb } from './mariadb.mjs'
import { ensurePackages, ensureProgram, root } from './programs.mjs'

/** `npm run bench` measures what must be fast as ratios in one run; `-- --large` adds the log over 100,000 runs. */
await runMain(async () => {
  ensurePackages()
  ensureProgram('/usr/bin/chromium')
  await ensureBuilt()
  const { build } = await import('rolldown')
  await build({
    input: join(root, 'bench/main.ts'),
    platform: 'node',
    external: (id) => !isOurs(id),
    cwd: root,
    output: { file: join(root, '.cache/bench.js'), format: 'esm', sourcemap: true, codeSplitting: false },
    logLevel: 'warn',
  })
  const scratch = mkdtempSync(join(tmpdir(), 'fleam-bench-'))
  const database = await startMariadb({ dataDirectory: join(scratch, 'data') })
  try {
    await database.ready()
    const env = { ...process.env, DATABASE_URL: database.url, FLEAM_BENCH_SCRATCH: scratch, NODE_ENV: 'production' }
    const { status } = spawnSync(process.execPath, ['--enable-source-maps', join(root, '.cache/bench.js'), ...process.argv.slice(2)], {
      cwd: root,
      env,
      stdio: 'inherit',
    })
    process.exitCode = status ?? 1
  } finally {
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
})
