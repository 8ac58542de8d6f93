import { test as base } from '@playwright/test'

/**
 * Tests whose pages go when they end. What a test opened by `browser.newContext()` would stay open until its worker
 * ends: desks that ask for news and draw maps beside all tests that follow.
 */
export const test = base.extend<{ closing: void }>({
  closing: [
    async ({ browser }, use) => {
      await use()
      await Promise.all(browser.contexts().map((context) => context.close()))
    },
    { auto: true },
  ],
})
export { expect } from '@playwright/test'
