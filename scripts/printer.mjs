import { placeDevice, runDevice } from './device.mjs'

/** The simulated label printer beside a Fleam at this port. */
export const placePrinter = (port) => placeDevice({ file: import.meta.filename, name: 'PRINTER', near: port + 12 })

if (process.argv[1] === import.meta.filename) {
  await runDevice({
    name: 'PRINTER',
    near: 4192,
    what: 'label printer',
    speaks: 'IPP',
    built: 'server/dist/printer.js',
    serve: ({ serveSimulatedPrinter }, ports) => serveSimulatedPrinter(ports),
  })
}
