import { randomUUID } from 'node:crypto'
import { type LiveReading, liveReading, type ScaleCommand, type TakenLoad } from '@fleam/contract/scales'
import { followLoad, type PanLoad, takeLoad } from '@fleam/core/scale/pan-load'
import { followScale, type ScaleAddress, type ScaleConnection } from './scale-connection.ts'

/** Whoever is told what a scale reads. */
export interface ScaleListener {
  onName(name: string): void
  onReading(reading: LiveReading): void
  /** Called once, when the scale is gone; nothing more is told. */
  onLost(why: string): void
}

/** One connection to each scale, whoever listens, so that all know a load by the same name. */
export interface ScaleHub {
  /** @returns what ends listening */
  listen(address: ScaleAddress, listener: ScaleListener): () => void
  /** @throws Error with a sentence where the scale cannot be reached */
  command(address: ScaleAddress, command: ScaleCommand): Promise<void>
  /** A load was put into a tub: whoever listens is told that it is no longer there to be taken. */
  taken(load: TakenLoad): void
  close(): void
}

interface Followed {
  connection: ScaleConnection
  listeners: Set<ScaleListener>
  name: string | undefined
  last: LiveReading | undefined
  load: PanLoad | undefined
  tareTenths: number
  idle: NodeJS.Timeout | undefined
}

/** A scale that nobody listens to is followed for this long: who comes back finds it knowing what was taken. */
const idleMs = 10 * 60_000

export function openScaleHub(): ScaleHub {
  const scales = new Map<string, Followed>()

  function follow(address: ScaleAddress): Followed {
    const key = keyOf(address)
    const known = scales.get(key)
    if (known) return known
    const connection = followScale(
      address,
      (line) => {
        if (line.kind === 'scale') {
          scale.name = line.name
          for (const listener of scale.listeners) listener.onName(line.name)
          return
        }
        const { tenths, tareTenths, state } = liveReading(line)
        // a tare makes of what lies there the tub, and of what comes now something else
        if (tareTenths !== scale.tareTenths && scale.load) scale.load = { id: null, takenTenths: 0, wasThere: false }
        scale.tareTenths = tareTenths
        scale.load = followLoad(scale.load, { tenths, state }, randomUUID)
        tell(scale, { tenths, tareTenths, state, load: scale.load })
      },
      (why) => {
        forget(key, scale)
        for (const listener of scale.listeners) listener.onLost(why)
      },
    )
    const scale: Followed = {
      connection,
      listeners: new Set(),
      name: undefined,
      last: undefined,
      load: undefined,
      tareTenths: 0,
      idle: undefined,
    }
    scales.set(key, scale)
    return scale
  }

  function forget(key: string, scale: Followed): void {
    clearTimeout(scale.idle)
    if (scales.get(key) === scale) scales.delete(key)
  }

  function listen(address: ScaleAddress, listener: ScaleListener): () => void {
    const scale = follow(address)
    clearTimeout(scale.idle)
    scale.listeners.add(listener)
    if (scale.name !== undefined) listener.onName(scale.name)
    if (scale.last) listener.onReading(scale.last)
    return () => {
      scale.listeners.delete(listener)
      if (scale.listeners.size > 0) return
      clearTimeout(scale.idle)
      scale.idle = setTimeout(() => {
        scale.connection.close()
        forget(keyOf(address), scale)
      }, idleMs).unref()
    }
  }

  return {
    listen,
    async command(address, command) {
      let leave = () => {}
      try {
        // what a scale says first tells that it is there
        await new Promise<void>((resolve, reject) => {
          leave = listen(address, { onName: () => undefined, onReading: () => resolve(), onLost: (why) => reject(new Error(why)) })
        })
        scales.get(keyOf(address))?.connection.command(command)
      } finally {
        leave()
      }
    },
    taken(taken) {
      for (const scale of scales.values()) {
        if (!scale.load || !scale.last || scale.load.id !== taken.id) continue
        scale.load = takeLoad(scale.load, taken, randomUUID)
        tell(scale, { ...scale.last, load: scale.load })
      }
    },
    close() {
      for (const [key, scale] of scales) {
        forget(key, scale)
        scale.connection.close()
      }
    },
  }
}

const keyOf = ({ host, port }: ScaleAddress) => `${host}:${port}`

function tell(scale: Followed, reading: LiveReading): void {
  scale.last = reading
  for (const listener of scale.listeners) listener.onReading(reading)
}
