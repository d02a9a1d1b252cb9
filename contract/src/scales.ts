import { gramsPer, heaviestTenths } from '@fleam/core/quantities/weight'
import type { PanLoad } from '@fleam/core/scale/pan-load'
import * as z from 'zod'

const unit = z.enum(['g', 'kg', 'oz', 'lb'])
const state = z.enum(['steady', 'moving', 'overload', 'underload'])

/** One line that a scale sends: who it is, once, and then what it reads, net of its tare. */
export const scaleLine = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('scale'), protocol: z.literal(1), name: z.string().max(60), maximum: z.number(), step: z.number(), unit }),
  z.object({ kind: z.literal('reading'), sequence: z.int(), weight: z.number(), tare: z.number(), unit, state }),
])
export type ScaleLine = z.infer<typeof scaleLine>

/** One line that a scale takes. */
export const scaleCommand = z.object({ do: z.enum(['tare', 'clear-tare']) })
export type ScaleCommand = z.infer<typeof scaleCommand>

export const scale = z.object({ id: z.string(), name: z.string(), isSimulated: z.boolean() })
export type Scale = z.infer<typeof scale>

/** A reading as Fleam passes it on, in tenths of a gram whatever unit the scale shows, with what lies on the pan. */
export interface LiveReading {
  tenths: number
  tareTenths: number
  state: z.infer<typeof state>
  load: PanLoad
}

/** Which load of a scale a weight was taken from, and what the scale read then, in tenths of a gram. */
export const takenLoad = z.object({ id: z.uuid(), tenths: z.int().positive().max(heaviestTenths) })
export type TakenLoad = z.infer<typeof takenLoad>

/** A scale's reading in tenths of a gram. */
export function liveReading(line: Extract<ScaleLine, { kind: 'reading' }>): Omit<LiveReading, 'load'> {
  const tenths = (value: number) => Math.round(value * gramsPer[line.unit] * 10)
  return { tenths: tenths(line.weight), tareTenths: tenths(line.tare), state: line.state }
}
