import { createServer as createPageServer } from 'node:http'
import { createServer, type Socket } from 'node:net'
import { scaleCommand } from '@fleam/contract/scales'
import { gramsPer } from '@fleam/core/quantities/weight'
import { seededRandom } from '@fleam/core/random/seeded-random'
import { benchScaleCharacter, type SimulatedReading, simulateScale } from '@fleam/core/scale/simulated-scale'
import * as z from 'zod'
import { answerJson, bodyOf, isForeign, listen, readJson } from '../simulated-page.ts'
import { onSocketLine } from '../socket-lines.ts'
import { scalePage } from './page.ts'

const beatMs = 50
/** A steady scale says so again this often, so that silence means it is gone. */
const steadyBeats = 10

const putThing = z.object({ name: z.string().trim().min(1).max(40), grams: z.number().min(0.1).max(30_000) })
const behave = z.object({
  noiseGrams: z.number().min(0).max(50).optional(),
  driftGramsPerMinute: z.number().min(0).max(100).optional(),
  settleSeconds: z.number().min(0.02).max(5).optional(),
  isConnected: z.boolean().optional(),
  unit: z.enum(['g', 'kg', 'oz', 'lb']).optional(),
})

interface Options {
  host: string
  /** Where it speaks the scale protocol. */
  port: number
  /** Where its page is. */
  pagePort: number
  seed?: number
}

/** A bench scale of our own making: readings over TCP as JSON lines, and a page that puts things on its pan. */
export async function serveSimulatedScale({ host, port, pagePort, seed = 1 }: Options): Promise<{ close(): Promise<void> }> {
  const scale = simulateScale(seededRandom(seed).next)
  const listeners = new Set<Socket>()
  let things: { id: number; name: string; grams: number }[] = []
  let lastId = 0
  let sequence = 0
  let isConnected = true
  let unit: 'g' | 'kg' | 'oz' | 'lb' = 'g'
  let reading: SimulatedReading = scale.advance(0)
  let lastSent = ''
  let sinceSent = 0
  let before = performance.now()

  const load = () => scale.load(things.reduce((sum, thing) => sum + thing.grams, 0))
  const shown = (grams: number) => Number((grams / gramsPer[unit]).toFixed(unit === 'g' ? 1 : 5))
  const line = (content: object) => `${JSON.stringify(content)}\n`

  function beat(): void {
    const now = performance.now()
    reading = scale.advance((now - before) / 1000)
    before = now
    sinceSent += 1
    const said = `${reading.state} ${reading.grams} ${reading.tareGrams} ${unit}`
    if (said === lastSent && sinceSent < steadyBeats) return
    lastSent = said
    sinceSent = 0
    sequence += 1
    const { state, grams, tareGrams } = reading
    const text = line({ kind: 'reading', sequence, weight: shown(grams), tare: shown(tareGrams), unit, state })
    for (const socket of listeners) socket.write(text)
  }

  const tcp = createServer((socket) => {
    socket.on('error', () => undefined)
    if (!isConnected) return void socket.destroy()
    listeners.add(socket)
    socket.once('close', () => listeners.delete(socket))
    const { maximumGrams, stepGrams } = benchScaleCharacter
    socket.write(line({ kind: 'scale', protocol: 1, name: 'Simulated bench scale', maximum: maximumGrams, step: stepGrams, unit: 'g' }))
    lastSent = ''
    onSocketLine(socket, (text) => {
      const command = readJson(scaleCommand, text)
      if (command?.do === 'tare') scale.tare()
      if (command?.do === 'clear-tare') scale.clearTare()
    })
  })

  const page = createPageServer(async (request, response) => {
    const answer = answerJson(response)
    const state = () => ({ things, reading, isConnected, unit })
    const { method, url = '/' } = request
    if (method === 'GET' && url === '/') return response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(scalePage)
    if (method === 'GET' && url === '/state') return answer(200, state())
    if (isForeign(request)) return answer(403, { title: 'This request came from another site.' })
    if (method === 'POST' && url === '/things') {
      const thing = readJson(putThing, await bodyOf(request))
      if (!thing) return answer(400, { title: 'Put a thing with a name and 0.1 to 30000 grams.' })
      lastId += 1
      things = [...things, { id: lastId, ...thing }]
      load()
      return answer(201, state())
    }
    if (method === 'DELETE' && url.startsWith('/things')) {
      const id = Number(url.split('/')[2] ?? Number.NaN)
      things = Number.isNaN(id) ? [] : things.filter((thing) => thing.id !== id)
      load()
      return answer(200, state())
    }
    if (method === 'POST' && (url === '/tare' || url === '/clear-tare')) {
      if (url === '/tare') scale.tare()
      else scale.clearTare()
      return answer(200, state())
    }
    if (method === 'POST' && url === '/behave') {
      const change = readJson(behave, await bodyOf(request))
      if (!change) return answer(400, { title: 'Behave takes noiseGrams, driftGramsPerMinute, settleSeconds, isConnected and unit.' })
      const { isConnected: connected, unit: inUnit, ...character } = change
      scale.behave(Object.fromEntries(Object.entries(character).filter(([, value]) => value !== undefined)))
      unit = inUnit ?? unit
      if (connected === false) for (const socket of listeners) socket.destroy()
      isConnected = connected ?? isConnected
      return answer(200, state())
    }
    return answer(404, { title: 'There is no such thing on this scale.' })
  })

  await listen(tcp, port, host)
  await listen(page, pagePort, host)
  const timer = setInterval(beat, beatMs)
  return {
    async close() {
      clearInterval(timer)
      for (const socket of listeners) socket.destroy()
      page.closeAllConnections()
      await Promise.all([tcp, page].map((server) => new Promise((done) => server.close(done))))
    },
  }
}
