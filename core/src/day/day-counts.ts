import { InputError } from '../input-error.ts'

/** A line of a list of counts: guests of a service, or portions of one of its dishes. */
export interface CountLine {
  line: number
  service: string
  dish: string
  count: number
}

interface Counted {
  services: readonly { id: string; name: string; guests: number }[]
  dishes: readonly { id: string; serviceId: string; name: string; portions: unknown }[]
}

const columns = { service: ['service'], dish: ['dish'], count: ['count', 'guests', 'portions', 'covers'] }

/**
 * Reads a list with the columns service, dish and count (or guests, portions): a line without a dish is the guests of its service.
 *
 * @param rows cells of each line with its number in the file
 * @throws InputError at `text` with the line that cannot be read
 */
export function readCounts(header: readonly string[], rows: readonly { line: number; cells: readonly string[] }[]): CountLine[] {
  const at = (names: readonly string[]) => header.findIndex((name) => names.includes(name.trim().toLowerCase()))
  const [service, dish, count] = [at(columns.service), at(columns.dish), at(columns.count)]
  if (service === -1 || count === -1)
    throw new InputError('text', 'The first line names the columns: service, dish and count; without a dish the count is guests.')
  return rows.map(({ line, cells }) => {
    const cell = (index: number) => (index === -1 ? '' : (cells[index] ?? '').trim())
    const text = cell(count).replaceAll(/[ \u00a0\u202f]/g, '')
    if (!/^\d{1,6}$/.test(text)) throw new InputError('text', `Line ${line}: “${cell(count)}” is no whole number of guests or portions.`)
    return { line, service: cell(service), dish: cell(dish), count: Number(text) }
  })
}

/**
 * The day with the counts of a list in it: guests of services, portions of dishes as counted.
 *
 * @throws InputError at `text` where a line names a service or dish that the day does not have, or one twice
 */
export function withCounts<Body extends Counted>(body: Body, lines: readonly CountLine[]): Body {
  const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()
  const guests = new Map<string, number>()
  const portions = new Map<string, number>()
  for (const { line, service: name, dish: dishName, count } of lines) {
    const service = body.services.find((one) => same(one.name, name))
    if (!service) throw new InputError('text', `Line ${line}: the day has no service “${name}”.`)
    const dish = dishName === '' ? undefined : body.dishes.find((one) => one.serviceId === service.id && same(one.name, dishName))
    if (dishName !== '' && !dish) throw new InputError('text', `Line ${line}: ${service.name} has no dish “${dishName}”.`)
    const [known, id] = dish ? [portions, dish.id] : [guests, service.id]
    if (known.has(id)) throw new InputError('text', `Line ${line}: ${dish?.name ?? service.name} was counted before.`)
    known.set(id, count)
  }
  return {
    ...body,
    services: body.services.map((service) => ({ ...service, guests: guests.get(service.id) ?? service.guests })),
    dishes: body.dishes.map((dish) => {
      const count = portions.get(dish.id)
      return count === undefined ? dish : { ...dish, portions: { kind: 'counted', count } }
    }),
  }
}
