import { type BestMix, type BestMixInput, bestMix, type MixedPiece, type PieceType } from './best-mix.ts'
import { type Profile, profileOf, type Station } from './profile.ts'

/** The stations of a stretch of a piece, counted from its start. */
export function stationsBetween(whole: Profile, stations: readonly Station[], fromCm: number, toCm: number): Station[] {
  const start = stations[0]?.cm ?? 0
  const girthAt = (cm: number) => Math.PI * whole.diameterAt(cm)
  const inside = stations.map((station) => station.cm - start).filter((cm) => cm > fromCm + 1e-9 && cm < toCm - 1e-9)
  return [fromCm, ...inside, toCm].map((cm) => ({ cm: cm - fromCm, girthCm: girthAt(cm) }))
}

/**
 * The best mix with some cuts held where they are: each stretch between held cuts is planned by itself, from the thick
 * end, with what the limits still allow.
 *
 * @param heldCm places of the held cuts, in any order, inside the piece
 * @throws InputError naming the field
 */
export function planAround(input: BestMixInput, heldCm: readonly number[]): BestMix {
  const whole = profileOf(input)
  if (heldCm.length === 0) return bestMix(input)
  const held = [...new Set(heldCm)].filter((cm) => cm > 0 && cm < whole.lengthCm).sort((a, b) => a - b)
  const edges = [0, ...held, whole.lengthCm]
  const made: Record<string, number> = {}
  const pieces: MixedPiece[] = []
  let transitions = 0
  let score = 0
  for (let at = 0; at + 1 < edges.length; at += 1) {
    const [fromCm, toCm] = [edges[at] as number, edges[at + 1] as number]
    const grams = whole.weightTo(toCm) - whole.weightTo(fromCm)
    const ends = { isFirst: at === 0, isLast: at + 2 === edges.length }
    const types = input.types.flatMap((type) => openIn(type, made[type.id] ?? 0, grams, ends))
    if (types.length === 0 || toCm - fromCm < input.stepCm) {
      pieces.push({ type: 'tips', fromCm, toCm, thicknessCm: toCm - fromCm, grams })
      score += (grams * input.tipsValuePerKg) / 1000
      continue
    }
    const part = bestMix({
      ...input,
      types,
      grams,
      stations: stationsBetween(whole, input.stations, fromCm, toCm),
      startIsCut: at > 0 || input.startIsCut,
    })
    for (const piece of part.pieces) {
      pieces.push({ ...piece, fromCm: piece.fromCm + fromCm, toCm: piece.toCm + fromCm })
      made[piece.type] = (made[piece.type] ?? 0) + 1
    }
    transitions += part.transitions
    score += part.score
  }
  return {
    score,
    pieces,
    counts: Object.fromEntries(input.types.map((type) => [type.id, pieces.filter((piece) => piece.type === type.id).length])),
    tipsGrams: pieces.filter((piece) => piece.type === 'tips').reduce((sum, piece) => sum + piece.grams, 0),
    transitions,
    densityGPerCm3: whole.densityGPerCm3,
    densityIsPlausible: whole.densityIsPlausible,
  }
}

function openIn(type: PieceType, made: number, grams: number, { isFirst, isLast }: { isFirst: boolean; isLast: boolean }): PieceType[] {
  if (type.minGrams > grams || (type.maxCount !== undefined && made >= type.maxCount)) return []
  if ((type.onlyAt === 'thick-end' && !isFirst) || (type.onlyAt === 'thin-end' && !isLast)) return []
  const targetGrams = Math.min(type.targetGrams, grams)
  return [
    {
      ...type,
      targetGrams,
      maxGrams: Math.max(targetGrams, Math.min(type.maxGrams, grams)),
      maxCount: type.maxCount === undefined ? undefined : type.maxCount - made,
      minCount: isLast && type.minCount !== undefined ? Math.max(0, type.minCount - made) : undefined,
    },
  ]
}
