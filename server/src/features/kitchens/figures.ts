import { readSettings } from '@fleam/contract/kitchen'
import type { KitchenFigures, SideBySide, sideBySideQuery } from '@fleam/contract/kitchens'
import { startOfDay } from '@fleam/core/quantities/house-day'
import type { z } from 'zod'
import type { Database } from '../../db/database.ts'
import { hasRole, type SignedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { ProblemError } from '../../http/problems.ts'
import { figuresOfRuns, sheetsOfDays, thrownAwayOfDays } from './figures.sql.ts'
import { type PlaceFound, placesOf } from './places.ts'

/** So many kitchens are asked at once. */
const atOnce = 4
type Asked = z.infer<typeof sideBySideQuery>
type Part = { figures: KitchenFigures; sheets: { slug: string; name: string; runs: number }[] }

/** Figures of every kitchen where one is a lead or a manager, by the kitchens' names. */
export async function figuresSideBySide(db: Database, by: SignedIn, asked: Asked): Promise<SideBySide> {
  const places = (await placesOf(db, by)).filter(({ role }) => hasRole({ ...by.person, role }, 'lead'))
  if (places.length === 0) throw new ProblemError('role-too-low', { detail: 'Leads and managers see the figures of their kitchens.' })
  const parts: Part[] = []
  for (let from = 0; from < places.length; from += atOnce) {
    const next = places.slice(from, from + atOnce)
    parts.push(...(await Promise.all(next.map((place) => figuresOf(db, place, asked)))))
  }
  const sheets = new Map<string, SideBySide['sheets'][number]>()
  for (const { slug, name, runs } of parts.flatMap((part) => part.sheets)) {
    const sheet = sheets.get(slug) ?? { slug, name, runs: 0, kitchens: 0 }
    sheets.set(slug, { ...sheet, runs: sheet.runs + runs, kitchens: sheet.kitchens + 1 })
  }
  return {
    kitchens: parts.map(({ figures }) => figures),
    sheets: [...sheets.values()].sort((a, b) => b.kitchens - a.kitchens || b.runs - a.runs || a.name.localeCompare(b.name)),
  }
}

async function figuresOf(db: Database, place: PlaceFound, { from, to, slug }: Asked): Promise<Part> {
  const { currency, timeZone } = readSettings(place.settings)
  const records = db.of(place.kitchenId)
  const values = { from: startOfDay(from, timeZone), before: startOfDay(to, timeZone, 1), slug: slug ?? null }
  type Sums = Pick<KitchenFigures, 'runs' | 'receivedGrams' | 'mainPct' | 'portions' | 'costPerPortion' | 'netCost'>
  const [[sums], [thrownAway], sheets] = await Promise.all([
    records.select<Sums & { overGrams: number; overCost: number }>(figuresOfRuns, values),
    records.select<{ grams: number; cost: number }>(thrownAwayOfDays, values),
    records.select<Part['sheets'][number]>(sheetsOfDays, values),
  ])
  // sums of no rows at all are a row too
  const { overGrams, overCost, ...rest } = found(sums)
  const { kitchenId, name } = place
  const giveaway = { grams: overGrams, cost: overCost }
  return { figures: { kitchenId, name, currency, ...rest, giveaway, thrownAway: found(thrownAway) }, sheets }
}
