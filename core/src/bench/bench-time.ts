/** A sign of work at the bench: a step begun, a weighing, a note. Moments in milliseconds. */
export interface SignOfWork {
  personId: string
  at: number
  /** The step that the person is at from now on; absent where the sign says nothing of it. */
  step?: number
}

export interface BenchTime {
  /** Minutes of all people together. */
  minutes: number
  minutesByStep: ReadonlyMap<number, number>
  minutesByPerson: ReadonlyMap<string, number>
}

/**
 * Minutes of work at the bench, from what was done there anyway. Each person's time runs from sign to sign; after longer
 * than `breakMinutes` without any sign that person counts as away for that stretch.
 *
 * @param signs in any order
 * @param until the end of the last stretch, in milliseconds: now, or when the run was finished
 * @example benchTime([{ personId: 'a', at: 0, step: 0 }, { personId: 'a', at: 600_000 }], 600_000, 15).minutes === 10
 */
export function benchTime(signs: readonly SignOfWork[], until: number, breakMinutes: number): BenchTime {
  const minutesByStep = new Map<number, number>()
  const minutesByPerson = new Map<string, number>()
  const people = new Map<string, SignOfWork[]>()
  for (const sign of signs) people.set(sign.personId, [...(people.get(sign.personId) ?? []), sign])
  for (const [personId, own] of people) {
    const inOrder = [...own].sort((a, b) => a.at - b.at)
    let step: number | undefined
    inOrder.forEach((sign, index) => {
      if (sign.step !== undefined) step = sign.step
      const next = inOrder[index + 1]?.at ?? Math.max(sign.at, until)
      const minutes = (next - sign.at) / 60_000
      if (minutes > breakMinutes) return
      minutesByPerson.set(personId, (minutesByPerson.get(personId) ?? 0) + minutes)
      if (step !== undefined) minutesByStep.set(step, (minutesByStep.get(step) ?? 0) + minutes)
    })
  }
  return { minutes: [...minutesByPerson.values()].reduce((sum, minutes) => sum + minutes, 0), minutesByStep, minutesByPerson }
}
