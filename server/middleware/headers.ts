import { defineEventHandler, setHeaders } from 'h3'

/** Headers for every reply; pages get their content policy with a nonce from the plugin. */
export default defineEventHandler((event) => {
  setHeaders(event, {
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
