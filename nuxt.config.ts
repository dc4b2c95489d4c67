import { fileURLToPath } from 'node:url'
import Icons from 'unplugin-icons/vite'
import { workerFiles } from './build/worker-files'

const core = fileURLToPath(new URL('./core', import.meta.url))

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  ssr: false,
  devtools: { enabled: false },
  telemetry: false,
  modules: ['@pinia/nuxt', '@element-plus/nuxt', '@nuxt/eslint', '@vite-pwa/nuxt'],
  alias: { '#core': core },
  css: [
    '@fontsource-variable/atkinson-hyperlegible-next',
    '@fontsource-variable/atkinson-hyperlegible-mono',
    '~/assets/tokens.css',
    '~/assets/base.css',
    '~/assets/drawing.css',
    '~/assets/planner.css',
    '~/assets/element.css',
  ],
  app: {
    head: {
      title: 'Vet Line',
      htmlAttrs: { lang: 'en' },
      meta: [
        { name: 'viewport', content: 'width=device-width, initial-scale=1' },
        {
          name: 'description',
          content: 'Checks pipeline joints, embedment and pressure tests against the issued procedure.',
        },
      ],
      link: [
        { rel: 'icon', type: 'image/svg+xml', href: '/icon.svg' },
        { rel: 'manifest', href: '/manifest.webmanifest' },
      ],
    },
  },
  components: [
    { path: '~/components', pathPrefix: false },
    { path: '~/drawings', pathPrefix: false, extensions: ['vue'] },
  ],
  elementPlus: { importStyle: 'css', icon: false },
  vite: {
    plugins: [Icons({ compiler: 'vue3', scale: 1.25 })],
    worker: { format: 'es' },
    build: { chunkSizeWarningLimit: 900 },
  },
  // Scripts travel compressed; the server picks what the browser takes. Files get the header that
  // middleware gives to replies.
  ...({
    nitro: {
      rollupConfig: { plugins: [workerFiles()] },
      compressPublicAssets: { gzip: true, brotli: true },
      routeRules: { '/**': { headers: { 'x-content-type-options': 'nosniff' } } },
    },
  } as object),
  // The application without a signal; the worker is registered when the first view has been shown.
  pwa: {
    strategies: 'injectManifest',
    srcDir: 'service-worker',
    filename: 'sw.ts',
    registerType: 'prompt',
    injectRegister: false,
    client: { registerPlugin: false },
    injectManifest: {
      maximumFileSizeToCacheInBytes: 6_000_000,
      globPatterns: ['**/*.{js,css,woff2,svg,wasm}'],
    },
    manifest: {
      id: '/',
      name: 'Vet Line',
      short_name: 'Vet Line',
      description: 'Checks pipeline joints, embedment and pressure tests against the issued procedure.',
      start_url: '/',
      display: 'standalone',
      background_color: '#fbf8f1',
      theme_color: '#0b5d66',
      icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
    },
  },
  typescript: {
    strict: true,
    tsConfig: {
      include: ['../core/**/*', '../tests/components/**/*'],
      compilerOptions: { noUncheckedIndexedAccess: true },
    },
  },
  eslint: { config: { stylistic: false } },
})
