import fc from 'fast-check'
import { reckon } from '../src/day/buying-model.ts'
import { type BuyingPlan, type BuyingPlanInput, buyingPlan } from '../src/day/buying-plan.ts'
import { openHighs } from '../src/day/highs-solver.ts'
import type { Solve } from '../src/day/linear-model.ts'
import { type Job, type Schedule, type ScheduleInput, schedule } from '../src/day/schedule.ts'
import { InputError } from '../src/input-error.ts'
import { readReference as reference } from './reference.ts'

let solve: Solve
beforeAll(async () => {
  solve = await openHighs()
})
const plan = (input: BuyingPlanInput) => buyingPlan(input, { solve, gap: 1e-6 })
const refusal = (work: () => unknown) => {
  try {
    work()
  } catch (error) {
    if (error instanceof InputError) return [error.field, error.message]
    throw error
  }
  return undefined
}

describe('the buying plan', () => {
  test.each(['buying-plan', 'buying-plan-overtime'])('%s', (name) => {
    const { input, expected } = reference<BuyingPlanInput, { status: string; cost: number }>(name)
    const answer = plan(input)
    expect(answer.status).toBe(expected.status)
    expect(answer.cost).toBeCloseTo(expected.cost, 2)
    expect(costOf(input, answer)).toBeCloseTo(answer.cost, 6)
  })

  /** What a plan costs, from its decisions alone. */
  function costOf(input: BuyingPlanInput, answer: BuyingPlan): number {
    return reckon(input, {
      offer: new Map(answer.buy.map(({ offer, items }) => [offer, items])),
      way: new Map(answer.cut.map(({ way, items }) => [way, items])),
      followOn: new Map(answer.make.map(({ followOn, batches }) => [followOn, batches])),
      readyCut: new Map(answer.readyCut.map(({ id, packs }) => [id, packs])),
    }).cost
  }

  const money = fc.integer({ min: 50, max: 900 }).map((cents) => cents / 100)
  /** A small day: one or two kinds of bird, two ways each, ready-cut of one product. */
  const day = fc
    .record({
      mean: fc.integer({ min: 1200, max: 3000 }),
      price: money,
      pack: fc.integer({ min: 1, max: 3 }),
      least: fc.integer({ min: 0, max: 4 }),
      most: fc.integer({ min: 4, max: 9 }),
      minutes: fc.tuple(fc.integer({ min: 2, max: 9 }), fc.integer({ min: 2, max: 9 })),
      setup: fc.integer({ min: 0, max: 15 }),
      breast: fc.integer({ min: 0, max: 2500 }),
      leg: fc.integer({ min: 0, max: 2500 }),
      worth: fc.tuple(money, money, money).map((all) => all.map((one) => one / 9)),
      ready: money.map((one) => one * 2),
      hours: fc.integer({ min: 30, max: 120 }),
    })
    .map(
      ({ mean, price, pack, least, most, minutes, setup, breast, leg, worth, ready, hours }): BuyingPlanInput => ({
        items: [
          {
            id: 'bird',
            meanGrams: mean,
            offers: [{ id: 'farm', price: { amount: price, per: 'kg' }, pack, least, most }],
            ways: [
              {
                ...{ id: 'parts', minutes: minutes[0], setupMinutes: setup },
                outputs: [
                  { product: 'breast', pct: 30 },
                  { product: 'leg', pct: 32 },
                ],
              },
              {
                ...{ id: 'crown', minutes: minutes[1] },
                outputs: [
                  { product: 'breast', pct: 44 },
                  { product: 'bones', pct: 20 },
                ],
              },
            ],
          },
        ],
        products: ['breast', 'leg', 'bones'].map((id, index) => ({ id, leftValuePerKg: worth[index] ?? 0 })),
        demands: [
          { product: 'breast', grams: breast },
          { product: 'leg', grams: leg },
        ],
        readyCut: [{ id: 'ready', product: 'breast', pricePerPack: ready, packGrams: 700 }],
        labour: { ratePerHour: 18, onCostPct: 10, minutesAvailable: hours },
      }),
    )

  /** The cheapest of every plan there is. */
  function exhaustive(input: BuyingPlanInput): number {
    const [item] = input.items
    const [offer] = item?.offers ?? []
    const { pack = 1, least = 0, most = 0 } = offer ?? {}
    let best = Number.POSITIVE_INFINITY
    for (let bought = 0; bought <= most; bought += pack) {
      if (bought > 0 && bought < least) continue
      for (let parts = 0; parts <= bought; parts += 1) {
        for (let crown = 0; parts + crown <= bought; crown += 1) {
          for (let packs = 0; packs <= 5; packs += 1) {
            const values = reckon(input, {
              offer: new Map([['farm', bought]]),
              way: new Map([
                ['parts', parts],
                ['crown', crown],
              ]),
              followOn: new Map(),
              readyCut: new Map([['ready', packs]]),
            })
            // to the last hundredth of a gram, which what is left over is not said to
            const given = (product: string) =>
              (item?.ways ?? []).reduce(
                (sum, { id, outputs }) => {
                  const pct = outputs.find((output) => output.product === product)?.pct ?? 0
                  return sum + ((id === 'parts' ? parts : crown) * (item?.meanGrams ?? 0) * pct) / 100
                },
                product === 'breast' ? packs * 700 : 0,
              )
            const isMet = input.demands.every(({ product, grams }) => given(product) >= grams - 1e-6)
            if (isMet && values.overtimeMinutes === 0) best = Math.min(best, values.cost)
          }
        }
      }
    }
    return best
  }

  test('small days: as cheap as the cheapest of every plan there is, every limit kept, the cost that of its decisions', () => {
    fc.assert(
      fc.property(day, (input) => {
        const answer = plan(input)
        const best = exhaustive(input)
        if (best === Number.POSITIVE_INFINITY) {
          expect(answer.status).toBe('infeasible')
          return
        }
        expect(answer.status).toBe('optimal')
        expect(answer.cost).toBeCloseTo(best, 4)
        expect(costOf(input, answer)).toBeCloseTo(answer.cost, 6)
        expect(answer.left.every(({ grams }) => grams > -0.01)).toBe(true)
        expect(answer.minutes).toBeLessThanOrEqual((input.labour.minutesAvailable ?? 0) + 1e-6)
        const bought = answer.buy.reduce((sum, { items }) => sum + items, 0)
        const cut = answer.cut.reduce((sum, { items }) => sum + items, 0)
        expect(cut).toBeLessThanOrEqual(bought)
      }),
      { numRuns: 60 },
    )
  })

  test('one more that is there never costs more, and money by another measure changes no decision', () => {
    fc.assert(
      fc.property(day, (input) => {
        const answer = plan(input)
        if (answer.status !== 'optimal') return
        const more = plan({ ...input, products: input.products.map((product) => ({ ...product, onHandGrams: 300 })) })
        expect(more.cost).toBeLessThanOrEqual(answer.cost + 1e-4)
        const dearer = (value: number) => value * 1.1
        const inOther = plan({
          ...input,
          items: input.items.map((item) => ({
            ...item,
            offers: item.offers.map((offer) => ({ ...offer, price: { ...offer.price, amount: dearer(offer.price.amount) } })),
          })),
          products: input.products.map((product) => ({ ...product, leftValuePerKg: dearer(product.leftValuePerKg) })),
          readyCut: (input.readyCut ?? []).map((one) => ({ ...one, pricePerPack: dearer(one.pricePerPack) })),
          labour: { ...input.labour, ratePerHour: dearer(input.labour.ratePerHour) },
        })
        expect(inOther.cost).toBeCloseTo(answer.cost * 1.1, 3)
        expect(costOf(input, inOther)).toBeCloseTo(answer.cost, 3)
      }),
      { numRuns: 40 },
    )
  })

  test('enough nine times in ten is enough nine times in ten', () => {
    const of = (mean: number, sdGrams: number, guests: number): BuyingPlanInput => ({
      items: [
        {
          ...{ id: 'bird', meanGrams: mean, sdGrams, offers: [{ id: 'farm', price: { amount: 5, per: 'kg' }, pack: 1 }] },
          ways: [{ id: 'parts', minutes: 5, outputs: [{ product: 'breast', pct: 32, sdPct: 1.5 }] }],
        },
      ],
      products: [{ id: 'breast', leftValuePerKg: 1 }],
      demands: [{ product: 'breast', grams: 400 * mean * 0.32, servicePct: 90, sdPct: guests }],
      labour: { ratePerHour: 18, onCostPct: 0 },
    })
    const probabilities = [0, 4, 9].flatMap((guests) => [120, 300].map((sd) => plan(of(1800, sd, guests)).met[0]?.probability ?? 0))
    for (const probability of probabilities) expect(probability).toBeGreaterThan(0.88)
    const mean = probabilities.reduce((sum, one) => sum + one, 0) / probabilities.length
    expect(mean).toBeLessThan(0.92)
    const [unsafe] = plan({ ...of(1800, 300, 9), demands: [{ product: 'breast', grams: 400 * 1800 * 0.32, sdPct: 9 }] }).met
    expect(unsafe?.probability).toBeLessThan(0.6)
  })

  test('what is held stays as it is held, and the rest is planned around it', () => {
    const { input } = reference<BuyingPlanInput, unknown>('buying-plan')
    const held = plan({ ...input, held: { way: { crown: 3 }, readyCut: { 'ready-breast': 2 } } })
    expect(held.cut.find(({ way }) => way === 'crown')?.items).toBe(3)
    expect(held.readyCut.find(({ id }) => id === 'ready-breast')?.packs).toBe(2)
    expect(held.cost).toBeGreaterThan(plan(input).cost)
  })

  test('more may be held than the day needs: it is bought and cut all the same', () => {
    const { input } = reference<BuyingPlanInput, unknown>('buying-plan')
    const [item] = input.items
    const [offer] = item?.offers ?? []
    const [way] = item?.ways ?? []
    const free = (demands: typeof input.demands) => ({
      ...{ ...input, demands, labour: { ...input.labour, minutesAvailable: 100_000 } },
      items: input.items.map((one) => ({ ...one, offers: one.offers.map(({ most: _most, ...each }) => each) })),
    })
    const few = free(input.demands.map((demand) => ({ ...demand, grams: 10 })))
    const cut = plan({ ...few, held: { way: { [way?.id ?? '']: 25 } } })
    expect([cut.status, cut.cut.find(({ way: id }) => id === way?.id)?.items]).toEqual(['optimal', 25])
    const pack = offer?.pack ?? 1
    const bought = plan({ ...few, held: { offer: { [offer?.id ?? '']: 30 * pack } } })
    expect([bought.status, bought.buy.find(({ offer: id }) => id === offer?.id)?.items]).toEqual(['optimal', 30 * pack])
  })

  test('what cannot be met says by how much at least', () => {
    const { input } = reference<BuyingPlanInput, unknown>('buying-plan')
    const few = plan({
      ...input,
      items: input.items.map((item) => ({ ...item, offers: item.offers.map((offer) => ({ ...offer, least: 0, most: 4 })) })),
      readyCut: [],
    })
    expect(few.status).toBe('infeasible')
    expect(few.allReadyCutCost).toBeNull()
    // eight turkeys give 17 280 g of breast
    expect(few.short.find(({ product }) => product === 'breast')?.grams).toBe(28_800 - 17_280)
  })

  test('nonsense is refused in a sentence', () => {
    const { input } = reference<BuyingPlanInput, unknown>('buying-plan')
    expect(refusal(() => plan({ ...input, demands: [] }))?.[1]).toContain('Nobody is to be fed')
    expect(refusal(() => plan({ ...input, demands: [{ product: 'fin', grams: 1 }] }))).toEqual([
      'demands.0.product',
      'There is no product “fin”.',
    ])
    expect(refusal(() => plan({ ...input, demands: [{ product: 'breast', grams: 1e9 }] }))?.[1]).toContain('over 5 t')
    const itself = [{ id: 'stock', uses: [{ product: 'stock', grams: 1 }], gives: { product: 'stock', grams: 2 }, minutes: 1 }]
    expect(refusal(() => plan({ ...input, followOns: itself }))?.[1]).toBe('“stock” needs what it gives.')
    const round = [
      { id: 'one', uses: [{ product: 'breast', grams: 1 }], gives: { product: 'stock', grams: 2 }, minutes: 1 },
      { id: 'two', uses: [{ product: 'stock', grams: 1 }], gives: { product: 'breast', grams: 2 }, minutes: 1 },
    ]
    const products = [...input.products, { id: 'stock', leftValuePerKg: 1 }]
    expect(refusal(() => plan({ ...input, products, followOns: round }))?.[1]).toContain('needs what it gives, by way of others.')
    expect(refusal(() => plan({ ...input, labour: { ratePerHour: 1, onCostPct: 0, minutesAvailable: 0 } }))?.[1]).toContain(
      'Nobody has a minute',
    )
  })
})

