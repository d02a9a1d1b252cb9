import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ensureBuilt } from './build.mjs'
import { runMain } from './fail.mjs'
import { databaseForTools } from './mariadb.mjs'
import { ensurePackages, root } from './programs.mjs'

/** `npm run check` reads the database that Fleam uses here, also while it works, and names what does not fit. */
await runMain(async () => {
  ensurePackages()
  await ensureBuilt()
  const database = await databaseForTools()
  try {
    const child = spawn(process.execPath, [join(root, 'server/dist/check.js')], {
      cwd: root,
      env: { ...process.env, DATABASE_URL: database.url },
      stdio: 'inherit',
    })
    process.exitCode = await new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 2)))
  } finally {
    await database.close()
  }
})
