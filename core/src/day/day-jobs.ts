import type { Board, Job, Place, Shift } from './schedule.ts'

const minutesOfDay = 24 * 60
/** A cut of more than this is shared out in parts, so that several can stand at it. */
const mostCutMinutes = 60
/** What is due is on the pass so long before its service. */
const passMinutes = 10

export const stepKinds = ['dry', 'salt', 'bond', 'simmer', 'roast', 'rest', 'finish'] as const
export type StepKind = (typeof stepKinds)[number]
export const placeKinds = ['bench', 'pot', 'oven', 'shelf'] as const
export type PlaceKind = (typeof placeKinds)[number]
export const crewSkills = ['cut', 'sort', 'cook'] as const
export type CrewSkill = (typeof crewSkills)[number]

/** Where a step waits, and what one unit of that room takes where the kitchen has not said: kg a litre, portions a tray, kg a kg. */
const roomOf: Partial<Record<StepKind, { kind: PlaceKind; usual: number; by: 'portions' | 'kg' }>> = {
  dry: { kind: 'shelf', usual: 1, by: 'kg' },
  salt: { kind: 'shelf', usual: 1, by: 'kg' },
  bond: { kind: 'shelf', usual: 1, by: 'kg' },
  simmer: { kind: 'pot', usual: 0.45, by: 'kg' },
  roast: { kind: 'oven', usual: 35, by: 'portions' },
}

export interface CookingStep {
  kind: StepKind
  handsMinutes: number
  waitMinutes: number
  /** What a tray, or a litre, takes of it; `null` for the usual. */
  perRoom: number | null
  /** The core at which it is taken out: it rises a few degrees at rest. */
  pullAtC: number | null
}

export interface DayOfWork {
  services: readonly { id: string; name: string; at: string }[]
  dishes: readonly {
    id: string
    serviceId: string
    name: string
    product: string
    portions: number
    /** Raw, all portions together. */
    grams: number
    steps: readonly CookingStep[]
  }[]
  /** Who works when; `daysBefore` the day itself. Rows of one person share `who`. */
  crew: readonly { who: string; daysBefore: number; from: string; to: string; skills: readonly CrewSkill[] }[]
  places: readonly { id: string; name: string; kind: PlaceKind; room: number }[]
  /** When something bought comes, how long it thaws, and how many days before it must be ordered. */
  arrivals: readonly { itemId: string; daysBefore: number; at: string; thawHours: number; orderDays: number }[]
  /** So many benches keep one sorter busy; 0 where the cutters pack themselves. */
  benchesPerSorter: number
  /** Starts and people decided by hand: minutes of the schedule. */
  held: Readonly<Record<string, { at?: number | undefined; who?: string | undefined }>>
}

/** What was decided to be cut a way. */
export interface PlannedCut {
  way: string
  itemId: string
  itemName: string
  wayName: string
  board: Board
  items: number
  itemGrams: number
  minutesPerItem: number
  setupMinutes: number
  outputs: readonly { product: string; name: string; pct: number }[]
}

/** Something that needs no cutting: ready-cut that comes, or what lies in the walk-in. */
export interface PlannedReady {
  itemId: string | null
  name: string
  product: string
  grams: number
}

export type DayJobKind = 'receive' | 'thaw' | 'cut' | 'pack' | StepKind

export interface DayJob extends Job {
  kind: DayJobKind
  name: string
  /** How much of what, in words. */
  detail: string
  pullAtC: number | null
  /** What a cut gives by the minute, g, for the tubs. */
  gives: readonly { product: string; name: string; grams: number }[]
  itemId: string | null
  way: string | null
  items: number
}

export interface DayJobs {
  /** Days before the day on which the schedule begins: minute 0 is that midnight. */
  startsBefore: number
  jobs: DayJob[]
  people: Shift[]
  places: Place[]
  /** What must be ordered how many days before the day. */
  orderBy: { name: string; daysBefore: number }[]
  troubles: string[]
}

