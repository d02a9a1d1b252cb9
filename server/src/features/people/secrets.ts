import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'
import { promisify } from 'node:util'

const derive = promisify<string, Buffer, number, { N: number }, Buffer>(scrypt)
const cost = 16_384
const bytes = 32

/** scrypt hash of a PIN or password, with its salt: `scrypt$N$salt$hash`. */
export async function hashSecret(secret: string): Promise<string> {
  const salt = randomBytes(16)
  const hash = await derive(secret.normalize('NFKC'), salt, bytes, { N: cost })
  return ['scrypt', cost, salt.toString('base64'), hash.toString('base64')].join('$')
}

/** Whether a secret fits a stored hash; takes as long for a person without one. */
export async function secretFits(secret: string, stored: string | null | undefined): Promise<boolean> {
  const [, n = String(cost), salt = '', hash = ''] = (stored ?? '').split('$')
  const expected = Buffer.from(hash, 'base64')
  const actual = await derive(secret.normalize('NFKC'), Buffer.from(salt, 'base64'), bytes, { N: Number(n) })
  return expected.length === actual.length && timingSafeEqual(expected, actual)
}
