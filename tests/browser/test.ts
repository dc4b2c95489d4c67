import { test as base } from '@playwright/test'

/**
 * A test whose people leave when it ends: a browser that is left open goes on with its clocks and its
 * feed, and takes the machine from the tests that follow.
 */
export const test = base.extend<{ leaving: undefined }>({
  leaving: [
    async ({ browser }, use) => {
      await use(undefined)
      for (const context of browser.contexts()) await context.close()
    },
    { auto: true },
  ],
})
export { expect } from '@playwright/test'
