/** What an output is to the cook: bought for, sold beside, usable at small value, or thrown away. */
export type Role = 'main' | 'coproduct' | 'byproduct' | 'waste'

/** One weighed output. Grams; `valuePerKg` and `separableCost` in the kitchen's currency; `count` in portions. */
export interface Output {
  id: string
  name: string
  role: Role
  /** Of a main: those of one kind can take each other's place on the plate; absent: the one kind of all that name none. */
  kind?: string | undefined
  grams: number
  count?: number | undefined
  valuePerKg?: number | undefined
  separableCost?: number | undefined
}
