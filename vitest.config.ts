import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import Unimport from 'unimport/unplugin'
import Icons from 'unplugin-icons/vite'
import { defineConfig } from 'vitest/config'

const path = (folder: string) => fileURLToPath(new URL(folder, import.meta.url))
const alias = { '#core': path('./core'), '~': path('./app') }

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'core',
          include: ['tests/{core,app,command}/**/*.test.ts'],
          environment: 'node',
          // The core keeps nothing between tests: it is loaded once, not anew for every file.
          isolate: false,
          testTimeout: 120_000,
        },
      },
      {
        // Components mounted by themselves, with what the application imports for them.
        plugins: [
          vue(),
          Icons({ compiler: 'vue3' }),
          Unimport.vite({
            presets: [
              'vue',
              'pinia',
              {
                from: path('./tests/components/nuxt.ts'),
                imports: ['useRoute', 'useRouter', 'navigateTo', 'ElMessage'],
              },
            ],
            dirs: [path('./app/composables'), path('./app/stores')],
          }),
        ],
        resolve: {
          alias: [
            ...Object.entries(alias).map(([find, replacement]) => ({ find, replacement })),
            // As one file: every test file loads it anew.
            { find: /^element-plus$/, replacement: 'element-plus/dist/index.full.mjs' },
          ],
        },
        test: {
          name: 'components',
          include: ['tests/components/**/*.test.ts'],
          environment: 'happy-dom',
          css: false,
          setupFiles: ['tests/components/setup.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          environment: 'node',
          fileParallelism: false,
          // One process for all files: on a machine that is busy, starting one for each can take too long.
          isolate: false,
          testTimeout: 180_000,
          hookTimeout: 900_000,
          globalSetup: ['tests/server/database.setup.ts'],
        },
      },
    ],
  },
})
