import react from '@vitejs/plugin-react'
import { resolve } from 'node:path'
import { defineConfig } from 'vite'
import { pageTextsPlugin } from './resources/build/page-texts.mjs'

const page = (name: string) => resolve(import.meta.dirname, `resources/ts/${name}.html`)

export default defineConfig({
  root: 'resources/ts',
  base: '/app/',
  publicDir: false,
  plugins: [react(), pageTextsPlugin()],
  // Read as JSON the many sentences cost a slow phone half of what they cost as code.
  json: { stringify: true, namedExports: false },
  build: {
    outDir: resolve(import.meta.dirname, 'public/app'),
    emptyOutDir: true,
    manifest: 'manifest.json',
    chunkSizeWarningLimit: 1200,
    rollupOptions: {
      input: { desk: page('desk'), field: page('field'), open: page('open'), kit: page('kit') },
    },
  },
})
