import { generateSecret, generateURI, verifySync } from 'otplib'
import { toString as drawCode } from 'qrcode'

/** A key for an app that makes time codes (RFC 6238: six figures, every 30 seconds), as text and as a picture to be scanned. */
export async function offerTimeCode(person: string, kitchen: string): Promise<{ key: string; uri: string; picture: string }> {
  const key = generateSecret()
  const uri = generateURI({ issuer: 'Fleam', label: `${person}, ${kitchen}`, secret: key })
  return { key, uri, picture: await drawCode(uri, { type: 'svg', margin: 2 }) }
}

/** Whether a code is of now, or of the half minute before or after: clocks differ. */
export function timeCodeFits(key: string, code: string): boolean {
  try {
    return verifySync({ secret: key, token: code, epochTolerance: 30 }).valid
  } catch {
    return false
  }
}
