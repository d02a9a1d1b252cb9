import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { startCluster } from './cluster.mjs'
import { judge, misfits, signIn, startRun, tablets, weighUntil } from './soak-tablets.mjs'

/** How long a node that died stays away, as a service manager would have it. */
const restartMs = 3000

/**
 * Weighs on several benches through three servers on a Galera cluster, while servers and nodes are killed, hang or are cut off at random, then
 * reads the ledger from each node: every line once, nothing else; what does not fit in the whole database; and whether each server's
 * listener hears each further line once.
 * @returns how many checks held, what did not, and a sentence of what was done
 */
export async function soakCluster(runSeconds) {
  const scratch = mkdtempSync(join(tmpdir(), 'fleam-soak-'))
  const { cluster, servers, urls, healthy, stop } = await startCluster(scratch)
  const toll = { server: 0, node: 0, hung: 0, cut: 0, lost: 0, doubled: 0, retries: 0, longestMs: 0, late: 0 }
  /** Says what is being done to whom, for the story of a line that took long. */
  const begin = (kind, which) => {
    toll[kind] += 1
    const from = Date.now()
    toll.trouble = () => `${kind} ${which + 1} ${Date.now() - from} ms before`
  }
  try {
    const lead = await signIn(urls[0], 'Tobias Quill')
    const run = await startRun(urls[0], lead)
    const until = Date.now() + runSeconds * 1000
    let isOver = false
    const troubles = (async () => {
      while (Date.now() < until) {
        await pause(2000 + Math.random() * 4000)
        const lot = Math.random()
        const which = Math.floor(Math.random() * servers.length)
        const server = servers[which]
        const node = cluster.nodes[which]
        if (lot < 0.25) {
          begin('server', which)
          const gone = new Promise((done) => server.child.once('exit', done))
          server.child.kill('SIGKILL')
          await gone
          await pause(Math.random() * 1500)
          server.child = server.start()
        } else if (lot < 0.5) {
          begin('hung', which)
          node.signal('SIGSTOP')
          await pause(1000 + Math.random() * 6000)
          node.signal('SIGCONT')
          await node.synced()
        } else if (lot < 0.75) {
          begin('cut', which)
          node.cutOff(true)
          await pause(1000 + Math.random() * 6000)
          node.cutOff(false)
          await node.synced()
        } else {
          begin('node', which)
          await node.kill()
          // a node that comes back while the others still put its former self out keeps them from storing: see docs/operating.md
          await pause(restartMs + Math.random() * 2000)
          await node.restart()
        }
        await healthy()
      }
      isOver = true
    })()
    troubles.catch(() => (isOver = true))
    const sent = await Promise.all(Array.from({ length: tablets }, (_, index) => weighUntil(urls, lead, run, index, () => isOver, toll)))
    await troubles
    await Promise.all(cluster.nodes.map((node) => node.synced()))
    await healthy(true)
    const failures = []
    let passed = 0
    for (const [index, url] of urls.entries()) {
      const stored = await (await fetch(`${url}/runs/${run.id}`, { headers: { cookie: lead } })).json()
      const verdict = judge(stored, sent, false)
      const unfit = misfits(cluster.url(index))
      passed += verdict.passed + (unfit ? 0 : 1)
      failures.push(...[...verdict.failures, ...(unfit ? [unfit] : [])].map((failure) => `Node ${index + 1}: ${failure}`))
    }
    const deaf = await hearEach(urls, lead, run)
    passed += deaf.length === 0 ? 1 : 0
    failures.push(...deaf)
    const words =
      `${sent.flat().length} lines on ${tablets} tablets in ${runSeconds} s through three servers; servers killed ${toll.server} times, nodes ${toll.node}, ` +
      `nodes hung ${toll.hung}, cut off ${toll.cut}; ${toll.lost} answers lost, ${toll.doubled} sends doubled, ${toll.retries} sent again; ${toll.late} lines took over two seconds, the longest ${toll.longestMs} ms (${toll.longestStory}).`
    return { passed, failures, words }
  } finally {
    await stop()
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** Sixty lines through all servers at once; what a listener on each of them misses or hears twice. */
async function hearEach(urls, cookie, run) {
  const heard = urls.map(() => [])
  const end = new AbortController()
  await Promise.all(
    urls.map(async (url, index) => {
      const answer = await fetch(`${url}/live?runId=${run.id}`, { headers: { cookie }, signal: end.signal })
      const ready = new Promise((resolve) => void listen(answer.body, heard[index], resolve).catch(() => undefined))
      await Promise.race([ready, pause(5000)])
    }),
  )
  const toll = { lost: 0, doubled: 0, retries: 0 }
  let asked = 0
  const isEnough = () => {
    asked += 1
    return asked > 60
  }
  const sent = (
    await Promise.all(Array.from({ length: tablets }, (_, index) => weighUntil(urls, cookie, run, index, isEnough, toll)))
  ).flat()
  await pause(4000)
  end.abort()
  return heard.flatMap((ids, index) => {
    const ofThese = sent.map(({ id }) => ids.filter((one) => one === id).length)
    const missed = ofThese.filter((times) => times === 0).length
    const twice = ofThese.filter((times) => times > 1).length
    return missed + twice > 0
      ? [`The listener of server ${index + 1} missed ${missed} of ${sent.length} lines and heard ${twice} twice.`]
      : []
  })
}

async function listen(body, ids, onReady) {
  const decoder = new TextDecoder()
  let text = ''
  for await (const chunk of body) {
    text += decoder.decode(chunk, { stream: true })
    const blocks = text.split('\n\n')
    text = blocks.pop() ?? ''
    for (const block of blocks) {
      const line = block.split('\n').find((one) => one.startsWith('data: '))
      if (block.includes('event: ready')) onReady()
      const id = line && /"id":"([\da-f-]{36})"/.exec(line)?.[1]
      if (id && block.includes('event: weighing')) ids.push(id)
    }
  }
}
