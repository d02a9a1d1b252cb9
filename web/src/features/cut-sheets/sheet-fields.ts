import { type CutSheetBody, type SheetStep, stepKey } from '@fleam/contract/cut-sheets'
import { numberOf } from '../../ui/fields.tsx'

type Output = CutSheetBody['outputs'][number]
type Portion = NonNullable<Output['portion']>

export interface StepFields extends Omit<SheetStep, 'minutes' | 'check' | 'caution' | 'knife' | 'outputs'> {
  minutes: string
  check: string
  caution: string
  knife: string
  outputs: string[]
}

interface PortionFields extends Omit<Portion, 'targetGrams' | 'toleranceGrams' | 'pieces' | 'thicknessCm'> {
  targetGrams: string
  toleranceGrams: string
  pieces: string
  thicknessCm: string
}

export interface OutputFields extends Omit<Output, 'lowPct' | 'typicalPct' | 'highPct' | 'portion' | 'kind'> {
  kind: string
  lowPct: string
  typicalPct: string
  highPct: string
  /** Whether it is portioned; the figures of the portion stay while it is not. */
  isPortioned: boolean
  portion: PortionFields
}

interface RangeFields {
  low: string
  high: string
}

/** A cut sheet as the editor holds it: figures as typed, lists as lines. Named as in the request, so that refusals find them. */
export interface SheetFields {
  body: {
    name: string
    school: string
    board: string
    weightKg: RangeFields
    minutes: RangeFields
    station: string
    cautions: string
    steps: StepFields[]
    outputs: OutputFields[]
  }
}

const text = (value: number | undefined) => (value === undefined ? '' : String(value))
const range = ({ low, high }: { low: number; high: number }) => ({ low: text(low), high: text(high) })

export function stepFieldsOf(step: SheetStep): StepFields {
  const { minutes, check = '', caution = '', knife = '', outputs = [] } = step
  return { ...step, ...(step.optional ? { key: stepKey(step) } : {}), minutes: text(minutes), check, caution, knife, outputs: [...outputs] }
}

export function outputFieldsOf(output: Output): OutputFields {
  const portion = output.portion ?? { targetGrams: 180, toleranceGrams: 10, askedAtReceiving: output.role === 'main' }
  return {
    ...output,
    kind: output.kind ?? '',
    lowPct: text(output.lowPct),
    typicalPct: text(output.typicalPct),
    highPct: text(output.highPct),
    isPortioned: output.portion !== undefined,
    portion: {
      ...portion,
      targetGrams: text(portion.targetGrams),
      toleranceGrams: text(portion.toleranceGrams),
      pieces: text(portion.pieces ?? 1),
      thicknessCm: text(portion.thicknessCm),
    },
  }
}

export function sheetFieldsOf(body: CutSheetBody): SheetFields {
  const { name, school, board, weightKg, minutes, station, cautions, steps, outputs } = body
  return {
    body: {
      name,
      school,
      board,
      weightKg: range(weightKg),
      minutes: range(minutes),
      station: station.join('\n'),
      cautions: cautions.join('\n'),
      steps: steps.map(stepFieldsOf),
      outputs: outputs.map(outputFieldsOf),
    },
  }
}

/** The sheet that the fields make; what the editor does not show stays as it was. */
export function sheetOfFields({ body: fields }: SheetFields, known: CutSheetBody): CutSheetBody {
  return {
    ...known,
    name: fields.name,
    school: fields.school,
    board: fields.board,
    weightKg: numbers(fields.weightKg),
    minutes: numbers(fields.minutes),
    station: linesOf(fields.station),
    cautions: linesOf(fields.cautions),
    steps: fields.steps.map(stepOf),
    outputs: fields.outputs.map(outputOf),
  }
}

const numbers = ({ low, high }: RangeFields) => ({ low: numberOf(low), high: numberOf(high) })

function linesOf(typed: string): string[] {
  return typed
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
}

/** A part of a sheet that may be absent: left out where its field is empty. */
function given<Key extends string>(key: Key, typed: string): { [key in Key]?: string } {
  return (typed.trim() === '' ? {} : { [key]: typed }) as { [key in Key]?: string }
}

function givenNumber<Key extends string>(key: Key, typed: string): { [key in Key]?: number } {
  return (typed.trim() === '' ? {} : { [key]: numberOf(typed) }) as { [key in Key]?: number }
}

function stepOf({ key, minutes, check, caution, knife, outputs, ...step }: StepFields): SheetStep {
  return {
    // a step whose title stands is known by it
    ...(key === undefined || key === step.title ? {} : { key }),
    ...step,
    ...givenNumber('minutes', minutes),
    ...given('check', check),
    ...given('caution', caution),
    ...given('knife', knife),
    ...(outputs.length > 0 ? { outputs } : {}),
  }
}

function outputOf({ lowPct, typicalPct, highPct, isPortioned, portion, kind, ...named }: OutputFields): Output {
  const output = { ...named, ...(named.role === 'main' ? given('kind', kind) : {}) }
  const { targetGrams, toleranceGrams, pieces, thicknessCm, ...rule } = portion
  const shares = { lowPct: numberOf(lowPct), typicalPct: numberOf(typicalPct), highPct: numberOf(highPct) }
  if (!isPortioned) return { ...output, ...shares }
  return {
    ...output,
    ...shares,
    portion: {
      ...rule,
      targetGrams: numberOf(targetGrams),
      toleranceGrams: numberOf(toleranceGrams),
      ...(numberOf(pieces) === 1 ? {} : givenNumber('pieces', pieces)),
      ...givenNumber('thicknessCm', thicknessCm),
    },
  }
}
