import { measureDrawFrames, measureDraws, measureParts } from './compare.ts'
import { measureContenders } from './contenders.ts'
import { measureCore, measureLiveFigures } from './core.ts'
import { measureDay, measurePlanFrames } from './day.ts'
import { measureLive } from './live.ts'
import { measureLog, measureManyRuns } from './log.ts'
import { type Measured, printTable } from './measure.ts'
import { measureOpenRun } from './open-run.ts'
import { measurePlanPage, measureScale, measureTap } from './pages.ts'
import { measurePlan } from './plan.ts'
import { startServer } from './server.ts'
import { measureStart } from './start.ts'
import { measureTrace } from './trace.ts'
import { measureWeighIn } from './weigh-in.ts'

const large = process.argv.includes('--large')
const rows: Measured[] = [
  ...(await measureCore()),
  ...(await measureLiveFigures()),
  ...(await measurePlan()),
  ...(await measureDraws()),
  ...(await measureContenders()),
  ...(await measureDay()),
  ...(await measureStart()),
]
const server = await startServer()
try {
  rows.push(...(await measureWeighIn(server)))
  rows.push(...(await measureOpenRun(server)))
  rows.push(...(await measureLive(server)))
  rows.push(...(await measureTap(server)))
  rows.push(...(await measureScale(server)))
  rows.push(...(await measurePlanPage(server)))
  rows.push(...(await measureDrawFrames(server)))
  rows.push(...(await measurePlanFrames(server)))
  rows.push(...(await measureParts(server)))
  rows.push(...(await measureManyRuns(server)))
  rows.push(...(await measureTrace(server)))
  if (large) rows.push(...(await measureLog(server)))
} finally {
  await server.stop()
}
process.exitCode = printTable(rows) ? 0 : 1
