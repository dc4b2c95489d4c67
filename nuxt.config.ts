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
  // A view is fetched when somebody reaches for its link; the whole application comes with the service
  // worker, once the first view has been shown.
  experimental: { defaults: { nuxtLink: { prefetchOn: { visibility: false, interaction: true } } } },
  elementPlus: { importStyle: 'css', icon: false },
  vite: {
    plugins: [Icons({ compiler: 'vue3', scale: 1.25 })],
    worker: { format: 'es' },
    // One style sheet: all of them together are small, and some eighty requests cost more than they save.
    build: { chunkSizeWarningLimit: 900, cssCodeSplit: false, reportCompressedSize: false },
  },
  // Scripts travel compressed; the server picks what the browser takes. Files get the header that
  // middleware gives to replies.
  ...({
    nitro: {
      rollupConfig: { plugins: [workerFiles()] },
      compressPublicAssets: { gzip: true, brotli: true },
      routeRules: {
        '/**': { headers: { 'x-content-type-options': 'nosniff' } },
        // Browsers ask for it again whenever the address changes, at every step of a joint.
        '/icon.svg': { headers: { 'cache-control': 'public, max-age=86400' } },
      },
      logging: { compressedSizes: false },
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
  // The application says itself what a reply is: that it also follows from every route costs the type
  // check half a minute.
  hooks: {
    'nitro:init': (nitro) => {
      nitro.hooks.hook('types:extend', (types) => {
        types.routes = {}
      })
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
