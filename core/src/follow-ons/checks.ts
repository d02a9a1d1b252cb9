/** Limits that a follow-on's temperatures are held against; the kitchen's own. */
export interface CheckLimits {
  poultryCoreC: number
  groundCoreC: number
  /** Hours from `coolFromC` to `coolFirstC`, and from there to `coolToC`. */
  coolFirstHours: number
  coolSecondHours: number
}

/** Where the two stages of cooling begin and end, °C. */
export const coolFromC = 60
export const coolFirstC = 20
export const coolToC = 5

/** A temperature taken of a follow-on. */
export interface TemperatureCheck {
  kind: 'core' | 'cooling' | 'look'
  celsius: number | null
  /** ISO moment. */
  at: string
}

/**
 * Whether a check is out of the kitchen's limit. A core below what it must reach is; so is one that cools too slowly: warmer than
 * 20 °C after the first hours, than 5 °C after both, counted from the first cooling check. Local food code comes first.
 * @param core which limit the core must reach; `undefined` where the sheet sets none
 * @param earlier the checks of the same follow-on before it
 * @example isOutOfLimit({ kind: 'core', celsius: 70, at: '2026-03-14T12:00:00Z' }, [], { poultryCoreC: 74, groundCoreC: 71, coolFirstHours: 2, coolSecondHours: 4 }, 'poultryCoreC') === true
 */
export function isOutOfLimit(
  check: TemperatureCheck,
  earlier: readonly TemperatureCheck[],
  limits: CheckLimits,
  core: 'poultryCoreC' | 'groundCoreC' | undefined,
): boolean {
  const { kind, celsius, at } = check
  if (celsius === null) return false
  if (kind === 'core') return core !== undefined && celsius < limits[core]
  if (kind !== 'cooling') return false
  const [began] = earlier.filter((one) => one.kind === 'cooling').map((one) => new Date(one.at).getTime())
  const hours = began === undefined ? 0 : (new Date(at).getTime() - began) / 3_600_000
  if (hours > limits.coolFirstHours + limits.coolSecondHours) return celsius > coolToC
  return hours > limits.coolFirstHours && celsius > coolFirstC
}
