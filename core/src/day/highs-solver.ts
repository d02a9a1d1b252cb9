import highsLoader from 'highs'
import type { LinearModel, Solve, Solved } from './linear-model.ts'

const kinds = { real: 0, whole: 1, 'whole-or-none': 3 } as const

/**
 * Loads HiGHS, compiled to WebAssembly. A solve blocks its thread until it is done: use it on a thread of its own.
 * @returns what solves mixed-integer models
 */
export async function openHighs(): Promise<Solve> {
  const highs = await highsLoader()
  const { callbackType, modelStatus } = highs.constants
  const bound = (value: number) =>
    value === Number.POSITIVE_INFINITY ? highs.infinity : value === Number.NEGATIVE_INFINITY ? -highs.infinity : value
  return (model, { seconds, gap, onBetter }) =>
    highs.withModel({ ...dataOf(model, bound), offset: 0 }, (native): Solved => {
      native.options.set({ output_flag: false, time_limit: seconds, mip_rel_gap: gap })
      const run = native.run({
        [callbackType.mipImprovingSolution](event: { data: { mip_solution?: Float64Array; mip_gap?: number } }) {
          if (onBetter && event.data.mip_solution) onBetter([...event.data.mip_solution], event.data.mip_gap ?? Number.POSITIVE_INFINITY)
          return undefined
        },
      })
      const isMip = model.columns.some(({ kind }) => kind !== 'real')
      const hasValues = Number(native.info.get('primal_solution_status')) === 2
      const status = run.modelStatus
      if (status === modelStatus.infeasible) return { status: 'infeasible', values: [], gap: 0 }
      if (status === modelStatus.unbounded || status === modelStatus.unboundedOrInfeasible)
        return { status: 'unbounded', values: [], gap: 0 }
      if (!hasValues) return { status: 'unknown', values: [], gap: Number.POSITIVE_INFINITY }
      const reached = isMip ? Math.max(0, Number(native.info.get('mip_gap'))) : 0
      return { status: status === modelStatus.optimal ? 'optimal' : 'feasible', values: [...native.getSolution().colValue], gap: reached }
    })
}

function dataOf({ columns, rows }: LinearModel, bound: (value: number) => number) {
  const starts = [0]
  const indices: number[] = []
  const values: number[] = []
  for (const { terms } of rows) {
    for (const [column, factor] of terms) {
      if (factor === 0) continue
      indices.push(column)
      values.push(factor)
    }
    starts.push(indices.length)
  }
  return {
    numCols: columns.length,
    numRows: rows.length,
    colCost: columns.map(({ cost }) => cost),
    colLower: columns.map(({ lower }) => bound(lower)),
    colUpper: columns.map(({ upper }) => bound(upper)),
    rowLower: rows.map(({ lower }) => bound(lower)),
    rowUpper: rows.map(({ upper }) => bound(upper)),
    integrality: columns.map(({ kind }) => kinds[kind]),
    matrix: { format: 'csr' as const, numRows: rows.length, numCols: columns.length, starts, indices, values },
  }
}
