import type { PoolConnection } from 'mariadb'
import { type Measured, ms, percentile, timeEach } from './measure.ts'
import { type BenchServer, openBare } from './server.ts'

const lots = 100_000
const patienceMs = 500

/** All that came of a supplier's lot over 100,000 lots, against the bare indexed reads of the same chain. */
export async function measureTrace(server: BenchServer): Promise<Measured[]> {
  const pool = openBare()
  const connection = await pool.getConnection()
  await fill(connection)
  const [input] = await connection.query(
    `SELECT l.supplier_lot AS supplierLot, l.kitchen_id AS kitchenId FROM lot_moves m JOIN lots l ON l.id = m.lot_id
     JOIN follow_ons f ON f.id = m.follow_on_id WHERE f.status = 'finished' AND l.supplier_lot <> '' LIMIT 1`,
  )
  const bare = await timeEach(30, () => chain(connection, input))
  let found = 0
  const asked = await timeEach(30, async () => {
    const answer = await server.ask('GET', `/traces?supplierLot=${encodeURIComponent(input.supplierLot)}`)
    if (answer.status !== 200) throw new Error(answer.body)
    found = JSON.parse(answer.body).nodes.length
  })
  await connection.release()
  await pool.end()
  const [value, base] = [percentile(asked, 0.5), percentile(bare, 0.5)]
  const what = `a supplier’s lot called back over ${lots.toLocaleString('en')} lots, ${found} places`
  return [
    { what, value: ms(value), against: `bare reads of the chain ${ms(base)}`, ratio: value / base, limit: 10 },
    { what: 'the same', value: ms(value), against: `${patienceMs} ms`, ratio: value / patienceMs, limit: 1 },
  ]
}

/** The rows that the chain is made of, each read by its index. */
async function chain(connection: PoolConnection, { kitchenId, supplierLot }: { kitchenId: string; supplierLot: string }): Promise<void> {
  const idsOf = (rows: { id: string }[]) => (rows.length === 0 ? [''] : rows.map(({ id }) => id))
  const own = await connection.query('SELECT * FROM lots WHERE kitchen_id = :kitchenId AND supplier_lot = :supplierLot', {
    kitchenId,
    supplierLot,
  })
  const moves: { followOnId: string | null }[] = await connection.query(
    'SELECT *, follow_on_id AS followOnId FROM lot_moves WHERE lot_id IN (:ids)',
    { ids: idsOf(own) },
  )
  const followOnIds = idsOf(moves.flatMap(({ followOnId }) => (followOnId ? [{ id: followOnId }] : [])))
  const made = await connection.query('SELECT * FROM lots WHERE follow_on_id IN (:ids)', { ids: followOnIds })
  await connection.query('SELECT * FROM lot_moves WHERE lot_id IN (:ids)', { ids: idsOf(made) })
  await connection.query('SELECT * FROM follow_ons WHERE id IN (:ids)', { ids: followOnIds })
  await connection.query('SELECT * FROM runs WHERE kitchen_id = :kitchenId AND lot = :supplierLot', { kitchenId, supplierLot })
}

/** Copies the demo's lots and their books inside the database, under other suppliers' lots and used up. */
async function fill(connection: PoolConnection): Promise<void> {
  const columnsOf = async (table: string) =>
    (await connection.query(`SHOW COLUMNS FROM ${table}`)).map((column: { Field: string }) => column.Field) as string[]
  const [{ n }] = await connection.query('SELECT COUNT(*) AS n FROM lots WHERE follow_on_id IS NULL')
  const copies = Math.ceil(lots / Number(n))
  const idOf = (id: string) => {
    const digest = `INSERT(INSERT(INSERT(INSERT(MD5(CONCAT(${id}, s.seq)), 9, 0, '-'), 14, 0, '-'), 19, 0, '-'), 24, 0, '-')`
    return `LOWER(INSERT(INSERT(${digest}, 15, 1, '8'), 20, 1, 'a'))`
  }
  const lotColumns = await columnsOf('lots')
  const ofLot: Record<string, string> = {
    id: idOf('l.id'),
    number: 'l.number + s.seq * 100000',
    supplier_lot: "CONCAT('B', s.seq, '-', l.supplier_lot)",
    left_tenths: '0',
    left_portions: 'IF(l.left_portions IS NULL, NULL, 0)',
  }
  const from = `FROM seq_1_to_${copies} s JOIN lots l ON l.follow_on_id IS NULL`
  await connection.query('SET FOREIGN_KEY_CHECKS = 0')
  const moveColumns = (await columnsOf('lot_moves')).filter((column) => column !== 'sequence')
  const ofMove: Record<string, string> = { id: idOf('m.id'), lot_id: idOf('m.lot_id'), undoes_id: 'NULL', follow_on_id: 'NULL' }
  await connection.query(
    `INSERT INTO lot_moves (${moveColumns.join(', ')}) SELECT ${moveColumns.map((column) => ofMove[column] ?? `m.${column}`).join(', ')}
     ${from} JOIN lot_moves m ON m.lot_id = l.id`,
  )
  await connection.query(
    `INSERT INTO lots (${lotColumns.join(', ')}) SELECT ${lotColumns.map((column) => ofLot[column] ?? `l.${column}`).join(', ')} ${from}`,
  )
  await connection.query('SET FOREIGN_KEY_CHECKS = 1')
  await connection.query('ANALYZE TABLE lots, lot_moves')
}
