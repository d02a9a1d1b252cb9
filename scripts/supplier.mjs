import { placeDevice, runDevice } from './device.mjs'

/** The simulated supplier beside a Fleam at this port. */
export const placeSupplier = (port) => placeDevice({ file: import.meta.filename, name: 'SUPPLIER', near: port + 14 })

if (process.argv[1] === import.meta.filename) {
  await runDevice({
    name: 'SUPPLIER',
    near: 4194,
    what: 'supplier',
    speaks: 'HTTP (price list and orders)',
    built: 'server/dist/supplier.js',
    serve: ({ serveSimulatedSupplier }, ports) => serveSimulatedSupplier(ports),
  })
}
