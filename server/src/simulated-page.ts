import type { IncomingMessage, ServerResponse } from 'node:http'
import type { Server } from 'node:net'
import type * as z from 'zod'

export function listen(server: Server, port: number, host: string): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, host, () => resolve())
  })
}

/** A request that a page of another site made. */
export function isForeign(request: IncomingMessage): boolean {
  const site = request.headers['sec-fetch-site']
  return site !== undefined && site !== 'same-origin' && site !== 'none'
}

/** A short text body; what is longer is cut off. */
export async function bodyOf(request: IncomingMessage): Promise<string> {
  let text = ''
  for await (const chunk of request) {
    text += chunk
    if (text.length > 10_000) break
  }
  return text
}

/** `undefined` where the text is no JSON of that shape. */
export function readJson<Schema extends z.ZodType>(schema: Schema, text: string): z.infer<Schema> | undefined {
  try {
    const read = schema.safeParse(JSON.parse(text))
    return read.success ? read.data : undefined
  } catch {
    return undefined
  }
}

export const answerJson = (response: ServerResponse) => (status: number, body: unknown) =>
  response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body))
