import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

/** The tests of the core alone: a fault in it is theirs to notice. */
const path = (folder: string) => fileURLToPath(new URL(`../../${folder}`, import.meta.url))
export default defineConfig({
  resolve: { alias: { '#core': path('core'), '~': path('app') } },
  test: {
    root: path(''),
    include: ['tests/{core,app}/**/*.test.ts'],
    // What takes half a minute would take it again for every fault that it reaches.
    exclude: ['tests/core/procedure/broken-files.test.ts'],
    environment: 'node',
    isolate: false,
    testTimeout: 120_000,
  },
})
