/**
 * Requests that nobody means: made of the API's own description (OpenAPI), right in most places and wrong in one or two.
 * The same seed makes the same requests.
 */

/** Numbers from 0 to 1 in an order that the seed decides (mulberry32). */
export function seeded(seed) {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
}

const texts = [
  '',
  ' ',
  '\u0000',
  '\ud800',
  '\u202eevil',
  '\u200b',
  '=1+1',
  'x;=1+1',
  "'; DROP TABLE runs; --",
  '<script>alert(1)</script>',
  '../../etc/passwd',
  '%00',
  '12,500 g',
  '0.01 g',
  '600000 g',
  '1e308 g',
  '-5 kg',
  '2026-13-45',
  '9999-12-31T00:00:00Z',
  'ａｂｃ',
  '👩‍🍳'.repeat(40),
  'a'.repeat(61),
  'a'.repeat(20_000),
  `1${' '.repeat(20_000)}`,
  '['.repeat(2000),
  '00000000-0000-0000-0000-000000000000',
]
const numbers = [0, -1, 0.01, 600_000, 1e308, -1e308, 1e-320, Number.MAX_SAFE_INTEGER, 2 ** 31, 2 ** 53, 1.5]
const others = [null, true, [], {}, [null], { constructor: 1 }, { $ne: 1 }]

export function maker(random, idsOf) {
  const pick = (list) => {
    const picked = list[Math.floor(random() * list.length)]
    return picked !== null && typeof picked === 'object' && !Array.isArray(picked[0]) ? structuredClone(picked) : picked
  }
  const uuid = () => {
    const hex = Array.from({ length: 32 }, () => Math.floor(random() * 16).toString(16)).join('')
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20)}`
  }

  /** A value that fits a schema, most of the time. @param name of the field, from which kinds of id are guessed */
  function sampleOf(schema, name = '', depth = 0) {
    if (!schema || depth > 12) return null
    if (schema.enum) return pick(schema.enum)
    const options = schema.anyOf ?? schema.oneOf
    if (options) return sampleOf(pick(options), name, depth + 1)
    if (schema.allOf) return Object.assign({}, ...schema.allOf.map((part) => sampleOf(part, name, depth + 1)))
    if (schema.nullable && random() < 0.2) return null
    if (schema.type === 'object') {
      const required = new Set(schema.required ?? [])
      const entries = Object.entries(schema.properties ?? {}).filter(([key]) => required.has(key) || random() < 0.5)
      return Object.fromEntries(entries.map(([key, part]) => [key, sampleOf(part, key, depth + 1)]))
    }
    if (schema.type === 'array') {
      const length = Math.min(schema.maxItems ?? 3, Math.max(schema.minItems ?? 0, Math.floor(random() * 4)))
      return Array.from({ length }, () => sampleOf(schema.items, name, depth + 1))
    }
    if (schema.type === 'boolean') return random() < 0.5
    if (schema.type === 'integer' || schema.type === 'number') return numberOf(schema)
    return textOf(schema, name)
  }

  function numberOf({ type, minimum, maximum }) {
    const [low, high] = [Math.max(minimum ?? 0, -1e6), Math.min(maximum ?? 100, 1e6)]
    const value = pick([low, high, low + random() * Math.min(high - low, 50)])
    return type === 'integer' ? Math.round(value) : value
  }

  function textOf({ format, pattern, minLength = 1 }, name) {
    if (format === 'uuid') return idsOf(name) ?? uuid()
    if (format === 'date') return pick(['2026-03-14', '2026-11-01', '2025-12-31'])
    if (format === 'date-time') return pick(['2026-03-14T09:30:00.000Z', '2026-11-01T23:00:00+02:00'])
    if (/weight|billed|received|target|portion|need/i.test(name)) return pick(['184 g', '2.95 kg', '6.5 oz', '1 lb 2 oz'])
    if (name === 'currency') return 'EUR'
    if (name === 'locale') return 'en-GB'
    if (name === 'timeZone') return 'Europe/Dublin'
    if (name === 'host') return '192.168.1.20'
    if (pattern?.startsWith('^\\d{6}')) return '123456'
    return pick(['Steaks', 'Tail of it', 'Bench two', 'x-1', 'Salt gull']).padEnd(minLength, 'x')
  }

  /** Every place in a value: the object it is in and its key. */
  function placesIn(value, found = []) {
    if (value === null || typeof value !== 'object') return found
    for (const key of Object.keys(value)) {
      found.push([value, key])
      placesIn(value[key], found)
    }
    return found
  }

  function spoil(body) {
    const places = placesIn(body)
    if (places.length === 0) return pick([...others, ...texts])
    const [holder, key] = pick(places)
    const way = random()
    if (way < 0.15) delete holder[key]
    else if (way < 0.2) holder[pick(['constructor', 'extra', 'id', 'kitchenId', 'role'])] = pick([...texts, ...numbers, ...others])
    else if (way < 0.3 && Array.isArray(holder[key])) holder[key] = Array.from({ length: 3000 }, () => holder[key][0] ?? 1)
    else holder[key] = pick(random() < 0.45 ? texts : random() < 0.7 ? numbers : others)
    return body
  }

  /** @returns what to send: `{ method, path, body, type }` */
  return function request(path, method, operation) {
    const parameters = operation.parameters ?? []
    const filled = path.replace(/\{(\w+)\}/g, (_, name) => {
      const feature = path.split('/')[3]
      const known = name === 'id' ? idsOf(feature) : idsOf(name)
      const value = random() < 0.8 ? (known ?? uuid()) : pick(texts).slice(0, 200) || 'x'
      return encodeURIComponent(value.toWellFormed())
    })
    const query = new URLSearchParams()
    for (const { name, in: place, schema, required } of parameters) {
      if (place !== 'query' || (!required && random() < 0.5)) continue
      const value = random() < 0.6 ? sampleOf(schema, name) : pick([...texts, ...numbers])
      query.set(name, String(value).slice(0, 400))
    }
    const url = query.size > 0 ? `${filled}?${query}` : filled
    const schema = operation.requestBody?.content?.['application/json']?.schema
    if (!schema) return { method, path: url }
    let body = sampleOf(schema)
    for (let spoils = Math.floor(random() * 3); spoils > 0; spoils -= 1) body = spoil(body)
    let text = JSON.stringify(body) ?? ''
    const way = random()
    if (way < 0.02) text = text.slice(0, Math.floor(text.length * random()))
    else if (way < 0.03) text = `${text}${' '.repeat(300_000)}`
    else if (way < 0.04) text = pick(['null', '1', '"x"', '[]', '{"__proto__":{"role":"manager"}}', '{'.repeat(5000)])
    return {
      method,
      path: url,
      body: text,
      type: random() < 0.98 ? 'application/json' : pick(['text/plain', 'application/xml', 'nonsense']),
    }
  }
}
