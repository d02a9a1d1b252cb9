/**
 * A count with its noun: one of them, or many.
 * @example counted(1, 'run') === '1 run'
 * @example counted(3, 'loss', 'losses') === '3 losses'
 */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count.toLocaleString('en').replaceAll(',', '\u202f')} ${count === 1 ? one : many}`
}
