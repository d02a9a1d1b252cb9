import { spawnSync } from 'node:child_process'
import { randomBytes, randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { root } from './programs.mjs'

export const tablets = 4
const gapMs = 120

export async function signIn(url, name) {
  const { people } = await (await fetch(`${url}/demo`)).json()
  const { secret } = people.find((person) => person.name === name)
  const answer = await fetch(`${url}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, secret }),
  })
  return String(answer.headers.get('set-cookie')).split(';')[0]
}

export async function startRun(url, cookie) {
  const list = async (path) => (await (await fetch(`${url}${path}`, { headers: { cookie } })).json()).entries
  const item = (await list('/items?limit=200')).find((one) => one.kind === 'whole' && one.animal === 'beef')
  const sheet = (await list('/cut-sheets?limit=200')).find((one) => one.slug === 'beef-tenderloin-traditional')
  const answer = await fetch(`${url}/runs`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body: JSON.stringify({
      id: randomUUID(),
      itemId: item.id,
      cutSheetId: sheet.id,
      supplierId: null,
      billed: '490 kg',
      received: '490 kg',
      weightsChecked: true,
      coreTempC: null,
      startedAt: new Date().toISOString(),
    }),
  })
  return answer.json()
}

/** One tablet: each line goes out until it was answered, the next only then, as the outbox does. */
export async function weighUntil(urls, cookie, run, index, isOver, toll) {
  const tub = run.tubs[index]
  const lines = []
  while (!isOver()) {
    const last = lines.at(-1)
    const isReversal = last && last.reversesId === null && Math.random() < 0.15
    const line = isReversal
      ? { id: randomUUID(), path: 'reversals', reversesId: last.id, tenths: last.tenths }
      : { id: randomUUID(), path: 'weighings', reversesId: null, tenths: 10 + (randomBytes(2).readUInt16LE() % 3000) }
    await sendUntilStored(urls, cookie, run, tub, line, toll)
    lines.push({ ...line, tubId: tub.id })
    await pause(gapMs * Math.random() * 2)
  }
  return lines
}

async function sendUntilStored(urls, cookie, run, tub, line, toll) {
  const from = Date.now()
  /** What each try was answered with, and when, in milliseconds. */
  const story = []
  const weighedAt = new Date().toISOString()
  const body =
    line.path === 'reversals'
      ? { id: line.id, reversesId: line.reversesId, weighedAt }
      : { id: line.id, tubId: tub.id, weight: `${line.tenths / 10} g`, weighedAt }
  const send = (signal = AbortSignal.timeout(5000)) =>
    fetch(`${urls[Math.floor(Math.random() * urls.length)]}/runs/${run.id}/${line.path}`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify(body),
      signal,
    })
  for (;;) {
    try {
      if (Math.random() < 0.06) {
        toll.lost += 1
        await send(AbortSignal.timeout(1 + Math.random() * 8)).catch(() => undefined)
        continue
      }
      const answers = Math.random() < 0.08 ? await Promise.all([send(), send()]) : [await send()]
      if (answers.length > 1) toll.doubled += 1
      story.push(`${answers.map(({ status }) => status).join('+')} after ${Date.now() - from}`)
      if (answers.some((answer) => answer.status === 201)) {
        const tookMs = Date.now() - from
        if (tookMs > 2000) toll.late = (toll.late ?? 0) + 1
        if (tookMs > (toll.longestMs ?? 0))
          Object.assign(toll, { longestMs: tookMs, longestStory: [toll.trouble?.(), ...story].filter((part) => part).join(', ') })
        return
      }
      const refused = answers.find((answer) => answer.status < 500)
      if (refused) throw new Refused(`${refused.status} ${await refused.text()}`)
    } catch (error) {
      if (error instanceof Refused) throw error
      story.push(`nothing after ${Date.now() - from}`)
    }
    toll.retries += 1
    await pause(100)
  }
}

class Refused extends Error {}

/** What of the database does not fit, if anything. */
export function misfits(databaseUrl) {
  const env = { ...process.env, DATABASE_URL: databaseUrl }
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'server/dist/check.js')], { cwd: root, env, encoding: 'utf8' })
  return status === 0 ? undefined : (stdout + stderr).trim()
}

/** @param inOrder whether each tablet's lines must stand in its order, as they do where one database gives out the numbers */
export function judge(run, sent, inOrder = true) {
  const failures = []
  const expected = new Map(sent.flat().map((line) => [line.id, line]))
  const stored = run.weighings
  const ids = new Set(stored.map((line) => line.id))
  const check = (holds, what) => holds || failures.push(what)
  check(ids.size === stored.length, 'A line stands twice.')
  check(
    [...expected.keys()].every((id) => ids.has(id)),
    'A line that was accepted is lost.',
  )
  check(
    stored.every((line) => expected.has(line.id)),
    'A line that nobody sent stands in the ledger.',
  )
  check(
    stored.every((line) => {
      const given = expected.get(line.id)
      return given && given.tenths === line.tenths && given.tubId === line.tubId && given.reversesId === line.reversesId
    }),
    'A line is not what was sent.',
  )
  for (const lines of inOrder ? sent : []) {
    const order = stored.filter((line) => line.tubId === lines[0]?.tubId).map((line) => line.id)
    check(order.join() === lines.map((line) => line.id).join(), 'A tablet’s lines are not in its order.')
  }
  return { passed: 4 + (inOrder ? sent.length : 0) - failures.length, failures }
}
