import { type KitchenSettings, usualCutting, usualIdle, usualLimits, usualWalkIn } from '@fleam/contract/kitchen'
import type { setup } from '@fleam/contract/people'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { Database } from '../../db/database.ts'
import { withLease } from '../../db/lease.ts'
import type { AllRecords } from '../../db/records.ts'
import { ProblemError } from '../../http/problems.ts'
import { addCatalogSheets } from '../cut-sheets/catalog-sheets.ts'
import { hashSecret, refuseUnfit } from '../people/secrets.ts'

/** Whether nobody could sign in yet. */
export async function needsSetup({ acrossKitchens }: Database): Promise<boolean> {
  return (await acrossKitchens.kitchens.count()) === 0
}

/** What a new kitchen starts from: common public guidance, to be changed to the house's own figures. */
export function startingSettings(place: Pick<KitchenSettings, 'currency' | 'locale' | 'timeZone'>): KitchenSettings {
  return {
    ...place,
    weightSystem: 'metric',
    labour: { ratePerHour: 0, onCostPct: 0 },
    disposalPerKg: 0,
    cutting: usualCutting,
    limits: usualLimits,
    signedOutAfter: usualIdle,
    walkIn: usualWalkIn,
    scales: [],
    printers: [],
  }
}

/** Makes a kitchen with the catalog's cut sheets, in the transaction of whoever fills it further. */
export async function createKitchen(
  tx: AllRecords,
  { id = uuidv7(), ...kitchen }: { id?: string; name: string; settings: KitchenSettings; isDemo: boolean },
): Promise<string> {
  await tx.kitchens.create({ id, ...kitchen, catalogFingerprint: null })
  const records = tx.of(id)
  await records.runNumbers.create({ last: 0 })
  await records.repeats.create({ count: 0 })
  await addCatalogSheets(records)
  return id
}

/** Makes the first kitchen and its first manager, both or neither; refused once there is one. Of two at once, one is told. */
export async function setUp(db: Database, input: z.infer<typeof setup>): Promise<void> {
  if (!(await needsSetup(db))) throw new ProblemError('already-set-up')
  await refuseUnfit(input.secret, 'passphrase', input.name)
  const secretHash = await hashSecret(input.secret)
  const { kitchenName, currency, locale, timeZone, name } = input
  await withLease(db, 'set-up', async () => {
    if (!(await needsSetup(db))) throw new ProblemError('already-set-up')
    await db.acrossKitchens.transaction(async (tx) => {
      const kitchenId = await createKitchen(tx, {
        name: kitchenName,
        settings: startingSettings({ currency, locale, timeZone }),
        isDemo: false,
      })
      await tx.of(kitchenId).people.create({ id: uuidv7(), name, signInName: name, role: 'manager', secretHash, secretKind: 'passphrase' })
    })
  })
}
