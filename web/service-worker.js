/* Keeps the pages on the tablet, so that they open without a network. Data is not its business: see the outbox. */
const version = '__VERSION__'
const kept = __FILES__
const patienceMs = 3000

self.addEventListener('install', (event) => {
  event.waitUntil(caches.open(version).then((cache) => cache.addAll(kept)))
})

self.addEventListener('activate', (event) => {
  const isOld = (name) => name.startsWith('fleam-') && name !== version
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter(isOld).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  )
})

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== location.origin || url.pathname.startsWith('/api/')) return
  if (request.mode === 'navigate') event.respondWith(pageFor(request))
  else event.respondWith(caches.match(request).then((found) => found ?? fetch(request)))
})

/** The newest page where the server answers in time, otherwise the one that is kept. */
async function pageFor(request) {
  const giveUp = new AbortController()
  const timer = setTimeout(() => giveUp.abort(), patienceMs)
  try {
    const answer = await fetch(request, { signal: giveUp.signal })
    if (answer.ok) return answer
    throw new Error(String(answer.status))
  } catch (error) {
    const page = await caches.match('/index.html')
    if (page) return page
    throw error
  } finally {
    clearTimeout(timer)
  }
}
