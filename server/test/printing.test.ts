import { createServer, type Server } from 'node:http'
import { freePort } from '../../scripts/mariadb.mjs'
import { type PrinterAddress, sendJob, stateOfJob } from '../src/features/labels/printer.ts'
import { serveSimulatedPrinter } from '../src/simulated-printer/main.ts'

const printerAt = (port: number): PrinterAddress => ({
  ...{ id: 'x', name: 'The printer', host: '127.0.0.1', port, path: 'ipp/print', size: '62x29', isSimulated: true },
})
const pdf = Buffer.from('%PDF-1.3 a label')

describe('a printer that speaks IPP', () => {
  let printer: { close(): Promise<void> }
  let address: PrinterAddress
  let page: string
  beforeAll(async () => {
    const [port, pagePort] = [await freePort(), await freePort()]
    printer = await serveSimulatedPrinter({ host: '127.0.0.1', port, pagePort, labels: 3 })
    address = printerAt(port)
    page = `http://127.0.0.1:${pagePort}`
  })
  afterAll(() => printer.close())
  const behave = (change: object) => fetch(`${page}/behave`, { method: 'POST', body: JSON.stringify(change) })

  test('a job is done when its labels are out; without labels it waits with the reason; what it does not know is gone', async () => {
    const first = await sendJob(address, pdf, 2)
    expect(await stateOfJob(address, first)).toEqual({ kind: 'done' })
    const second = await sendJob(address, pdf, 2)
    expect(await stateOfJob(address, second)).toEqual({ kind: 'waiting', why: 'It is out of labels.' })
    await behave({ labelsLeft: 10 })
    expect(await stateOfJob(address, second)).toEqual({ kind: 'done' })
    expect(await stateOfJob(address, 999)).toMatchObject({ kind: 'gone' })
    expect(Buffer.from(await (await fetch(`${page}/jobs/${first}.pdf`)).arrayBuffer())).toEqual(pdf)
  })

  test('off, it cannot be reached; what is no PDF it refuses; its page takes nothing from other sites', async () => {
    await expect(sendJob(address, Buffer.from('hello'), 1)).rejects.toThrow('refuses them')
    await behave({ isOnline: false })
    await expect(sendJob(address, pdf, 1)).rejects.toThrow('The printer cannot be reached.')
    await behave({ isOnline: true })
    const foreign = await fetch(`${page}/behave`, { method: 'POST', body: '{}', headers: { 'sec-fetch-site': 'cross-site' } })
    expect([foreign.status, (await behave({ labelsLeft: -1 })).status]).toEqual([403, 400])
  })
})

describe('what is no printer', () => {
  const answers: Record<string, (server: Server) => void> = {
    rubbish: (server) => server.on('request', (_request, response) => response.end('not a printer at all')),
    'lengths that lead back': (server) =>
      server.on('request', (_request, response) => response.end(Buffer.from('0200000000000001014700128174ff8000', 'hex'))),
    'a nest without an end': (server) =>
      server.on('request', (_request, response) => response.end(Buffer.from('020000000000000104340001610000', 'hex'))),
    nothing: (server) => server.on('request', (_request, response) => response.end()),
    'a page that is not there': (server) => server.on('request', (_request, response) => response.writeHead(404).end()),
    'another address': (server) =>
      server.on('request', (_request, response) => response.writeHead(302, { location: 'http://127.0.0.1:1/secret' }).end()),
  }
  test.each(Object.entries(answers))('%s: it is said, and nothing breaks', async (_what, answer) => {
    const server = createServer()
    answer(server)
    const port = await freePort()
    await new Promise<void>((done) => server.listen(port, '127.0.0.1', done))
    await expect(sendJob(printerAt(port), pdf, 1)).rejects.toThrow(/answers as no printer does|cannot be reached|did not say/)
    await expect(stateOfJob(printerAt(port), 1)).rejects.toThrow(/answers as no printer does|cannot be reached/)
    server.closeAllConnections()
    await new Promise((done) => server.close(done))
  })
})
