// After the screens are built: bundles the field app's service worker and gives it the list of what the field app
// needs, and only that.
import { createHash } from 'node:crypto'
import { readFileSync, statSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { build } from 'vite'
import { pageTextsPlugin } from './page-texts.mjs'

const root = resolve(import.meta.dirname, '../..')
const app = resolve(root, 'public/app')
const hash = (bytes) => createHash('sha256').update(bytes).digest('hex').slice(0, 16)

const manifest = JSON.parse(readFileSync(`${app}/manifest.json`, 'utf8'))
const files = new Set()
const visit = (key) => {
  const chunk = manifest[key]
  if (!chunk || files.has(chunk.file)) return
  files.add(chunk.file)
  for (const more of [...(chunk.css ?? []), ...(chunk.assets ?? [])]) files.add(more)
  for (const next of [...(chunk.imports ?? []), ...(chunk.dynamicImports ?? [])]) visit(next)
}
visit('field.html')
// Fonts for letters of other scripts are fetched when such letters are met; they would double the first load.
const wanted = [...files].filter((f) => !/-(cyrillic|greek|vietnamese|latin-ext)[-\w]*\.woff2$/.test(f))
const entries = [
  { url: '/field', revision: hash(readFileSync(`${app}/field.html`)) },
  ...wanted.map((f) => ({ url: `/app/${f}`, revision: null })),
  ...['field.webmanifest', 'peg.svg', 'peg-192.png'].map((f) => ({
    url: `/icons/${f}`,
    revision: hash(readFileSync(`${root}/public/icons/${f}`)),
  })),
]
await build({
  configFile: false,
  publicDir: false,
  plugins: [pageTextsPlugin()],
  logLevel: 'warn',
  define: { 'self.__WB_MANIFEST': JSON.stringify(entries), 'process.env.NODE_ENV': '"production"' },
  build: {
    outDir: app,
    emptyOutDir: false,
    minify: true,
    lib: {
      entry: resolve(root, 'resources/ts/field/sw.ts'),
      formats: ['iife'],
      name: 'fieldWorker',
      fileName: () => 'field-sw.js',
    },
  },
})

const size = entries.reduce(
  (sum, e) => sum + (e.url === '/field' ? 0 : statSync(`${root}/public${e.url}`).size),
  0,
)
console.log(`field app: ${entries.length} files, ${Math.round(size / 1024)} kB before compression`)
