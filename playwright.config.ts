import { defineConfig } from '@playwright/test'
import { existsSync } from 'node:fs'

const url = process.env.PINYARD_TEST_URL ?? 'http://127.0.0.1:8520'

export default defineConfig({
  testDir: 'tests/browser',
  outputDir: 'var/playwright',
  timeout: 150_000,
  expect: { timeout: 30_000 },
  workers: 2,
  // Once more where a shared machine stood still for a minute; such a test is listed as flaky, not hidden.
  retries: 1,
  forbidOnly: true,
  reporter: [['list']],
  use: {
    baseURL: url,
    viewport: { width: 1280, height: 800 },
    // A quarter of the pixels: maps are drawn without a graphics card here, and nothing is told by its pixels.
    deviceScaleFactor: 0.5,
    // As people may ask for it; and nothing is measured or tapped in the middle of a move.
    contextOptions: { reducedMotion: 'reduce' },
    actionTimeout: 30_000,
    trace: 'off',
    launchOptions: {
      // Chromium without windows: it does the same with a tenth less of the processor.
      executablePath:
        process.env.PINYARD_CHROMIUM ??
        ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)),
      args: [
        '--no-sandbox',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        '--ignore-gpu-blocklist',
        '--disable-gpu-compositing',
        '--disable-gpu-rasterization',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