describe('the schedule', () => {
  test('the reference: two people, raw poultry last on a bench or a clean-down', () => {
    const { input, expected } = reference<ScheduleInput, { late: [] }>('schedule')
    const answer = schedule(input)
    expect(answer.late).toEqual(expected.late)
    checkRules(input, answer)
  })

  /** Nobody in two places, no place over its room, nothing before what it waits for, boards cleaned down. */
  function checkRules({ places, jobs, cleanDownMinutes = 15, people }: ScheduleInput, answer: Schedule): void {
    const byId = new Map(answer.jobs.map((job) => [job.id, job]))
    expect(byId.size).toBe(jobs.length)
    const meets = (a: [number, number], b: [number, number]) => a[0] < b[1] && b[0] < a[1]
    const rangeOf = (job: Job): [number, number] => {
      const { from, handsUntil, until } = byId.get(job.id) as Schedule['jobs'][number]
      return job.place?.during === 'wait' ? [handsUntil, until] : [from, job.place?.during === 'both' ? until : handsUntil]
    }
    for (const job of jobs) {
      const placed = byId.get(job.id) as Schedule['jobs'][number]
      expect(placed.handsUntil - placed.from).toBe(job.handsMinutes)
      expect(placed.until - placed.handsUntil).toBe(job.waitMinutes ?? 0)
      expect(placed.from).toBeGreaterThanOrEqual(job.earliest ?? 0)
      for (const other of job.after ?? []) expect(placed.from).toBeGreaterThanOrEqual(byId.get(other)?.until ?? 0)
      if (job.skill) expect(people.some(({ id, skills = [] }) => id === placed.person && skills.includes(job.skill ?? ''))).toBe(true)
      for (const other of answer.jobs) {
        if (other.id === job.id || other.person !== placed.person) continue
        expect(meets([placed.from, placed.handsUntil], [other.from, other.handsUntil])).toBe(false)
      }
    }
    for (const place of places) {
      const here = jobs.filter(({ id }) => byId.get(id)?.place === place.id)
      for (const job of here) {
        const [start] = rangeOf(job)
        const used = here.filter((other) => rangeOf(other)[0] <= start && rangeOf(other)[1] > start)
        expect(used.reduce((sum, other) => sum + (other.place?.room ?? 0), 0)).toBeLessThanOrEqual(place.room)
        if (place.isSingle) expect(used.length).toBeLessThanOrEqual(1)
      }
      const boarded = here.filter(({ board }) => board !== undefined).sort((a, b) => rangeOf(a)[0] - rangeOf(b)[0])
      boarded.forEach((job, index) => {
        const next = boarded[index + 1]
        if (job.board === 'raw poultry' && next?.board === 'other')
          expect(rangeOf(next)[0] - rangeOf(job)[1]).toBeGreaterThanOrEqual(cleanDownMinutes)
      })
    }
  }

  const smallDay = (most: number) =>
    fc
      .array(
        fc.record({
          hands: fc.integer({ min: 5, max: 60 }),
          wait: fc.constantFrom(0, 0, 30, 90),
          skill: fc.constantFrom(undefined, 'fish'),
          at: fc.constantFrom('bench', 'oven', 'pot', 'none'),
          late: fc.boolean(),
          raw: fc.boolean(),
          after: fc.nat({ max: 6 }),
          due: fc.option(fc.integer({ min: 60, max: 300 })),
        }),
        { minLength: 1, maxLength: most },
      )
      .map(
        (drawn): ScheduleInput => ({
          people: [
            { id: 'a', from: 0, to: 480 },
            { id: 'b', from: 0, to: 480, skills: ['fish'] },
          ],
          places: [
            { id: 'bench', kind: 'bench', room: 1 },
            { id: 'oven', kind: 'oven', room: 2 },
            { id: 'pot', kind: 'pot', room: 80, isSingle: true },
          ],
          jobs: drawn.map(({ hands, wait, skill, at, raw, after, due, late }, index) => ({
            ...{ id: `j${index}`, handsMinutes: hands, waitMinutes: wait, ...(skill ? { skill } : {}) },
            ...(at === 'bench'
              ? { place: { kind: 'bench', room: 1, during: 'hands' as const }, board: raw ? ('raw poultry' as const) : ('other' as const) }
              : {}),
            ...(at === 'oven' ? { place: { kind: 'oven', room: 1, during: 'wait' as const } } : {}),
            ...(at === 'pot' ? { place: { kind: 'pot', room: 20, during: 'both' as const } } : {}),
            isLate: late,
            ...(after < index && after % 2 === 0 ? { after: [`j${after}`] } : {}),
            ...(due === null ? {} : { due }),
          })),
        }),
      )

  test('whatever the day, every rule holds, and nothing ends before the bound', () => {
    fc.assert(
      fc.property(smallDay(9), (input) => {
        const answer = schedule(input)
        checkRules(input, answer)
        const last = Math.max(...answer.jobs.map(({ until }) => until))
        expect(last).toBeGreaterThanOrEqual(answer.lowerBound)
      }),
      { numRuns: 80 },
    )
  })

  test('small days: as little late as the best of every order there is', () => {
    const lateness = (answer: Schedule) => answer.late.reduce((sum, { minutes }) => sum + minutes, 0)
    const ordersOf = (jobs: readonly Job[]): Job[][] =>
      jobs.length <= 1 ? [[...jobs]] : jobs.flatMap((job) => ordersOf(jobs.filter((other) => other !== job)).map((rest) => [job, ...rest]))
    fc.assert(
      fc.property(smallDay(4), (input) => {
        // an order is tried alone by a chain of holds: each job as early as the ones before it leave room for
        const best = Math.min(...ordersOf(input.jobs).map((order) => lateness(inOrder(input, order))))
        expect(lateness(schedule(input))).toBeLessThanOrEqual(best)
      }),
      { numRuns: 25 },
    )
  })

  /** The jobs placed in one order, each held where the one before leaves it. */
  function inOrder(input: ScheduleInput, order: readonly Job[]): Schedule {
    let held: Job[] = []
    let answer = schedule({ ...input, jobs: [] })
    const rest = [...order]
    while (rest.length > 0) {
      const next = rest.findIndex(({ after = [] }) => after.every((id) => held.some((job) => job.id === id)))
      const [job] = rest.splice(Math.max(next, 0), 1) as [Job]
      answer = schedule({ ...input, jobs: [...held, job] })
      held = [...held, { ...job, heldAt: answer.jobs.find(({ id }) => id === job.id)?.from ?? 0 }]
    }
    return answer
  }

  test('what is held stays; what is better late starts as late as it can', () => {
    const jobs: Job[] = [
      { id: 'salt', handsMinutes: 20, heldAt: 60 },
      { id: 'roast', handsMinutes: 10, waitMinutes: 60, after: ['salt'], due: 300, isLate: true },
    ]
    const answer = schedule({ people: [{ id: 'a', from: 0, to: 480 }], places: [], jobs })
    expect(answer.jobs.map(({ from, until }) => [from, until])).toEqual([
      [60, 80],
      [230, 300],
    ])
  })

  test('nonsense is refused in a sentence', () => {
    const people = [{ id: 'a', from: 0, to: 480 }]
    const of = (jobs: Job[], changes: Partial<ScheduleInput> = {}) => refusal(() => schedule({ people, places: [], jobs, ...changes }))?.[1]
    const circle = [
      { id: 'a', handsMinutes: 1, after: ['b'] },
      { id: 'b', handsMinutes: 1, after: ['a'] },
    ]
    expect(of(circle)).toBe('“a” waits for itself, by way of others.')
    expect(of([{ id: 'a', handsMinutes: 1 }], { people: [] })).toContain('Nobody works that day')
    expect(of([], { people: [{ id: 'a', from: 60, to: 60 }] })).toContain('a has no minute')
    expect(of([{ id: 'a', handsMinutes: 1, skill: 'fugu' }])).toContain('nobody can')
    expect(of([{ id: 'a', handsMinutes: 1, due: 600_000 }])).toContain('four weeks')
    expect(of([{ id: 'a', handsMinutes: 1, place: { kind: 'oven', room: 9, during: 'wait' } }])).toContain('none so large')
  })
})
