import * as z from 'zod'
import { id, line, stamp } from './primitives.ts'

const cm = z.number('Type centimetres.').min(0).max(500)
const size = z.number('Type centimetres.').positive().max(200)

export const station = z.object({ cm, girthCm: size.optional(), widthCm: size.optional(), heightCm: size.optional() })

export const pieceType = z.object({
  id: z.string().min(1).max(60),
  value: z.number().min(0).max(10_000),
  targetGrams: z.number().positive().max(50_000),
  minGrams: z.number().positive().max(50_000),
  maxGrams: z.number().positive().max(50_000),
  minCm: z.number().min(0).max(100),
  maxCm: z.number().positive().max(100),
  minDiameterCm: z.number().min(0).max(100),
  maxCount: z.int().min(0).max(60).optional(),
  minCount: z.int().min(0).max(60).optional(),
  onlyAt: z.enum(['thick-end', 'thin-end']).optional(),
})

/** A measured piece and what is to be cut from it, as it is taken to the bench. `tubs` says by output key where each kind goes. */
export const cuttingPlan = z.object({
  name: z.string().max(80),
  stations: z.array(station).min(2).max(200),
  grams: z.number().positive().max(50_000),
  types: z.array(pieceType).min(1).max(12),
  tipsValuePerKg: z.number().min(0).max(10_000),
  minTipsCm: z.number().min(0).max(50),
  offTargetPerGram: z.number().min(0).max(100),
  stepCm: z.number().min(0.02).max(5),
  tubs: z.record(z.string(), z.string()),
})
export type CuttingPlan = z.infer<typeof cuttingPlan>

/** Cuts that lie fixed, as between the bones of a rack or along two muscles bonded into one; `tub` is where the pieces go. */
export const cutList = z.object({
  name: z.string().max(80),
  grams: z.number().positive().max(50_000),
  pieces: z
    .array(z.object({ thicknessCm: z.number().positive().max(200), grams: z.number().positive().max(50_000), bones: z.int().optional() }))
    .min(1)
    .max(200),
  tub: z.string().max(60),
})
export type CutList = z.infer<typeof cutList>

/** A piece that was measured, to be used again. */
export const measuredProfile = z.object({
  id,
  name: z.string(),
  kind: z.enum(['muscle', 'fillet', 'rack']),
  stations: z.array(station),
  grams: z.number(),
  at: stamp,
  by: z.string(),
})
export type MeasuredProfile = z.infer<typeof measuredProfile>
export const measuredProfileCreate = z.object({
  id,
  name: line(80),
  kind: z.enum(['muscle', 'fillet', 'rack']),
  stations: z.array(station).min(2).max(200),
  grams: z.number().positive().max(50_000),
})

/** The shape that a kitchen's finished runs of an item usually have; `null` where none was cut to a plan. */
export const usualShape = z.object({
  pieces: z.int().min(0),
  roots: z.array(z.number().positive().max(10)).min(2).max(60),
  lengthCmOfKilogram: z.number().positive().max(200),
})
export const usualShapes = z.object({
  entries: z.array(z.object({ item: z.object({ id, name: z.string() }), shape: usualShape })),
})
export type UsualShapes = z.infer<typeof usualShapes>

/** Something that rests until it can be cut. */
export const rest = z.object({
  id,
  runId: id,
  runNumber: z.int(),
  what: z.string(),
  readyAt: stamp,
  bestBy: stamp,
  by: z.string(),
})
export type Rest = z.infer<typeof rest>
