import { cleanupOutdatedCaches, precacheAndRoute } from 'workbox-precaching'

/**
 * The application without a signal: its files are kept, and every page is answered with the shell when the
 * server does not. What people record is never here: it is sealed in the device's own store.
 */
declare const self: ServiceWorkerGlobalScope & {
  __WB_MANIFEST: (string | { url: string; revision: string | null })[]
}
const SHELL = 'vet-line-shell'

cleanupOutdatedCaches()
precacheAndRoute(self.__WB_MANIFEST)

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches.open(SHELL).then(async (cache) => {
      // The page and its headers come together: its policy names the scripts that it holds.
      await cache.put('/', await fetch('/', { cache: 'reload' }))
    }),
  )
})

self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))

self.addEventListener('fetch', (event) => {
  if (event.request.mode !== 'navigate' || new URL(event.request.url).pathname.startsWith('/api/')) return
  event.respondWith(
    fetch(event.request).catch(
      async () => (await caches.match('/', { cacheName: SHELL })) ?? Response.error(),
    ),
  )
})

// The browser says that there is a signal again: what waits is sealed, and goes out by a page that is open.
self.addEventListener('sync', (event) => {
  const { tag, waitUntil } = event as ExtendableEvent & { tag: string }
  if (tag !== 'send') return
  waitUntil.call(
    event,
    self.clients.matchAll({ type: 'window' }).then((pages) => {
      for (const page of pages) page.postMessage('send')
    }),
  )
})

// A new version waits until whoever is at work says so.
self.addEventListener('message', (event) => {
  if (event.data === 'take-over') void self.skipWaiting()
})
