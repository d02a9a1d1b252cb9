import { measureDrawFrames, measureDraws, measureParts } from './compare.ts'
import { measureContenders } from './contenders.ts'
import { measureCore, measureLiveFigures } from './core.ts'
import { measureDay, measurePlanFrames } from './day.ts'
import { measureGrowth } from './growth.ts'
import { measureLive } from './live.ts'
import { measureLog, measureManyRuns } from './log.ts'
import { type Measured, printTable } from './measure.ts'
import { measureOpenRun } from './open-run.ts'
import { measurePlanPage, measureScale, measureTap } from './pages.ts'
import { measurePlan } from './plan.ts'
import { type BenchServer, startServer } from './server.ts'
import { measureStart } from './start.ts'
import { measureTrace } from './trace.ts'
import { measureWeighIn } from './weigh-in.ts'

const large = process.argv.includes('--large')
const isOfGrowth = process.argv.includes('--growth')
const rows: Measured[] = []
if (!isOfGrowth)
  rows.push(
    ...(await measureCore()),
    ...(await measureLiveFigures()),
    ...(await measurePlan()),
    ...(await measureDraws()),
    ...(await measureContenders()),
    ...(await measureDay()),
    ...(await measureStart()),
  )
const server = await startServer()
try {
  if (isOfGrowth) rows.push(...(await measureGrowth(server)))
  else rows.push(...(await measureWaits(server)))
} finally {
  await server.stop()
}
process.exitCode = printTable(rows) ? 0 : 1

/** What somebody waits for. */
async function measureWaits(server: BenchServer): Promise<Measured[]> {
  return [
    ...(await measureWeighIn(server)),
    ...(await measureOpenRun(server)),
    ...(await measureLive(server)),
    ...(await measureTap(server)),
    ...(await measureScale(server)),
    ...(await measurePlanPage(server)),
    ...(await measureDrawFrames(server)),
    ...(await measurePlanFrames(server)),
    ...(await measureParts(server)),
    ...(await measureManyRuns(server)),
    ...(await measureTrace(server)),
    ...(large ? await measureLog(server) : []),
  ]
}
