import { readFileSync } from 'node:fs'
import { join } from 'node:path'

const folder = join(__dirname, '../reference')

/** A worked example made by a separate implementation: the input of a calculation and fields its answer must have. */
export function readReference<Input, Expected>(name: string): { call: string; input: Input; expected: Expected } {
  return JSON.parse(readFileSync(join(folder, `${name}.json`), 'utf8'))
}

/** Checks every field of `expected` in `actual`, numbers to a relative 1e-6; array entries with an id are found by it. */
export function expectFields(actual: unknown, expected: unknown, path = 'answer'): void {
  if (typeof expected === 'number') {
    const size = Math.max(1e-9, Math.abs(expected))
    if (typeof actual !== 'number' || Math.abs(actual - expected) / size > 1e-6) {
      throw new Error(`${path}: expected ${expected}, got ${String(actual)}`)
    }
    return
  }
  if (Array.isArray(expected)) {
    const list = actual as { id?: string }[]
    expected.forEach((entry, index) => {
      const id = (entry as { id?: string } | null)?.id
      expectFields(id ? list.find((other) => other.id === id) : list[index], entry, `${path}.${id ?? index}`)
    })
    return
  }
  if (expected !== null && typeof expected === 'object') {
    for (const [key, value] of Object.entries(expected)) {
      expectFields((actual as Record<string, unknown> | undefined)?.[key], value, `${path}.${key}`)
    }
    return
  }
  expect({ path, value: actual }).toEqual({ path, value: expected })
}
