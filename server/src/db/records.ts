import { type Model, type ModelStatic, QueryTypes, type Sequelize, type Transaction } from 'sequelize'
import type { Models } from './models.ts'
import { retried, transacted } from './retried.ts'
import { boundTable, type Table } from './table.ts'

type RowOf<Name extends keyof Models> = Models[Name] extends ModelStatic<infer Row extends Model> ? Row : never
/** Tables without a kitchen: nobody has come in yet, or every server shares them. */
type Shared = 'leases' | 'migrations'
type OfKitchen = Exclude<keyof Models, Shared | 'kitchens'>

/** Values of a statement's `:names`. */
export type Values = Record<string, unknown>

interface Statements {
  /** Rows of a SELECT that no model would do; moments come as dates, DATE columns as text, JSON columns as what they say. */
  select<Row extends object>(sql: string, values?: Values): Promise<Row[]>
  /** @returns how many rows were stored, and the number that the last was given */
  insert(sql: string, values?: Values): Promise<{ rows: number; sequence: number }>
}

/** The records of one kitchen. It is in every `where` and every new row, and is `:kitchenId` in every statement. */
export type KitchenRecords = { [Name in OfKitchen]: Table<RowOf<Name>, 'kitchenId'> } & {
  kitchens: Table<RowOf<'kitchens'>, 'id'>
  kitchenId: string
  /** All of it or nothing; tried again where another transaction stood in the way. Inside a transaction it is that one. */
  transaction<Result>(work: (tx: KitchenRecords) => Promise<Result>): Promise<Result>
} & Statements

/** The records of every kitchen: for signing in, setting up, the catalog and the live feed, and nothing else. */
export type AllRecords = { [Name in keyof Models]: Table<RowOf<Name>> } & {
  transaction<Result>(work: (tx: AllRecords) => Promise<Result>): Promise<Result>
  /** One kitchen's, in the same transaction. */
  of(kitchenId: string): KitchenRecords
} & Statements

export function allRecords(sequelize: Sequelize, models: Models, transaction?: Transaction): AllRecords {
  const tables = tablesOf(Object.keys(models) as (keyof Models)[], models, {}, transaction)
  return {
    ...(tables as { [Name in keyof Models]: Table<RowOf<Name>> }),
    ...statements(sequelize, {}, transaction),
    of: (kitchenId) => kitchenRecords(sequelize, models, kitchenId, transaction),
    async transaction(work) {
      if (transaction) return work(this)
      return transacted(sequelize, (inner) => work(allRecords(sequelize, models, inner)))
    },
  }
}

export function kitchenRecords(sequelize: Sequelize, models: Models, kitchenId: string, transaction?: Transaction): KitchenRecords {
  const { kitchens, leases, migrations, ...own } = models
  const tables = tablesOf(Object.keys(own) as OfKitchen[], models, { kitchenId }, transaction)
  return {
    ...(tables as { [Name in OfKitchen]: Table<RowOf<Name>, 'kitchenId'> }),
    ...statements(sequelize, { kitchenId }, transaction),
    kitchens: boundTable(kitchens, { id: kitchenId }, transaction),
    kitchenId,
    async transaction(work) {
      if (transaction) return work(this)
      return transacted(sequelize, (inner) => work(kitchenRecords(sequelize, models, kitchenId, inner)))
    },
  }
}

function tablesOf(names: readonly (keyof Models)[], models: Models, bounds: object, transaction: Transaction | undefined) {
  return Object.fromEntries(names.map((name) => [name, boundTable(models[name] as ModelStatic<Model>, bounds, transaction)]))
}

function statements(sequelize: Sequelize, bounds: Values, transaction: Transaction | undefined): Statements {
  const options = (values: Values = {}) => ({ replacements: { ...values, ...bounds }, ...(transaction ? { transaction } : {}) })
  return {
    select: <Row extends object>(sql: string, values?: Values) =>
      sequelize.query<Row>(sql, { ...options(values), type: QueryTypes.SELECT }),
    async insert(sql, values) {
      const store = () => sequelize.query(sql, { ...options(values), type: QueryTypes.INSERT })
      const [sequence, rows] = transaction ? await store() : await retried(store)
      return { rows, sequence }
    },
  }
}
