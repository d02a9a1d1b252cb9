import { benchTime, type SignOfWork } from '../bench/bench-time.ts'

/** A run as far as its pace goes. Moments as ISO texts. */
export interface PacedRun {
  cook: { id: string }
  startedAt: string
  pieces: number
  minutes: number | null
  sheet: { station: readonly string[]; steps: readonly { title: string; outputs?: readonly string[] | undefined }[] }
  tubs: readonly { id: string; key?: string | null | undefined }[]
  weighings: readonly { tubId: string; weighedAt: string; reversesId: string | null; by: { id: string } }[]
  events: readonly { what: { kind: string; step?: number | undefined }; at: string; by: { id: string } }[]
}

/**
 * Minutes an item by step of the sheet, from what was done at the bench anyway. Where nobody went through the steps, the time before a weighing
 * belongs to the step at which that is weighed. The minutes that were noted at the end share out by it.
 *
 * @param breakMinutes longer without any sign is a break
 */
export function paceOfRun(run: PacedRun, breakMinutes: number): ReadonlyMap<string, number> {
  const { sheet, cook, startedAt, pieces, minutes } = run
  const titles = [...(sheet.station.length > 0 ? ['Set the station'] : []), ...sheet.steps.map(({ title }) => title)]
  const signs = run.events.some(({ what }) => what.kind === 'step') ? byEvents(run) : byWeighings(run, titles)
  const { minutesByStep, minutes: signed } = benchTime(
    [{ personId: cook.id, at: Date.parse(startedAt), step: 0 }, ...signs],
    0,
    breakMinutes,
  )
  const scale = (minutes !== null && signed > 0 ? minutes / signed : 1) / pieces
  return new Map([...minutesByStep].filter(([, taken]) => taken > 0).map(([step, taken]) => [titles[step] ?? '', taken * scale]))
}

const atOf = (moment: string) => Date.parse(moment)

function byEvents({ events, weighings }: PacedRun): SignOfWork[] {
  return [
    ...weighings.map(({ by, weighedAt }) => ({ personId: by.id, at: atOf(weighedAt) })),
    ...events
      .filter(({ what }) => what.kind !== 'changed')
      .map(({ what, by, at }) => ({
        personId: by.id,
        at: atOf(at),
        ...(what.kind === 'step' && what.step !== undefined ? { step: what.step } : {}),
      })),
  ]
}

function byWeighings({ sheet, tubs, weighings, cook, startedAt }: PacedRun, titles: readonly string[]): SignOfWork[] {
  const first = titles.length - sheet.steps.length
  const stepOf = (tubId: string) => {
    const key = tubs.find(({ id }) => id === tubId)?.key
    const step = sheet.steps.findIndex(({ outputs = [] }) => key != null && outputs.includes(key))
    return step < 0 ? undefined : step + first
  }
  const lines = weighings.filter(({ reversesId }) => reversesId === null).sort((a, b) => atOf(a.weighedAt) - atOf(b.weighedAt))
  const moments = [startedAt, ...lines.map(({ weighedAt }) => weighedAt)]
  return moments.flatMap((moment, index): SignOfWork[] => {
    const next = lines[index]
    const step = next && stepOf(next.tubId)
    return [{ personId: cook.id, at: atOf(moment), ...(step === undefined ? {} : { step }) }]
  })
}

export interface StepPace {
  step: string
  /** Minutes an item: of one's last run, one's best, and the house's middle one; `null` where there is none. */
  last: number | null
  best: number | null
  house: number | null
}

/**
 * One's pace by step against one's own best and the house's, in the order of the sheet.
 *
 * @param own one's runs, the earliest first
 * @param house the runs of everybody else
 * @example paceByStep(['Cut'], [new Map([['Cut', 4]]), new Map([['Cut', 5]])], [])[0] // { step: 'Cut', last: 5, best: 4, house: null }
 */
export function paceByStep(
  steps: readonly string[],
  own: readonly ReadonlyMap<string, number>[],
  house: readonly ReadonlyMap<string, number>[],
): StepPace[] {
  const of = (runs: readonly ReadonlyMap<string, number>[], step: string) =>
    runs.map((run) => run.get(step)).filter((minutes) => minutes !== undefined)
  return steps
    .map((step) => {
      const mine = of(own, step)
      return {
        step,
        last: own.at(-1)?.get(step) ?? null,
        best: mine.length > 0 ? Math.min(...mine) : null,
        house: middleOf(of(house, step)),
      }
    })
    .filter(({ best, house: others }) => best !== null || others !== null)
}

function middleOf(values: readonly number[]): number | null {
  if (values.length === 0) return null
  const sorted = [...values].sort((a, b) => a - b)
  const half = Math.floor(sorted.length / 2)
  return sorted.length % 2 === 1 ? (sorted[half] as number) : ((sorted[half - 1] as number) + (sorted[half] as number)) / 2
}
