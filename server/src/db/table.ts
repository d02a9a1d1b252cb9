import {
  type Attributes,
  type CreationAttributes,
  type FindOptions,
  type IndexHintable,
  type Model,
  type ModelStatic,
  Op,
  type Transaction,
  type WhereOptions,
} from 'sequelize'

type Where<Row extends Model> = WhereOptions<Attributes<Row>>
type Find<Row extends Model> = Omit<FindOptions<Attributes<Row>>, 'transaction'> & IndexHintable
type Counts<Row extends Model> = { [Key in keyof Attributes<Row> as Attributes<Row>[Key] extends number ? Key : never]?: number }

/** A model within bounds: what the bounds say is in every `where` and every new row, and so is the transaction. */
export interface Table<Row extends Model, Bound extends string = never> {
  findAll(options?: Find<Row>): Promise<Row[]>
  findOne(options?: Find<Row>): Promise<Row | null>
  /** Locks the row until the transaction ends. */
  lock(where: Where<Row>): Promise<Row | null>
  count(where?: Where<Row>): Promise<number>
  create(values: Omit<CreationAttributes<Row>, Bound>): Promise<Row>
  bulkCreate(rows: readonly Omit<CreationAttributes<Row>, Bound>[]): Promise<void>
  /** Changes one row that was found here, and counts its version up where it has one. */
  save(row: Row, values: Partial<Attributes<Row>>): Promise<Row>
  update(values: Partial<Attributes<Row>>, where: Where<Row>): Promise<number>
  /** Adds to numbers in place; negative takes away. */
  add(amounts: Counts<Row>, where: Where<Row>): Promise<void>
  destroy(where: Where<Row>): Promise<number>
}

/** Rows of one INSERT: a packet of the database holds many times as much. */
const mostRows = 500

export function boundTable<Row extends Model, Bound extends string>(
  model: ModelStatic<Row>,
  bounds: Record<Bound, string> | Record<never, never>,
  transaction: Transaction | undefined,
): Table<Row, Bound> {
  const bounded = (where?: Where<Row>) => (where ? { [Op.and]: [bounds, where] } : bounds) as Where<Row>
  const inTransaction = transaction ? { transaction } : {}
  const find = ({ where, ...options }: Find<Row> = {}) => ({ ...options, where: bounded(where as Where<Row>), ...inTransaction })
  return {
    findAll: (options) => model.findAll(find(options)),
    findOne: (options) => model.findOne(find(options)),
    lock: (where) => model.findOne({ ...find({ where }), lock: true }),
    count: (where) => model.count({ where: bounded(where), ...inTransaction }),
    create: (values) => model.create({ ...values, ...bounds } as CreationAttributes<Row>, inTransaction),
    async bulkCreate(rows) {
      for (let first = 0; first < rows.length; first += mostRows) {
        const some = rows.slice(first, first + mostRows).map((values) => ({ ...values, ...bounds }) as CreationAttributes<Row>)
        const fields = [...new Set(some.flatMap((row) => Object.keys(row as object)))] as (keyof Attributes<Row>)[]
        await model.bulkCreate(some, { fields, ...inTransaction })
      }
    },
    save(row, values) {
      row.set(values as Parameters<Row['set']>[0])
      const fields = Object.keys(values) as (keyof Attributes<Row>)[]
      for (const field of fields) row.changed(field, true)
      return row.save({ fields, ...inTransaction })
    },
    update: async (values, where) => (await model.update(values as never, { where: bounded(where), ...inTransaction }))[0],
    add: async (amounts, where) => void (await model.increment(amounts as never, { where: bounded(where), ...inTransaction })),
    destroy: (where) => model.destroy({ where: bounded(where), ...inTransaction }),
  }
}
