import { createCipheriv, createDecipheriv, randomBytes, scrypt } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import { Transform } from 'node:stream'
import { promisify } from 'node:util'

/** A sealed backup: these words, a salt, a nonce, the backup under AES-256-GCM, and 16 bytes by which any change is noticed. */
const words = Buffer.from('FLEAM-SEALED-1\n')
const [saltBytes, nonceBytes, tagBytes] = [16, 12, 16]
const headBytes = words.length + saltBytes + nonceBytes

const derive = promisify(scrypt)
/** The passphrase is stretched (scrypt, N = 2^17), so that trying many is slow. */
const keyOf = (passphrase, salt) => derive(passphrase.normalize('NFKC'), salt, 32, { N: 131_072, r: 8, p: 1, maxmem: 256 * 1024 * 1024 })

/** @returns a stream that seals what goes through it */
export async function seal(passphrase) {
  const [salt, nonce] = [randomBytes(saltBytes), randomBytes(nonceBytes)]
  const cipher = createCipheriv('aes-256-gcm', await keyOf(passphrase, salt), nonce)
  let isFirst = true
  return new Transform({
    transform(chunk, _encoding, done) {
      if (isFirst) this.push(Buffer.concat([words, salt, nonce]))
      isFirst = false
      done(null, cipher.update(chunk))
    },
    flush(done) {
      this.push(cipher.final())
      done(null, cipher.getAuthTag())
    },
  })
}

export async function isSealed(file) {
  return (await bytesAt(file, 0, words.length)).equals(words)
}

/** @returns the stream of what was sealed; it fails at its end where the passphrase is another or a byte was changed */
export async function openSeal(file, passphrase) {
  const handle = await open(file)
  const { size } = await handle.stat()
  await handle.close()
  const head = await bytesAt(file, 0, headBytes)
  const [salt, nonce] = [head.subarray(words.length, words.length + saltBytes), head.subarray(words.length + saltBytes)]
  const decipher = createDecipheriv('aes-256-gcm', await keyOf(passphrase, salt), nonce)
  decipher.setAuthTag(await bytesAt(file, size - tagBytes, tagBytes))
  return createReadStream(file, { start: headBytes, end: size - tagBytes - 1 }).pipe(decipher)
}

async function bytesAt(file, position, length) {
  const handle = await open(file)
  try {
    const bytes = Buffer.alloc(length)
    const { bytesRead } = await handle.read(bytes, 0, length, Math.max(0, position))
    return bytes.subarray(0, bytesRead)
  } finally {
    await handle.close()
  }
}
