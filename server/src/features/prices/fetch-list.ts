const patienceMs = 8000
const largestList = 1_000_000

/**
 * The price list at an address, as text: UTF-8, else the western encoding that spreadsheets still write. No redirect is followed:
 * what is asked is the address that the manager allowed, and no other.
 * @throws Error with a sentence where it cannot be had
 */
export async function fetchList(address: string): Promise<string> {
  const answer = await fetch(address, {
    headers: { accept: 'text/csv, text/plain' },
    redirect: 'error',
    signal: AbortSignal.timeout(patienceMs),
  }).catch(() => {
    throw new Error('The address cannot be reached.')
  })
  if (!answer.ok) throw new Error(`The address answers ${answer.status}.`)
  const bytes = await upTo(answer, largestList)
  if (bytes.length === 0) throw new Error('The list is empty.')
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

async function upTo(answer: Response, most: number): Promise<Uint8Array> {
  const parts: Uint8Array[] = []
  let size = 0
  try {
    for await (const part of answer.body ?? []) {
      size += part.length
      if (size > most) break
      parts.push(part)
    }
  } catch {
    throw new Error('The address stopped in the middle of the list.')
  }
  if (size > most) throw new Error('The list is over 1 MB.')
  return Buffer.concat(parts)
}
