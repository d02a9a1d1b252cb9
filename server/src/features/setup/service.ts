import { type KitchenSettings, usualCutting, usualLimits } from '@fleam/contract/kitchen'
import type { setup } from '@fleam/contract/people'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import { ProblemError } from '../../http/problems.ts'
import { addCatalogSheets } from '../cut-sheets/service.ts'
import { hashSecret } from '../people/secrets.ts'

/** Whether nobody could sign in yet. */
export async function needsSetup(db: Queries): Promise<boolean> {
  return (await db.row('SELECT id FROM kitchens LIMIT 1')) === undefined
}

/** What a new kitchen starts from: common public guidance, to be changed to the house's own figures. */
export function startingSettings(currency: string): KitchenSettings {
  return {
    currency,
    weightSystem: 'metric',
    labour: { ratePerHour: 0, onCostPct: 0 },
    disposalPerKg: 0,
    cutting: usualCutting,
    limits: usualLimits,
    scales: [],
  }
}

export async function createKitchen(db: Database, kitchen: { name: string; settings: KitchenSettings; isDemo: boolean }): Promise<string> {
  const id = uuidv7()
  await db.transaction(async (tx) => {
    await tx.run('INSERT INTO kitchens (id, name, settings, is_demo) VALUES (:id, :name, :settings, :isDemo)', {
      id,
      name: kitchen.name,
      settings: JSON.stringify(kitchen.settings),
      isDemo: kitchen.isDemo ? 1 : 0,
    })
    await addCatalogSheets(tx, id)
  })
  return id
}

/** Makes the first kitchen and its first manager; refused once there is one. */
export async function setUp(db: Database, input: z.infer<typeof setup>): Promise<{ kitchenId: string; personId: string }> {
  const secretHash = await hashSecret(input.secret)
  const personId = uuidv7()
  if (!(await needsSetup(db))) throw new ProblemError('already-set-up')
  const kitchenId = await createKitchen(db, { name: input.kitchenName, settings: startingSettings(input.currency), isDemo: false })
  await db.run(
    `INSERT INTO people (id, kitchen_id, name, sign_in_name, role, secret_hash)
     VALUES (:personId, :kitchenId, :name, :name, 'manager', :secretHash)`,
    { personId, kitchenId, name: input.name, secretHash },
  )
  return { kitchenId, personId }
}
