import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const alias = { '#core': fileURLToPath(new URL('./core', import.meta.url)) }

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'core',
          include: ['tests/{core,app,command}/**/*.test.ts'],
          environment: 'node',
          testTimeout: 120_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          environment: 'node',
          fileParallelism: false,
          testTimeout: 180_000,
          hookTimeout: 900_000,
          globalSetup: ['tests/server/database.setup.ts'],
        },
      },
    ],
  },
})
