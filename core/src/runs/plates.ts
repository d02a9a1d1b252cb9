import { type EvenPlates, evenPlates } from '../portions/even-plates.ts'
import { type LedgerLine, standing } from './ledger.ts'
import type { Role } from './output.ts'
import type { RunTub } from './run-tub.ts'

/** What a cut sheet says of an output, as far as plates of several pieces go. */
export interface PlateRule {
  key: string
  role: Role
  destination: string
  portion?: { pieces?: number | undefined } | undefined
}

interface PlatedRun<Tub> {
  sheet?: { outputs: readonly PlateRule[] } | undefined
  tubs: readonly Tub[]
  weighings: readonly LedgerLine[]
}

/**
 * The outputs of a sheet whose pieces make plates together: as many sorts as a plate has pieces, all for one destination, or
 * one sort alone. `undefined` where portions are single pieces.
 * @example platedOutputs([{ key: 'breast', portion: { pieces: 2 } }, { key: 'legs', portion: { pieces: 2 } }])?.perPlate === 2
 */
export function platedOutputs<Rule extends PlateRule>(outputs: readonly Rule[]): { perPlate: number; outputs: Rule[] } | undefined {
  const rule = outputs.find((output) => output.portion?.pieces !== undefined)
  const perPlate = rule?.portion?.pieces
  if (!rule || perPlate === undefined) return undefined
  const partners = outputs.filter(
    (output) => output.key === rule.key || (output.role === rule.role && output.destination === rule.destination),
  )
  return { perPlate, outputs: partners.length === perPlate ? partners : [rule] }
}

/**
 * What portions are called: by their output, or by the sorts of pieces on a plate.
 * @example nameOfPortions({ name: 'Breasts' }, [{ name: 'Breasts' }, { name: 'Legs' }]) === 'Plates of breasts and legs'
 */
export function nameOfPortions(output: { name: string }, plated: readonly { name: string }[] | undefined): string {
  return plated ? `Plates of ${plated.map(({ name }) => name.toLowerCase()).join(' and ')}` : output.name
}

/** The tubs of those outputs. */
export function platedTubs<Tub extends Pick<RunTub, 'id' | 'key'>>({
  sheet,
  tubs,
}: Pick<PlatedRun<Tub>, 'sheet' | 'tubs'>): { perPlate: number; tubs: Tub[] } | undefined {
  const plated = sheet && platedOutputs(sheet.outputs)
  return plated && { perPlate: plated.perPlate, tubs: plated.outputs.flatMap((output) => tubs.filter((tub) => tub.key === output.key)) }
}

/** A piece of a plate: where it is in the list of all, and the tub that it lies in. */
export interface PlatedPiece<Tub> {
  tenths: number
  kind: number
  tub: Tub
}

/** The plates that a run's pieces make, as even as they come; `undefined` where its portions are single pieces. */
export function platesOfRun<Tub extends Pick<RunTub, 'id' | 'key'>>(
  run: PlatedRun<Tub>,
): (EvenPlates & { perPlate: number; tubs: Tub[]; pieces: PlatedPiece<Tub>[] }) | undefined {
  const plated = platedTubs(run)
  if (!plated) return undefined
  const pieces = standing(run.weighings).flatMap((line) => {
    const kind = plated.tubs.findIndex((tub) => tub.id === line.tubId)
    const tub = plated.tubs[kind]
    return tub ? [{ tenths: line.tenths, kind, tub }] : []
  })
  return { ...evenPlates(pieces, plated.perPlate), ...plated, pieces }
}
