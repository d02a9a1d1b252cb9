import { measureDrawFrames, measureDraws, measureParts } from './compare.ts'
import { printTable } from './measure.ts'
import { startServer } from './server.ts'

const rows = await measureDraws()
const server = await startServer()
try {
  rows.push(...(await measureDrawFrames(server)))
  rows.push(...(await measureParts(server)))
} finally {
  await server.stop()
}
printTable(rows)
