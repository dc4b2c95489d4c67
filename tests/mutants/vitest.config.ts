import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

/** The tests of the core alone: a fault in it is theirs to notice. */
const path = (folder: string) => fileURLToPath(new URL(`../../${folder}`, import.meta.url))
export default defineConfig({
  resolve: { alias: { '#core': path('core'), '~': path('app') } },
  test: {
    root: path(''),
    include: ['tests/mutants/serve.test.ts'],
    environment: 'node',
    pool: 'threads',
    maxWorkers: 1,
    isolate: false,
    testTimeout: 120_000,
    reporters: [{}],
  },
})
