import { defineConfig } from 'vitest/config'

// A machine under load is slow, not wrong.
export default defineConfig({
  test: {
    include: ['tests/units/**/*.test.ts'],
    environment: 'node',
    testTimeout: 180_000,
    // Modules are read once for all files: no test changes what it imports.
    isolate: false,
    setupFiles: ['tests/units/english.ts'],
  },
})
