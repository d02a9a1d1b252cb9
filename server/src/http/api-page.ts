interface Operation {
  parameters?: { name: string; in: string; required?: boolean; schema?: unknown }[]
  requestBody?: { content?: Record<string, { schema?: unknown }> }
  responses?: Record<string, { content?: Record<string, { schema?: unknown }> }>
}

/** The OpenAPI description as one page to read: every path with what it takes and what it answers. */
export function writeApiPage(document: unknown): string {
  const { paths = {} } = document as { paths?: Record<string, Record<string, Operation>> }
  const operations = Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => writeOperation(method.toUpperCase(), path, operation)),
  )
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Fleam: the API</title><style>
body{font:16px/1.5 sans-serif;color:#11211f;background:#fcfdfd;max-width:60rem;margin:2rem auto;padding:0 1rem}
h2{font-size:1.1rem;margin:1.6rem 0 .3rem;border-top:1px solid #c3cdcb;padding-top:1rem}b{color:#0f6b63}
pre{background:#eef2f1;padding:.7rem;overflow:auto;font-size:13px}summary{cursor:pointer;min-height:2rem}
</style><h1>Fleam: the API</h1><p>Errors are <code>application/problem+json</code>. Open a session with
<code>POST /api/v1/session</code> and send its cookie. For machines: <a href="/api/v1/openapi.json">openapi.json</a>.</p>
${operations.join('\n')}</html>`
}

function writeOperation(method: string, path: string, { parameters = [], requestBody, responses = {} }: Operation): string {
  const asked = parameters.map(({ name, in: place, required }) => `${name} (${place}${required ? '' : ', may be left out'})`).join(', ')
  const schemas: [string, unknown][] = [
    ['takes', schemaOf(requestBody?.content)],
    ...Object.entries(responses).map(([status, response]): [string, unknown] => [`answers ${status}`, schemaOf(response.content)]),
  ]
  const details = schemas
    .filter(([, schema]) => schema !== undefined)
    .map(([title, schema]) => `<details><summary>${title}</summary><pre>${escapeHtml(JSON.stringify(schema, null, 1))}</pre></details>`)
  return `<h2><b>${method}</b> ${escapeHtml(path)}</h2>${asked && `<p>${escapeHtml(asked)}</p>`}${details.join('')}`
}

function schemaOf(content: Record<string, { schema?: unknown }> | undefined): unknown {
  return Object.values(content ?? {})[0]?.schema
}

function escapeHtml(text: string): string {
  return text.replace(/[&<>]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[sign] ?? sign)
}
