import { placeDevice, runDevice } from './device.mjs'

/** The simulated bench scale beside a Fleam at this port. */
export const placeScale = (port) => placeDevice({ file: import.meta.filename, name: 'SCALE', near: port + 10 })

if (process.argv[1] === import.meta.filename) {
  await runDevice({
    name: 'SCALE',
    near: 4190,
    what: 'scale',
    speaks: 'Fleam’s scale protocol',
    built: 'server/dist/scale.js',
    serve: ({ serveSimulatedScale }, ports) => serveSimulatedScale({ ...ports, seed: Number(process.env.SCALE_SEED || 1) }),
  })
}
