import * as jsonc from 'jsonc-parser'
import type * as z from 'zod'

/** What is wrong with a file that a person gave, and where. Lines and columns count from 1. */
export interface FileProblem {
  path: string
  line: number
  column: number
  message: string
}

export interface JsonFile<Content> {
  content: Content | undefined
  problems: FileProblem[]
  /** A problem of the content at a place in it. */
  problemAt(path: readonly (string | number)[], message: string): FileProblem
}

const mostProblems = 50

/** Reads a JSON file by a schema; whatever is wrong is said with its line and column. */
export function readJsonFile<Schema extends z.ZodType>(text: string, schema: Schema): JsonFile<z.infer<Schema>> {
  const syntax: jsonc.ParseError[] = []
  // most files are good: where everything stands in them is only looked for once something is wrong
  let tree: jsonc.Node | undefined
  const readTree = () => (tree ??= jsonc.parseTree(text, syntax, { disallowComments: true, allowTrailingComma: false }))
  const problemAt = (path: readonly (string | number)[], message: string) => placed(text, readTree(), path, message)
  const value = parsedOf(text)
  if (value === undefined) {
    readTree()
    const [first] = syntax
    const reason = first ? jsonc.printParseErrorCode(first.error) : 'the file is empty'
    const message = `This is not valid JSON here (${reason.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase()}).`
    return { content: undefined, problems: [{ path: '', ...lineAndColumn(text, first?.offset ?? 0), message }], problemAt }
  }
  const parsed = schema.safeParse(value)
  if (parsed.success) return { content: parsed.data, problems: [], problemAt }
  const issues = parsed.error.issues.slice(0, mostProblems)
  return { content: undefined, problems: issues.map((issue) => problemAt(issue.path as (string | number)[], issue.message)), problemAt }
}

function parsedOf(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

function placed(text: string, tree: jsonc.Node | undefined, path: readonly (string | number)[], message: string): FileProblem {
  let node: jsonc.Node | undefined
  for (let depth = path.length; tree && !node && depth >= 0; depth -= 1) node = jsonc.findNodeAtLocation(tree, path.slice(0, depth))
  const written = path
    .map((step) => (typeof step === 'number' ? `[${step}]` : `.${step}`))
    .join('')
    .replace(/^\./, '')
  return { path: written, ...lineAndColumn(text, node?.offset ?? 0), message }
}

function lineAndColumn(text: string, offset: number): { line: number; column: number } {
  const before = text.slice(0, offset)
  return { line: before.split('\n').length, column: offset - before.lastIndexOf('\n') }
}
