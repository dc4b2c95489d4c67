import { randomUUID } from 'node:crypto'
import { defineEventHandler, setHeaders } from 'h3'

/** Headers for every reply, with the number of the request; pages get their policy with a nonce from the plugin. */
export default defineEventHandler((event) => {
  const request = randomUUID()
  event.context.request = request
  setHeaders(event, {
    'x-request-id': request,
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'referrer-policy': 'same-origin',
    'permissions-policy': 'camera=(self), geolocation=(), microphone=()',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    ...(event.path.startsWith('/api/')
      ? {
          'content-security-policy': "default-src 'none'; frame-ancestors 'none'",
          'cache-control': 'no-store',
        }
      : {}),
  })
})
