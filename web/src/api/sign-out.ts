import { send } from './http.ts'

/** Stands on the tablet for as long as the server has not heard that somebody signed out here. */
const key = 'fleam.signing-out'

/** Signs out here at once, whatever the network does; the server hears of it now or as soon as it can be reached. */
export async function signOut(): Promise<void> {
  localStorage.setItem(key, 'yes')
  await finishSigningOut()
}

/** Tells the server what it has not heard yet. @returns whether nobody is signed in here because of it */
export async function finishSigningOut(): Promise<boolean> {
  if (localStorage.getItem(key) === null) return false
  try {
    await send('DELETE', '/session')
    signedInAgain()
  } catch {
    // it is told as soon as it can be reached; here it holds already
  }
  return true
}

/** Somebody has signed in: the server has ended what was there before. */
export function signedInAgain(): void {
  localStorage.removeItem(key)
}
