import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseSync } from '@swc/core'
import { check } from 'recheck'

const root = join(__dirname, '../..')

/** Every source file under a folder, built ones left out. */
function filesUnder(folder: string): string[] {
  return readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.(ts|tsx|mjs)$/.test(name) && !name.includes('node_modules'))
    .map((name) => join(folder, name))
}

function patternsOf(file: string): [pattern: string, flags: string, file: string][] {
  const found: [string, string, string][] = []
  const walk = (node: unknown): void => {
    if (node === null || typeof node !== 'object') return
    const { type, pattern, flags } = node as { type?: string; pattern?: string; flags?: string }
    if (type === 'RegExpLiteral' && pattern !== undefined) found.push([pattern, flags ?? '', file])
    for (const value of Object.values(node)) walk(value)
  }
  walk(parseSync(readFileSync(join(root, file), 'utf8'), { syntax: 'typescript', tsx: file.endsWith('x'), target: 'es2022' }))
  return found
}

test('no pattern takes more than a length of time that grows with its text: none can be made to stand still', async () => {
  const patterns = ['core/src', 'contract/src', 'server/src', 'web/src', 'scripts'].flatMap(filesUnder).flatMap(patternsOf)
  expect(patterns.length).toBeGreaterThan(50)
  for (const [pattern, flags, file] of patterns) {
    const { status } = await check(pattern, flags, { timeout: 20_000 })
    expect([file, pattern, status]).toEqual([file, pattern, 'safe'])
  }
})
