import type { Station } from '@fleam/core/plan/profile'
import { numberOf } from '../../ui/fields.tsx'
import type { PlanKind } from './fitting-cuts.ts'

/** A measured place as typed: a girth, or a width and a height. */
export interface StationFields {
  cm: string
  girth: string
  width: string
  height: string
}

export type Measure = 'girth' | 'width-height'

export interface PieceFields {
  grams: string
  measure: Measure
  stations: StationFields[]
}

export function stationsOf({ measure, stations }: PieceFields): Station[] {
  return stations.map(({ cm, girth, width, height }) =>
    measure === 'girth'
      ? { cm: numberOf(cm), girthCm: numberOf(girth) }
      : { cm: numberOf(cm), widthCm: numberOf(width), heightCm: numberOf(height) },
  )
}

/** Measured stations as fields, in the measure that they were taken in. */
export function fieldsOf(stations: readonly Station[], grams: number): PieceFields {
  const measure: Measure = stations.every((station) => station.girthCm !== undefined) ? 'girth' : 'width-height'
  const text = (value: number | undefined) => (value === undefined ? '' : String(Math.round(value * 10) / 10))
  return {
    grams: text(grams),
    measure,
    stations: stations.map((station) => ({
      cm: text(station.cm),
      girth: text(station.girthCm),
      width: text(station.widthCm),
      height: text(station.heightCm),
    })),
  }
}

/** A shape of a kind of muscle or fillet to start from, at a usual size. */
export interface Preset {
  name: string
  kind: PlanKind
  grams: number
  stations: Station[]
}

const girths = (...pairs: [number, number][]): Station[] => pairs.map(([cm, girthCm]) => ({ cm, girthCm }))
const sizes = (...triples: [number, number, number][]): Station[] => triples.map(([cm, widthCm, heightCm]) => ({ cm, widthCm, heightCm }))

export const presets: readonly Preset[] = [
  {
    name: 'Beef tenderloin, trimmed',
    kind: 'muscle',
    grams: 1980,
    stations: girths([0, 20], [6, 27], [18, 25], [32, 22.5], [44, 16.5], [52, 7]),
  },
  { name: 'Boned rib', kind: 'muscle', grams: 5200, stations: girths([0, 43], [12, 44], [26, 42], [38, 38]) },
  { name: 'Lamb rack, eight ribs', kind: 'rack', grams: 680, stations: girths([0, 23], [9, 21], [20, 18]) },
  { name: 'Beef rib, bone in', kind: 'rack', grams: 7400, stations: girths([0, 52], [14, 53], [30, 50]) },
  { name: 'Lamb loin, boned', kind: 'muscle', grams: 620, stations: girths([0, 17.5], [10, 18], [22, 16], [28, 12]) },
  {
    name: 'Salmon fillet',
    kind: 'fillet',
    grams: 1320,
    stations: sizes([0, 15, 2.8], [10, 16, 3.4], [28, 14, 3], [44, 9, 1.9], [56, 4.5, 0.9]),
  },
  { name: 'Cod loin', kind: 'fillet', grams: 980, stations: sizes([0, 11, 4.2], [12, 11, 4.4], [26, 9.5, 3.4], [40, 6, 1.8]) },
  { name: 'Bass fillet', kind: 'fillet', grams: 210, stations: sizes([0, 8.5, 1.9], [8, 8.4, 2.1], [18, 6, 1.3], [26, 3, 0.6]) },
]

/** A value that this tablet keeps, read back only if it still has the shape that is asked for. */
export function readKept<Fields>(key: string, first: Fields, isRight: (read: Fields) => boolean): Fields {
  try {
    const read = JSON.parse(localStorage.getItem(key) ?? '') as Fields
    return isRight(read) ? read : first
  } catch {
    return first
  }
}
