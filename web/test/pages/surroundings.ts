import 'fake-indexeddb/auto'

/**
 * What pages find in a browser and jsdom does not have. Sizes, streams and workers are there and stay still: pages are drawn, and
 * what hangs on them is tried in a real browser.
 */
class Still {
  addEventListener() {}
  removeEventListener() {}
  addListener() {}
  removeListener() {}
  observe() {}
  unobserve() {}
  disconnect() {}
  postMessage() {}
  terminate() {}
  close() {}
}

Object.assign(globalThis, {
  ResizeObserver: Still,
  IntersectionObserver: Still,
  EventSource: Still,
  Worker: Still,
  isSecureContext: true,
  __BUILT_AT__: 'the tests',
})
Object.assign(window, {
  matchMedia: (media: string) => Object.assign(new Still(), { media, matches: media.includes('min-width') }),
  scrollTo: () => undefined,
})
Element.prototype.scrollIntoView = () => undefined
Object.assign(SVGElement.prototype, { getBBox: () => ({ x: 0, y: 0, width: 0, height: 0 }), getComputedTextLength: () => 0 })
