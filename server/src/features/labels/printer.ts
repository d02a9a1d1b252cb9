import type { LabelSize } from '@fleam/contract/labels'
import ipp, { type IppMessage } from 'ipp'

/** Where a printer takes its jobs. */
export interface PrinterAddress {
  id: string
  name: string
  host: string
  port: number
  /** Its path, such as `ipp/print`. */
  path: string
  size: LabelSize
  isSimulated: boolean
}

/** How a job stands at the printer; `why` in words where it does not go on. */
export type JobState = { kind: 'done' } | { kind: 'waiting'; why: string } | { kind: 'gone'; why: string }

/** A printer that has not answered by then is taken for away. */
const patienceMs = 4000
const mostAnswerBytes = 256 * 1024

/** Reasons that printers give, in words. Source: RFC 8011, 5.4.12. */
const reasonWords: Readonly<Record<string, string>> = {
  'media-empty': 'It is out of labels.',
  'media-needed': 'It is out of labels.',
  'media-jam': 'A label is stuck in it.',
  'cover-open': 'Its cover is open.',
  paused: 'It is paused.',
  shutdown: 'It is switched off.',
  'marker-supply-empty': 'It is out of ink.',
}

/**
 * Sends labels to a printer as one job. @returns the printer's number of it
 * @throws Error with a sentence where the printer cannot be reached or will not have it
 */
export async function sendJob(printer: PrinterAddress, pdf: Uint8Array, labels: number): Promise<number> {
  const answer = await ask(printer, 'Print-Job', { 'job-name': 'Labels', 'document-format': 'application/pdf' }, Buffer.from(pdf), {
    'job-impressions': labels,
  })
  const job = Number(answer['job-attributes-tag']?.['job-id'])
  if (!Number.isInteger(job)) throw new Error(`${printer.name} did not say that it has them.`)
  return job
}

/** How a job stands. @throws Error with a sentence where the printer cannot be reached */
export async function stateOfJob(printer: PrinterAddress, job: number): Promise<JobState> {
  const answer = await ask(printer, 'Get-Job-Attributes', { 'job-id': job, 'requested-attributes': ['job-state', 'job-state-reasons'] })
  if (answer.statusCode === 'client-error-not-found') return { kind: 'gone', why: 'The printer does not know of them any more.' }
  const state = answer['job-attributes-tag']?.['job-state']
  if (state === 'completed') return { kind: 'done' }
  if (state === 'canceled' || state === 'aborted') return { kind: 'gone', why: 'The printer has let them go.' }
  const printerNow = await ask(printer, 'Get-Printer-Attributes', { 'requested-attributes': ['printer-state', 'printer-state-reasons'] })
  const reasons = [printerNow['printer-attributes-tag']?.['printer-state-reasons'] ?? []].flat().map(String)
  const known = reasons.map((reason) => reasonWords[reason.replace(/-(error|warning|report)$/, '')]).find((words) => words)
  return { kind: 'waiting', why: known ?? 'The printer has them and has not printed them yet.' }
}

async function ask(
  { host, port, path, name }: PrinterAddress,
  operation: string,
  attributes: Record<string, unknown>,
  data?: Buffer,
  jobAttributes?: Record<string, unknown>,
): Promise<IppMessage> {
  const address = `${host}:${port}/${path}`
  const { 'job-id': job, ...others } = attributes
  const message = ipp.serialize({
    version: '2.0',
    operation,
    id: 1,
    'operation-attributes-tag': {
      'attributes-charset': 'utf-8',
      'attributes-natural-language': 'en',
      'printer-uri': `ipp://${address}`,
      // RFC 8011 wants it here
      ...(job === undefined ? {} : { 'job-id': job }),
      'requesting-user-name': 'Fleam',
      ...others,
    },
    ...(jobAttributes ? { 'job-attributes-tag': jobAttributes } : {}),
    ...(data ? { data } : {}),
  })
  const answer = await fetch(`http://${address}`, {
    method: 'POST',
    headers: { 'content-type': 'application/ipp' },
    body: new Uint8Array(message),
    redirect: 'error',
    signal: AbortSignal.timeout(patienceMs),
  }).catch(() => {
    throw new Error(`${name} cannot be reached.`)
  })
  if (!answer.ok) throw new Error(`${name} answers as no printer does.`)
  const bytes = await answer.arrayBuffer().catch(() => new ArrayBuffer(0))
  const read = bytes.byteLength > mostAnswerBytes ? undefined : readAnswer(Buffer.from(bytes))
  const statusCode = read?.statusCode
  if (!read || typeof statusCode !== 'string') throw new Error(`${name} answers as no printer does.`)
  if (statusCode !== 'client-error-not-found' && !statusCode.startsWith('successful'))
    throw new Error(`${name} refuses them: ${statusCode}.`)
  return read
}

/** Version, status and number of the request stand before the attributes. */
const headBytes = 8
const endOfAttributes = 0x03
const firstValueTag = 0x10
/** Nested values, and tags of four bytes: nothing of what is asked for has them. */
const isOdd = (tag: number) => tag === 0x34 || tag === 0x37 || tag === 0x7f

/** Whether every attribute of an answer ends within it: the parser of the package follows whatever lengths it is told, backwards too. */
function isSound(bytes: Buffer): boolean {
  let at = headBytes
  while (at < bytes.length) {
    const tag = bytes[at] as number
    if (tag === endOfAttributes) return true
    at += 1
    if (tag < firstValueTag) continue
    if (isOdd(tag)) return false
    for (let part = 0; part < 2; part += 1) {
      if (at + 2 > bytes.length) return false
      const length = bytes.readInt16BE(at)
      at += 2 + length
      if (length < 0 || at > bytes.length) return false
    }
  }
  return false
}

function readAnswer(bytes: Buffer): IppMessage | undefined {
  if (!isSound(bytes)) return undefined
  try {
    return ipp.parse(bytes)
  } catch {
    return undefined
  }
}
