import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import ipp, { type IppMessage } from 'ipp'
import * as z from 'zod'
import { answerJson, bodyOf, isForeign, listen, readJson } from '../simulated-page.ts'
import { printerPage } from './page.ts'

const behave = z.object({ labelsLeft: z.int().min(0).max(10_000).optional(), isOnline: z.boolean().optional() })
const mostJobBytes = 8 * 1024 * 1024
const jobsKept = 50

interface Options {
  host: string
  /** Where it speaks IPP. */
  port: number
  /** Where its page is. */
  pagePort: number
  /** Labels on its roll. */
  labels?: number
}

interface Job {
  id: number
  name: string
  labels: number
  at: string
  state: 'completed' | 'processing-stopped'
  pdf: Buffer
}

/** A label printer of our own making: IPP over HTTP, and a page that shows what came out, with troubles to give it. */
export async function serveSimulatedPrinter({ host, port, pagePort, labels = 500 }: Options): Promise<{ close(): Promise<void> }> {
  let jobs: Job[] = []
  let lastId = 0
  let labelsLeft = labels
  let isOnline = true

  /** Prints what the roll is enough for, in order. */
  function printOn(): void {
    for (const job of jobs) {
      if (job.state === 'completed') continue
      if (job.labels > labelsLeft) return
      labelsLeft -= job.labels
      job.state = 'completed'
      job.at = new Date().toISOString()
    }
  }

  function answerTo({ operation, 'operation-attributes-tag': asked = {}, 'job-attributes-tag': ofJob = {}, data }: IppMessage): IppMessage {
    const ok = { statusCode: 'successful-ok' }
    const jobAttributes = ({ id, state }: Job) => ({
      'job-id': id,
      'job-uri': `ipp://${host}:${port}/jobs/${id}`,
      'job-state': state,
      'job-state-reasons': state === 'completed' ? 'job-completed-successfully' : 'printer-stopped',
    })
    if (operation === 'Print-Job') {
      const pdf = Buffer.isBuffer(data) ? data : Buffer.from(data ?? '', 'latin1')
      if (pdf.subarray(0, 5).toString('latin1') !== '%PDF-') return { statusCode: 'client-error-document-format-not-supported' }
      lastId += 1
      const count = Number(ofJob['job-impressions'] ?? asked['job-impressions'] ?? 1)
      const job: Job = {
        id: lastId,
        name: String(asked['job-name'] ?? ''),
        labels: count,
        at: new Date().toISOString(),
        state: 'processing-stopped',
        pdf,
      }
      jobs = [...jobs, job].slice(-jobsKept)
      printOn()
      return { ...ok, 'job-attributes-tag': jobAttributes(job) }
    }
    if (operation === 'Get-Job-Attributes') {
      const job = jobs.find(({ id }) => id === Number(asked['job-id']))
      return job ? { ...ok, 'job-attributes-tag': jobAttributes(job) } : { statusCode: 'client-error-not-found' }
    }
    if (operation === 'Get-Printer-Attributes') {
      const isOut = jobs.some(({ state }) => state !== 'completed')
      return {
        ...ok,
        'printer-attributes-tag': {
          'printer-state': isOut ? 'stopped' : 'idle',
          'printer-state-reasons': isOut ? 'media-empty-error' : 'none',
        },
      }
    }
    return { statusCode: 'server-error-operation-not-supported' }
  }

  async function speakIpp(request: IncomingMessage, response: ServerResponse): Promise<void> {
    if (!isOnline) return void request.socket.destroy()
    const chunks: Buffer[] = []
    let size = 0
    for await (const chunk of request) {
      size += chunk.length
      if (size > mostJobBytes) return void response.writeHead(413).end()
      chunks.push(chunk)
    }
    let answer: IppMessage = { statusCode: 'client-error-bad-request' }
    let id = 1
    try {
      const { message, data } = partsOf(Buffer.concat(chunks))
      const asked = ipp.parse(message)
      id = asked.id ?? 1
      answer = answerTo({ ...asked, data })
    } catch {
      // what is no IPP is answered as such
    }
    const common = { 'attributes-charset': 'utf-8', 'attributes-natural-language': 'en' }
    response
      .writeHead(200, { 'content-type': 'application/ipp' })
      .end(ipp.serialize({ version: '2.0', id, 'operation-attributes-tag': common, ...answer }))
  }

  const state = () => ({ labelsLeft, isOnline, jobs: jobs.map(({ pdf, ...job }) => ({ ...job, bytes: pdf.length })) })
  const printer = createServer((request, response) => void speakIpp(request, response).catch(() => response.destroy()))
  const page = createServer(async (request, response) => {
    const answer = answerJson(response)
    const { method, url = '/' } = request
    if (method === 'GET' && url === '/') return response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(printerPage)
    if (method === 'GET' && url === '/state') return answer(200, state())
    const job = /^\/jobs\/(\d{1,9})\.pdf$/.exec(url)?.[1]
    if (method === 'GET' && job) {
      const found = jobs.find(({ id }) => id === Number(job))
      if (found) return response.writeHead(200, { 'content-type': 'application/pdf' }).end(found.pdf)
    }
    if (isForeign(request)) return answer(403, { title: 'This request came from another site.' })
    if (method === 'POST' && url === '/behave') {
      const change = readJson(behave, await bodyOf(request))
      if (!change) return answer(400, { title: 'Behave takes labelsLeft and isOnline.' })
      labelsLeft = change.labelsLeft ?? labelsLeft
      isOnline = change.isOnline ?? isOnline
      printOn()
      return answer(200, state())
    }
    return answer(404, { title: 'There is no such thing on this printer.' })
  })
  await listen(printer, port, host)
  await listen(page, pagePort, host)
  return {
    async close() {
      for (const server of [printer, page]) server.closeAllConnections()
      await Promise.all([printer, page].map((server) => new Promise((done) => server.close(done))))
    },
  }
}

/** The document of a job comes after the attributes: reading it as text would spoil it. */
function partsOf(bytes: Buffer): { message: Buffer; data: Buffer } {
  const document = bytes.indexOf('%PDF-', 0, 'latin1')
  return document < 0 ? { message: bytes, data: Buffer.alloc(0) } : { message: bytes.subarray(0, document), data: bytes.subarray(document) }
}
