import { generateSecret, generateURI, verifySync } from 'otplib'
import { toString as drawCode } from 'qrcode'
import { Op } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import type { PersonRow } from '../people/person.model.ts'

const stepSeconds = 30

/** A key for an app that makes time codes (RFC 6238: six figures, every 30 seconds), as text and as a picture to be scanned. */
export async function offerTimeCode(person: string, kitchen: string): Promise<{ key: string; uri: string; picture: string }> {
  const key = generateSecret()
  const uri = generateURI({ issuer: 'Fleam', label: `${person}, ${kitchen}`, secret: key })
  return { key, uri, picture: await drawCode(uri, { type: 'svg', margin: 2 }) }
}

/** The half minute that a code is of: now, or the one before or after, since clocks differ; `undefined` where it is of none. */
export function stepOfCode(key: string, code: string): number | undefined {
  try {
    const found = verifySync({ secret: key, token: code, epochTolerance: stepSeconds })
    return found.valid ? Math.floor(Date.now() / 1000 / stepSeconds) + found.delta : undefined
  } catch {
    return undefined
  }
}

/** Takes a person's code, each once: whoever saw it typed cannot type it again. */
export async function takeTimeCode({ people }: KitchenRecords, { id, timeCodeSecret }: PersonRow, code: string): Promise<boolean> {
  const step = stepOfCode(timeCodeSecret ?? '', code)
  if (step === undefined) return false
  return (await people.update({ timeCodeStep: step }, { id, timeCodeStep: { [Op.lt]: step } })) === 1
}
