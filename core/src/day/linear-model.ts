/** A number that is to be found: any between its bounds, a whole one, or a whole one between its bounds or 0. */
export interface Column {
  cost: number
  lower: number
  upper: number
  kind: 'real' | 'whole' | 'whole-or-none'
}

/** A sum of columns that stays between two bounds. */
export interface Row {
  terms: readonly (readonly [column: number, factor: number])[]
  lower: number
  upper: number
}

/** What is to be as cheap as it can be, within its rows. */
export interface LinearModel {
  columns: Column[]
  rows: Row[]
}

export interface SolveOptions {
  /** How long it may take. */
  seconds: number
  /** How far from the bound it may stop, as a share of the cost. */
  gap: number
  /** Told of every answer that is better than those before, and how far it may still lie from the best. */
  onBetter?: ((values: readonly number[], gap: number) => void) | undefined
}

export interface Solved {
  /** `feasible`: the time was over before it was known to be the best. */
  status: 'optimal' | 'feasible' | 'infeasible' | 'unbounded' | 'unknown'
  values: number[]
  /** How far from the best it may still lie, as a share of the cost. */
  gap: number
}

/** Finds the cheapest values of a model. */
export type Solve = (model: LinearModel, options: SolveOptions) => Solved

/** Builds a model column by column. */
export function modelBuilder() {
  const model: LinearModel = { columns: [], rows: [] }
  return {
    model,
    /** @returns the column's place */
    column(column: Partial<Column> = {}): number {
      model.columns.push({ cost: 0, lower: 0, upper: Number.POSITIVE_INFINITY, kind: 'real', ...column })
      return model.columns.length - 1
    },
    row(terms: Row['terms'], lower: number, upper: number): void {
      model.rows.push({ terms, lower, upper })
    },
  }
}
