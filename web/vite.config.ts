import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'

/** Writes the service worker with the names of the files that it keeps; latin type is enough for the tablet. */
function serviceWorker(): Plugin {
  return {
    name: 'fleam-service-worker',
    apply: 'build',
    generateBundle: {
      order: 'post',
      handler(_options, bundle) {
        const built = Object.keys(bundle).filter((name) => /\.(js|css|woff2)$/.test(name))
        const stands = readdirSync(join(import.meta.dirname, 'public'))
        const files = ['/index.html', ...built.map((name) => `/${name}`), ...stands.map((name) => `/${name}`)]
        const hash = createHash('sha256')
          .update(files.join('\n'))
          .update(String(bundle['index.html']?.type === 'asset' ? bundle['index.html'].source : ''))
        const version = `fleam-${hash.digest('hex').slice(0, 16)}`
        const source = readFileSync(join(import.meta.dirname, 'service-worker.js'), 'utf8')
        this.emitFile({
          type: 'asset',
          fileName: 'service-worker.js',
          source: source.replace('__VERSION__', version).replace('__FILES__', JSON.stringify(files)),
        })
      },
    },
  }
}

export default defineConfig({
  plugins: [react(), serviceWorker()],
  define: { __BUILT_AT__: JSON.stringify(String(Date.now())) },
  build: { target: 'es2022', sourcemap: false, assetsInlineLimit: 0 },
  css: {
    preprocessorOptions: { scss: { quietDeps: true, silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'] } },
  },
})
