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
/** A scale is told what to do by hand: more than this waiting to be read is no longer that. */
const mostUnread = 4096
const notAScale = 'Nothing at that address answers as a scale.'

/**
 * Follows a scale over TCP; `onLost` is called once, when it cannot be reached, falls silent or hangs up. What never speaks as a
 * scale is lost after the same time in the same words, whether nothing is there, or something else, or something that is shut.
 */
export function followScale(address: ScaleAddress, onLine: (line: ScaleLine) => void, onLost: (why: string) => void): ScaleConnection {
  const socket = connect(address)
  let isOver = false
  let hasSpoken = false
  const lose = (why: string) => {
    if (isOver || !hasSpoken) return
    isOver = true
    socket.destroy()
    onLost(why)
  }
  const firstWord = setTimeout(() => {
    if (hasSpoken || isOver) return
    isOver = true
    socket.destroy()
    onLost(notAScale)
  }, silenceMs)
  socket.setTimeout(silenceMs, () => lose('The scale has fallen silent.'))
  socket.once('error', () => lose('The scale cannot be reached.'))
  socket.once('close', () => lose('The scale has hung up.'))
  onSocketLine(socket, (text) => {
    const line = readLine(text)
    if (!line || isOver) return
    hasSpoken = true
    clearTimeout(firstWord)
    onLine(line)
  })
  return {
    command(command) {
      socket.write(`${JSON.stringify(command)}\n`)
      if (socket.writableLength > mostUnread) lose('The scale does not read what it is told.')
    },
    close() {
      isOver = true
      clearTimeout(firstWord)
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
