import { scrypt, timingSafeEqual } from 'node:crypto'
import { promisify } from 'node:util'
import { holdsName, passphrase, pin, type SecretKind } from '@fleam/contract/people'
import { hash, verify } from '@node-rs/argon2'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { takeTurns } from '../../turns.ts'

/** Hashing costs memory and time on purpose: one at a time, and who sends many waits for the others. */
const turns = takeTurns({ atOnce: 1, mostWaiting: 40, refuse: () => new ProblemError('busy', { detail: 'Try again in a moment.' }, 2) })

async function inTurn<Result>(owner: string, work: () => Promise<Result>): Promise<Result> {
  const leave = await turns.take(owner)
  try {
    return await work()
  } finally {
    leave()
  }
}

/** Argon2id hash of a PIN or passphrase (19 MiB, two passes), in the usual text form that names its cost. */
export function hashSecret(secret: string, owner = ''): Promise<string> {
  return inTurn(owner, () => hash(secret.normalize('NFKC')))
}

/** What somebody who does not exist is held against, so that it takes as long. */
const nobody = hash('nobody has this')

/** Whether a secret fits a stored hash; takes as long for a person without one. */
export function secretFits(secret: string, stored: string | null | undefined, owner = ''): Promise<boolean> {
  const typed = secret.normalize('NFKC')
  return inTurn(owner, async () => {
    if (stored?.startsWith('scrypt$')) return fitsScrypt(typed, stored)
    return (await verify(stored || (await nobody), typed)) && Boolean(stored)
  })
}

const derive = promisify<string, Buffer, number, { N: number }, Buffer>(scrypt)

/** Whether a hash is of a form that is no longer made, and is to be made anew when its secret is next typed. */
export const isOldHash = (stored: string): boolean => stored.startsWith('scrypt$')

async function fitsScrypt(secret: string, stored: string): Promise<boolean> {
  const [, n, salt = '', digest = ''] = stored.split('$')
  const expected = Buffer.from(digest, 'base64')
  const actual = await derive(secret, Buffer.from(salt, 'base64'), expected.length, { N: Number(n) })
  return timingSafeEqual(expected, actual)
}

let commonOnes: Promise<Set<string>> | undefined

/** Refuses a secret that is not of its kind, that holds the name, or that is on the list of common passphrases. @throws ProblemError of `field` */
export async function refuseUnfit(secret: string, kind: SecretKind, name: string, field = 'secret'): Promise<void> {
  const [issue] = (kind === 'pin' ? pin : passphrase).safeParse(secret).error?.issues ?? []
  if (issue) throw refuseField(field, issue.message)
  if (holdsName(secret, name)) throw refuseField(field, 'Leave the name out of it.')
  if (kind === 'pin') return
  commonOnes ??= import('@zxcvbn-ts/language-common').then(({ dictionary }) => new Set(dictionary['passwords-common'] as string[]))
  const common = await commonOnes
  const plain = secret.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')
  const isCommon = [secret.toLowerCase(), plain, plain.replace(/(?<!\d)\d+$/, '')].some((form) => form !== '' && common.has(form))
  if (isCommon || new Set(plain).size < 5) throw refuseField(field, 'That is one of the first that are tried: choose other words.')
}
