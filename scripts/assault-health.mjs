import { setTimeout as pause } from 'node:timers/promises'
import { parentPort, workerData } from 'node:worker_threads'

/** Tells how long each health answer took, in ms. */
for (;;) {
  const from = performance.now()
  await fetch(`${workerData.url}/api/v1/health`)
    .then((answer) => answer.text())
    .catch(() => undefined)
  parentPort?.postMessage(performance.now() - from)
  await pause(50)
}
