import { setTimeout as pause } from 'node:timers/promises'

/**
 * Waits until a server answers that it is well.
 * @param url of its API
 * @param holds what else its answer must say, such as that it is at its own node
 */
export async function healthy(url, holds = () => true) {
  for (let tries = 0; tries < 3600; tries += 1) {
    const health = await fetch(`${url}/health`, { signal: AbortSignal.timeout(1000) }).then(
      (answer) => (answer.ok ? answer.json() : undefined),
      () => undefined,
    )
    if (health && holds(health)) return
    await pause(50)
  }
  throw new Error(`The server at ${url} did not come back within three minutes.`)
}
