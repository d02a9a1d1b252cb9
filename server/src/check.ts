import { checkDatabase } from './consistency.ts'
import { openDatabase } from './db/database.ts'

/** Reads a database from end to end and names what does not fit, a line each; it ends with 1 where there is such a thing. */
const db = openDatabase(process.env.DATABASE_URL ?? '', { connections: 2, isPatient: true })
let faults = 0
try {
  const { kitchens, runs } = await checkDatabase(db, ({ kitchen, where, what }) => {
    faults += 1
    process.stdout.write(`${kitchen} › ${where}: ${what}\n`)
  })
  const found = faults === 0 ? 'everything fits' : `${faults} ${faults === 1 ? 'thing does' : 'things do'} not fit`
  process.stdout.write(`${kitchens} ${kitchens === 1 ? 'kitchen' : 'kitchens'} and ${runs} runs read: ${found}.\n`)
  process.exitCode = faults === 0 ? 0 : 1
} catch (error) {
  process.stderr.write(`The database could not be read: ${(error as Error).message.split('\n')[0]}\n`)
  process.exitCode = 2
} finally {
  await db.close()
}
