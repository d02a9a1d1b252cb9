import type { BestMixInput, PieceType } from '@fleam/core/plan/best-mix'
import { withoutStrip } from '@fleam/core/plan/pin-bone-strip'
import type { Station } from '@fleam/core/plan/profile'
import { numberOf } from '../../ui/fields.tsx'
import { type PieceFields, fieldsOf as pieceFieldsOf, presets, stationsOf } from './plan-fields.ts'

/** A kind of piece that is wanted, as typed. */
export interface TypeEntry {
  name: string
  target: string
  from: string
  to: string
  thin: string
  thick: string
  face: string
  value: string
  most: string
  least: string
  place: '' | 'thick-end' | 'thin-end'
}

export interface PlanFields {
  piece: PieceFields
  types: TypeEntry[]
  tipsValue: string
  strip: { from: string; to: string; width: string }
  foldsTail: boolean
}

export const steak: TypeEntry = {
  name: 'Steak',
  target: '180',
  from: '172',
  to: '190',
  thin: '25',
  thick: '55',
  face: '6.5',
  value: '11.5',
  most: '',
  least: '',
  place: '',
}
export const muscleStart: PlanFields = {
  piece: pieceFieldsOf(presets[0]?.stations ?? [], 1980),
  types: [
    steak,
    { ...steak, name: 'Tournedos', target: '112', from: '105', to: '120', thin: '20', thick: '45', face: '4.5', value: '6.2', most: '4' },
  ],
  tipsValue: '17',
  strip: { from: '0', to: '0', width: '0' },
  foldsTail: false,
}
const salmon = presets.find((preset) => preset.name === 'Salmon fillet')
export const filletStart: PlanFields = {
  piece: pieceFieldsOf(salmon?.stations ?? [], salmon?.grams ?? 1320),
  types: [{ ...steak, name: 'Loin portion', target: '160', from: '150', to: '172', thin: '25', thick: '140', face: '0', value: '3.8' }],
  tipsValue: '7.5',
  strip: { from: '0', to: '18', width: '1' },
  foldsTail: true,
}

export function isPlan(read: PlanFields): boolean {
  return Array.isArray(read.piece?.stations) && Array.isArray(read.types) && read.strip !== undefined
}

/** The question that the fields ask, or the sentence that says why they ask none. */
export function questionOf(fields: PlanFields, kind: 'muscle' | 'fillet'): { input?: BestMixInput; lossGrams: number; refusal?: string } {
  let measured: { stations: Station[]; grams: number; lossGrams: number } = {
    stations: stationsOf(fields.piece),
    grams: numberOf(fields.piece.grams),
    lossGrams: 0,
  }
  if (kind === 'fillet') {
    const { from, to, width } = fields.strip
    try {
      measured = withoutStrip(measured, { fromCm: numberOf(from) || 0, toCm: numberOf(to) || 0, widthCm: numberOf(width) || 0 })
    } catch (error) {
      return { lossGrams: 0, refusal: error instanceof Error ? error.message : String(error) }
    }
  }
  const types = fields.types.map(typeOf)
  const [first] = types
  // folded in two the tail may be twice as long and has no face of its own
  const folded =
    fields.foldsTail && first
      ? [
          {
            ...first,
            id: `${types.length + 1} Folded tail`,
            maxCount: 1,
            minCount: undefined,
            maxCm: first.maxCm * 2,
            minDiameterCm: 0,
            onlyAt: 'thin-end' as const,
          },
        ]
      : []
  return {
    lossGrams: measured.lossGrams,
    input: {
      grams: measured.grams,
      stations: measured.stations,
      types: [...types, ...folded],
      tipsValuePerKg: numberOf(fields.tipsValue) || 0,
      minTipsCm: 2,
      offTargetPerGram: 0.01,
      stepCm: 0.1,
    },
  }
}

function typeOf(type: TypeEntry, index: number): PieceType {
  const count = (text: string) => (text.trim() === '' ? undefined : Math.min(60, Math.max(0, Math.round(numberOf(text) || 0))))
  return {
    id: `${index + 1} ${type.name}`,
    value: numberOf(type.value) || 0,
    targetGrams: numberOf(type.target),
    minGrams: numberOf(type.from),
    maxGrams: numberOf(type.to),
    minCm: numberOf(type.thin) / 10,
    maxCm: numberOf(type.thick) / 10,
    minDiameterCm: numberOf(type.face) || 0,
    maxCount: count(type.most),
    minCount: count(type.least),
    onlyAt: type.place === '' ? undefined : type.place,
  }
}
