import * as z from 'zod'
import { readJsonFile } from '../src/http/json-file.ts'

const sheets = z.object({
  format: z.literal('sheets', 'This is no file of sheets.'),
  entries: z.array(z.object({ name: z.string(), minutes: z.number('Minutes are a number.') })),
})

test('a file that is as it should be has its content and no problem', () => {
  const read = readJsonFile('{ "format": "sheets", "entries": [{ "name": "Loin", "minutes": 20 }] }', sheets)
  expect(read).toMatchObject({ content: { entries: [{ name: 'Loin', minutes: 20 }] }, problems: [] })
})

test('what is wrong is said where it stands, line and column from 1', () => {
  const text = '{\n  "format": "sheets",\n  "entries": [\n    { "name": "Loin",\n      "minutes": "twenty" },\n    { "minutes": 4 }\n  ]\n}'
  const { content, problems } = readJsonFile(text, sheets)
  expect(content).toBeUndefined()
  expect(problems).toMatchObject([
    { path: 'entries[0].minutes', line: 5, column: 18, message: 'Minutes are a number.' },
    // a field that is missing is said where what should have it begins
    { path: 'entries[1].name', line: 6, column: 5 },
  ])
})

test.each([
  ['', 1, 1],
  ['{ "format": "sheets", }', 1, 23],
  ['{ "format": "sheets"\n  "entries": [] }', 2, 3],
  ['{ "format": /* which */ "sheets", "entries": [] }', 1, 13],
  ['not json', 1, 1],
])('text that is no JSON is refused with its place: %j', (text, line, column) => {
  const { content, problems } = readJsonFile(text, sheets)
  expect(content).toBeUndefined()
  expect(problems).toHaveLength(1)
  expect(problems[0]).toMatchObject({ line, column, message: expect.stringContaining('not valid JSON') })
})

test('a file of another kind says so, and hundreds of problems are cut short', () => {
  expect(readJsonFile('{ "format": "runs", "entries": [] }', sheets).problems).toMatchObject([
    { path: 'format', line: 1, column: 13, message: 'This is no file of sheets.' },
  ])
  const many = JSON.stringify({ format: 'sheets', entries: Array.from({ length: 200 }, () => ({ name: 'x', minutes: 'y' })) })
  expect(readJsonFile(many, sheets).problems).toHaveLength(50)
})

test('a problem of the content is placed by its path, or by the nearest that there is', () => {
  const { problemAt } = readJsonFile('{\n "format": "sheets",\n "entries": []\n}', sheets)
  expect(problemAt(['entries', 3, 'name'], 'Not there.')).toEqual({ path: 'entries[3].name', line: 3, column: 13, message: 'Not there.' })
})
