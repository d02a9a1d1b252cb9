import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBuilt, isOurs } from './build.mjs'
import { startCluster } from './cluster.mjs'
import { runMain } from './fail.mjs'
import { startMariadb } from './mariadb.mjs'
import { ensurePackages, ensureProgram, root } from './programs.mjs'

/**
 * `npm run bench` measures what must be fast as ratios in one run; `-- --large` adds the log over 100,000 runs. `-- --cluster`
 * measures a cluster of three nodes instead, `-- --growth` how what is waited for grows up to a million runs.
 */
await runMain(async () => {
  const isCluster = process.argv.includes('--cluster')
  ensurePackages()
  if (!isCluster) ensureProgram('/usr/bin/chromium')
  await ensureBuilt()
  const { build } = await import('rolldown')
  await build({
    input: join(root, isCluster ? 'bench/cluster.ts' : 'bench/main.ts'),
    platform: 'node',
    external: (id) => !isOurs(id),
    cwd: root,
    output: { file: join(root, '.cache/bench.js'), format: 'esm', sourcemap: true, codeSplitting: false },
    logLevel: 'warn',
  })
  const scratch = mkdtempSync(join(tmpdir(), 'fleam-bench-'))
  const measure = (env) => {
    const { status } = spawnSync(process.execPath, ['--enable-source-maps', join(root, '.cache/bench.js'), ...process.argv.slice(2)], {
      cwd: root,
      env: { ...process.env, ...env, FLEAM_BENCH_SCRATCH: scratch, NODE_ENV: 'production' },
      stdio: 'inherit',
    })
    process.exitCode = status ?? 1
  }
  if (isCluster) {
    const { cluster, urls, stop } = await startCluster(scratch)
    try {
      const databases = cluster.nodes.map(({ url }) => url)
      measure({ FLEAM_BENCH_CLUSTER: JSON.stringify({ urls, databases }) })
    } finally {
      await stop()
      rmSync(scratch, { recursive: true, force: true })
    }
    return
  }
  const database = await startMariadb({ dataDirectory: join(scratch, 'data') })
  try {
    await database.ready()
    measure({ DATABASE_URL: database.url })
  } finally {
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
})
