import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'

/** Keeps the built pages on the tablet, so that they open without a network. Data is not its business: see the outbox. */
const keptPages = VitePWA({
  filename: 'service-worker.js',
  // a newer build is offered, and taken when a person says so
  registerType: 'prompt',
  injectRegister: false,
  manifest: false,
  workbox: {
    globPatterns: ['**/*.{js,css,html,svg,png,webmanifest}', '**/*-latin-[0-9]*.woff2'],
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//],
    cleanupOutdatedCaches: true,
    clientsClaim: true,
    inlineWorkboxRuntime: true,
    maximumFileSizeToCacheInBytes: 4 * 1024 * 1024,
  },
})

export default defineConfig({
  plugins: [react(), keptPages],
  define: { __BUILT_AT__: JSON.stringify(String(Date.now())) },
  // what a page needs is kept on the tablet by the service worker: a list of it all in the first file would only make that larger
  build: { target: 'es2022', sourcemap: false, assetsInlineLimit: 0, modulePreload: false },
  css: {
    preprocessorOptions: { scss: { quietDeps: true, silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'] } },
  },
})
