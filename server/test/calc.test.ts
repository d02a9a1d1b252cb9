import { expectFields, readReference } from '../../core/test/reference.ts'
import { stockedKitchen } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()

test.each([
  'yield-test-tenderloin',
  'yield-test-bird-byproduct-credit',
  'yield-test-bird-sales-value',
  'yield-test-bird-weight',
  'make-or-buy-tenderloin',
  'make-or-buy-fish',
  'portions',
  'pair-pieces',
  'cut-in-order',
  'best-mix',
  'bonded-pair',
  'follow-on-galantine',
  'follow-on-stock',
])('%s over HTTP', async (name) => {
  const { call, input, expected } = readReference<object, object>(name)
  const answer = await kitchen.cook.ask('POST', `/calc/${call}`, input)
  expect(answer.status).toBe(200)
  expectFields(answer.body, expected)
})

test('a refusal names the field as a path into the request', async () => {
  const { input } = readReference<{ outputs: object[] }, object>('yield-test-bird-sales-value')
  const worthless = { ...input, outputs: [{ id: 'a', name: 'Supreme', role: 'main', grams: 500 }] }
  const answer = await kitchen.cook.ask('POST', '/calc/yield-test', worthless)
  expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, 'outputs.0.valuePerKg'])
  const negative = await kitchen.cook.ask('POST', '/calc/portions', { weights: [180, -1], target: 180, tolerance: 5 })
  expect([negative.status, negative.body.errors?.[0]?.field]).toEqual([400, 'weights.1'])
})

test('rack over HTTP: more than halves the spread of straight cuts', async () => {
  const { input, expected } = readReference<object, { midpointSpreadGrams: number; spreadGramsAtMost: number }>('rack')
  const { body } = await kitchen.cook.ask('POST', '/calc/rack', input)
  expectFields(body, { midpointSpreadGrams: expected.midpointSpreadGrams })
  expect(Number(body.spreadGrams)).toBeLessThanOrEqual(expected.spreadGramsAtMost)
})

test('a refusal in a worker thread names its field too', async () => {
  const { input } = readReference<{ stations: object[] }, object>('best-mix')
  const answer = await kitchen.cook.ask('POST', '/calc/best-mix', { ...input, stations: [{ cm: 0, girthCm: 20 }] })
  expect([answer.status, answer.body.errors]).toEqual([
    400,
    [{ field: 'stations', message: 'Measure at two places at least: one at each end.' }],
  ])
})

test('what is not JSON is refused as that', async () => {
  const response = await test_.app.inject({
    method: 'POST',
    url: '/api/v1/calc/portions',
    headers: { cookie: kitchen.cook.cookie, 'content-type': 'application/json' },
    payload: '{"weights": [1,',
  })
  expect([response.statusCode, response.json().type]).toEqual([400, 'urn:fleam:problem:broken-request'])
})

test('the API describes itself to who is signed in', async () => {
  const spec = (await kitchen.cook.ask('GET', '/openapi.json')).body as unknown as { paths: object }
  expect(Object.keys(spec.paths)).toEqual(
    expect.arrayContaining(['/api/v1/calc/yield-test', '/api/v1/runs/{id}/weighings', '/api/v1/session']),
  )
  const docs = (headers: Record<string, string>) => test_.app.inject({ url: '/api/docs', headers })
  expect([(await docs({})).statusCode, (await docs({ cookie: kitchen.cook.cookie })).statusCode]).toEqual([401, 200])
})
