import { connect } from 'node:net'
import { type ScaleCommand, type ScaleLine, scaleLine } from '@fleam/contract/scales'
import { onSocketLine } from '../../socket-lines.ts'

export interface ScaleAddress {
  host: string
  port: number
}

export interface ScaleConnection {
  command(command: ScaleCommand): void
  close(): void
}

const silenceMs = 3000

/** Follows a scale over TCP; `onLost` is called once, when it cannot be reached, falls silent or hangs up. */
export function followScale(address: ScaleAddress, onLine: (line: ScaleLine) => void, onLost: (why: string) => void): ScaleConnection {
  const socket = connect(address)
  let isOver = false
  const lose = (why: string) => {
    if (isOver) return
    isOver = true
    socket.destroy()
    onLost(why)
  }
  socket.setTimeout(silenceMs, () => lose('The scale has fallen silent.'))
  socket.once('error', () => lose('The scale cannot be reached.'))
  socket.once('close', () => lose('The scale has hung up.'))
  onSocketLine(socket, (text) => {
    const line = readLine(text)
    if (line) onLine(line)
  })
  return {
    command: (command) => void socket.write(`${JSON.stringify(command)}\n`),
    close() {
      isOver = true
      socket.destroy()
    },
  }
}

function readLine(text: string): ScaleLine | undefined {
  try {
    return scaleLine.parse(JSON.parse(text))
  } catch {
    return undefined
  }
}