/**
 * Everything that has to be done for a day, as the schedule takes it: what comes in, thaws, is cut in parts that several can share,
 * packed, and cooked by each dish's own steps in batches that fit the largest pot or oven, due at its service.
 * Minutes are those of the kitchen's clock from midnight `startsBefore` days ahead.
 */
export function jobsOfDay(day: DayOfWork, cuts: readonly PlannedCut[], ready: readonly PlannedReady[]): DayJobs {
  const startsBefore = Math.max(0, ...[...day.crew, ...day.arrivals].map(({ daysBefore }) => daysBefore))
  const minuteOf = (daysBefore: number, at: string) => (startsBefore - daysBefore) * minutesOfDay + clockMinutes(at)
  const troubles: string[] = []
  const hasSkill = (skill: CrewSkill) => day.crew.some(({ skills }) => skills.includes(skill))
  const jobs: DayJob[] = []
  const add = (
    job: Partial<DayJob> & Pick<DayJob, 'id' | 'kind' | 'name' | 'handsMinutes'>,
    needs?: { kind: PlaceKind; room: number; during: 'hands' | 'wait' | 'both' },
    skill?: CrewSkill,
  ): DayJob => {
    const fits = needs && day.places.some(({ kind, room }) => kind === needs.kind && room >= needs.room)
    if (needs && !fits) trouble(troubles, noRoom(needs.kind, day.places))
    if (skill && !hasSkill(skill)) trouble(troubles, `Nobody of that day is noted as one who can ${skill}: anybody does it.`)
    const held = day.held[job.id]
    const made: DayJob = {
      ...{ detail: '', pullAtC: null, gives: [], itemId: null, way: null, items: 0 },
      ...job,
      ...(fits ? { place: needs } : {}),
      ...(skill && hasSkill(skill) ? { skill } : {}),
      ...(held?.at === undefined ? {} : { heldAt: held.at }),
      ...(held?.who !== undefined && day.crew.some(({ who }) => who === held.who) ? { heldBy: held.who } : {}),
    }
    jobs.push(made)
    return made
  }

  // what comes in: once for each item that is cut, and what is ready-cut together where it comes together
  const incoming = new Map<string, { id: string; name: string; detail: string; kg: number; itemId: string | null; arrival: Arrival }>()
  const readyAfter = new Map<string, string>()
  const orderBy: DayJobs['orderBy'] = []
  const comes = (itemId: string, name: string, kg: number, standsFor: string) => {
    const arrival = day.arrivals.find((one) => one.itemId === itemId) ?? day.arrivals.find((one) => one.itemId === standsFor)
    if (!arrival) {
      trouble(troubles, `It is not said when ${name} comes: it is taken to be there when the work begins.`)
      return
    }
    const isWhole = itemId === standsFor
    const id = isWhole ? `receive:${itemId}` : `receive:ready-cut:${arrival.daysBefore}:${arrival.at}`
    const known = incoming.get(id)
    const detail = known && !isWhole ? `${known.detail}, ${shortName(name)}` : shortName(name)
    const sum = (known?.kg ?? 0) + kg
    incoming.set(id, { id, name: isWhole ? shortName(name) : 'ready-cut', detail, kg: sum, itemId: isWhole ? itemId : null, arrival })
    readyAfter.set(itemId, id)
    const days = arrival.daysBefore + arrival.orderDays
    if (!orderBy.some((one) => one.name === name)) orderBy.push({ name, daysBefore: days })
  }
  for (const { itemId, itemName, items, itemGrams } of cuts) if (items > 0) comes(itemId, itemName, (items * itemGrams) / 1000, itemId)
  // it comes with what it stands for, where nothing else is said
  for (const { itemId, name, product, grams } of ready) if (itemId) comes(itemId, name, grams / 1000, product.split(':')[0] ?? '')
  for (const { id, name, detail, kg, itemId, arrival } of incoming.values()) {
    const receive = add({
      ...{ id, kind: 'receive', name: `Receive ${name}`, handsMinutes: Math.max(5, Math.ceil(kg / 15)), itemId },
      ...{ detail: itemId ? kgText(kg) : `${kgText(kg)}: ${detail}`, earliest: minuteOf(arrival.daysBefore, arrival.at) },
    })
    if (arrival.thawHours > 0 && itemId) {
      const thaw = add(
        {
          ...{ id: `thaw:${itemId}`, kind: 'thaw', name: `Thaw ${name}`, handsMinutes: 5, waitMinutes: Math.round(arrival.thawHours * 60) },
          ...{ detail: kgText(kg), after: [receive.id], itemId },
        },
        { kind: 'shelf', room: Math.ceil(kg), during: 'both' },
      )
      readyAfter.set(itemId, thaw.id)
    }
  }

  /** By product: what gives how much of it, in the order in which it is there. */
  const supplies = new Map<string, { jobs: readonly string[]; grams: number }[]>()
  const supply = (product: string, from: readonly string[], grams: number) => {
    if (grams > 0) supplies.set(product, [...(supplies.get(product) ?? []), { jobs: from, grams }])
  }
  for (const { itemId, product, grams } of ready) {
    const comesBy = itemId === null ? undefined : readyAfter.get(itemId)
    supply(product, comesBy ? [comesBy] : [], grams)
  }
  for (const cut of cuts) {
    const parts = Math.min(cut.items, Math.max(1, Math.ceil((cut.items * cut.minutesPerItem) / mostCutMinutes)))
    for (let part = 0; part < parts; part += 1) {
      const items = Math.floor(((part + 1) * cut.items) / parts) - Math.floor((part * cut.items) / parts)
      const handsMinutes = Math.max(1, Math.ceil(items * cut.minutesPerItem + cut.setupMinutes))
      const after = readyAfter.get(cut.itemId)
      const gives = cut.outputs.map(({ product, name, pct }) => ({ product, name, grams: (items * cut.itemGrams * pct) / 100 }))
      const job = add(
        {
          ...{
            id: `cut:${cut.way}:${part + 1}`,
            kind: 'cut',
            name: `Cut ${shortName(cut.itemName)}`,
            handsMinutes,
            gives,
            board: cut.board,
          },
          ...{ detail: `${items} × ${cut.wayName}`, itemId: cut.itemId, way: cut.way, items, after: after ? [after] : [] },
        },
        { kind: 'bench', room: 1, during: 'hands' },
        'cut',
      )
      for (const { product, grams } of gives) supply(product, [job.id], grams)
      if (day.benchesPerSorter > 0)
        add(
          {
            ...{ id: `pack:${cut.way}:${part + 1}`, kind: 'pack', name: `Sort and pack ${shortName(cut.itemName)}` },
            ...{ handsMinutes: Math.max(1, Math.ceil(handsMinutes / day.benchesPerSorter)), detail: `${items} × ${cut.wayName}` },
            ...{ after: [job.id], itemId: cut.itemId },
          },
          undefined,
          'sort',
        )
    }
  }

  const dueOf = (serviceId: string) => {
    const service = day.services.find(({ id }) => id === serviceId)
    return service ? startsBefore * minutesOfDay + clockMinutes(service.at) - passMinutes : undefined
  }
  const taken = new Map<string, number>()
  const inOrder = [...day.dishes].sort((a, b) => (dueOf(a.serviceId) ?? 0) - (dueOf(b.serviceId) ?? 0))
  for (const dish of inOrder) {
    const due = dueOf(dish.serviceId)
    const steps = dish.steps
    const batches = Math.max(1, ...steps.map((step) => batchesOf(step, dish, day.places)))
    for (let batch = 0; batch < batches; batch += 1) {
      const from = taken.get(dish.product) ?? 0
      const to = from + dish.grams / batches
      taken.set(dish.product, to)
      let before = suppliersOf(supplies.get(dish.product) ?? [], from, to)
      if (steps.length === 0) dueForAll(jobs, before, due)
      const portions = Math.ceil(dish.portions / batches)
      for (const [at, step] of steps.entries()) {
        const room = roomOf[step.kind]
        const job = add(
          {
            ...{ id: `dish:${dish.id}:${at}:${batch + 1}`, kind: step.kind, name: `${dish.name}: ${step.kind}`, after: before },
            ...{ handsMinutes: step.handsMinutes, waitMinutes: step.waitMinutes, pullAtC: step.pullAtC, isLate: true },
            detail: batches > 1 ? `${portions} portions, ${batch + 1} of ${batches}` : `${portions} portions`,
            ...(at === steps.length - 1 && due !== undefined ? { due } : {}),
          },
          room && { kind: room.kind, room: roomNeeded(step, dish, batches), during: room.kind === 'shelf' ? 'wait' : 'both' },
          step.handsMinutes > 0 && step.kind !== 'rest' ? 'cook' : undefined,
        )
        before = [job.id]
      }
    }
  }
  const people = day.crew.map(({ who, daysBefore, from, to, skills }): Shift => {
    const [start, end] = [minuteOf(daysBefore, from), minuteOf(daysBefore, to)]
    // a shift that ends before it begins ends after midnight
    return { id: who, from: start, to: end <= start ? end + minutesOfDay : end, skills }
  })
  return {
    startsBefore,
    jobs,
    people,
    places: day.places.map(({ id, kind, room }) => ({ id, kind, room, isSingle: kind === 'pot' })),
    orderBy,
    troubles,
  }
}

