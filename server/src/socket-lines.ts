import type { Socket } from 'node:net'

/** A line longer than this is no line of a scale. */
const longest = 4096

/** Calls `onLine` for every line that a socket receives; what is longer than a scale's line is dropped. */
export function onSocketLine(socket: Socket, onLine: (line: string) => void): void {
  let held = ''
  socket.setEncoding('utf8').on('data', (text: string) => {
    const lines = (held + text).split('\n')
    held = (lines.pop() ?? '').slice(0, longest)
    for (const line of lines) onLine(line)
  })
}
