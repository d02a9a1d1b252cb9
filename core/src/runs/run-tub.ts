import type { Tenths } from '../quantities/weight.ts'
import type { Role } from './output.ts'

/** A tub of a run: where one output of the cut sheet goes. Weights in tenths of a gram, shares in percent of received. */
export interface RunTub {
  id: string
  /** Key of the output of the cut sheet; `null` or absent for a tub of this run alone. */
  key?: string | null | undefined
  name: string
  role: Role
  /** Of a main: see `Output`. */
  kind?: string | undefined
  targetTenths: Tenths | null
  toleranceTenths: Tenths | null
  typicalPct: number
  valuePerKg: number | null
  separableCost: number
}