/** Minutes of a clock's hour, `07:30` being 450.
 * @example clockMinutes('07:30') === 450
 */
export function clockMinutes(at: string): number {
  const [hours = 0, minutes = 0] = at.split(':').map(Number)
  return hours * 60 + minutes
}

type Arrival = DayOfWork['arrivals'][number]

/** What a bench calls it: “Turkey” of “Turkey, whole, oven-ready”. */
const shortName = (name: string) => name.split(',')[0] ?? name

const kgText = (kg: number) => `${kg < 10 ? kg.toFixed(1) : Math.round(kg)} kg`

function trouble(troubles: string[], words: string): void {
  if (!troubles.includes(words)) troubles.push(words)
}

function noRoom(kind: PlaceKind, places: DayOfWork['places']): string {
  return places.some((place) => place.kind === kind)
    ? `What is to be in one ${kind} at once is more than the largest takes: it is planned without it.`
    : `No ${kind} is noted for the day: what needs one is planned without it.`
}

type DishOfDay = DayOfWork['dishes'][number]

/** Litres, trays or kg that a step of a dish needs, when it is done in so many batches. */
function roomNeeded(step: CookingStep, { portions, grams }: DishOfDay, batches: number): number {
  const room = roomOf[step.kind]
  if (!room) return 0
  const amount = room.by === 'portions' ? portions : grams / 1000
  return Math.max(1, Math.ceil(amount / batches / (step.perRoom ?? room.usual)))
}

/** Into how many batches a step is split to fit the largest place of its kind. */
function batchesOf(step: CookingStep, dish: DishOfDay, places: DayOfWork['places']): number {
  const kind = roomOf[step.kind]?.kind
  const largest = Math.max(0, ...places.filter((place) => place.kind === kind).map(({ room }) => room))
  if (largest === 0) return 1
  let batches = 1
  while (batches < 40 && roomNeeded(step, dish, batches) > largest) batches += 1
  return batches
}

/** The jobs that give the grams of a product from one to another. */
function suppliersOf(supplies: readonly { jobs: readonly string[]; grams: number }[], from: number, to: number): string[] {
  let at = 0
  const needed = new Set<string>()
  for (const { jobs, grams } of supplies) {
    if (at < to && at + grams > from) for (const id of jobs) needed.add(id)
    at += grams
  }
  return [...needed]
}

/** A dish that nobody cooks is due as it is cut. */
function dueForAll(jobs: readonly DayJob[], ids: readonly string[], due: number | undefined): void {
  if (due === undefined) return
  for (const job of jobs) if (ids.includes(job.id)) job.due = Math.min(job.due ?? due, due)
}
