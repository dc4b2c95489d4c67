import type { NitroApp } from 'nitropack/types'
// What may be done to a page before it goes out.
import type {} from '@nuxt/nitro-server'
import { randomBytes } from 'node:crypto'
import { setHeader } from 'h3'

/** Every inline script of a page carries a nonce; nothing is fetched from elsewhere. */
export default function start(nitro: NitroApp) {
  nitro.hooks.hook('render:html', (html, { event }) => {
    const nonce = randomBytes(16).toString('base64')
    const sign = (parts: string[]) =>
      parts.map((part) => part.replace(/<script(?=[\s>])/g, `<script nonce="${nonce}"`))
    html.head = sign(html.head)
    html.bodyPrepend = sign(html.bodyPrepend)
    html.body = sign(html.body)
    html.bodyAppend = sign(html.bodyAppend)
    // The label reader is WebAssembly of our own.
    // Styles: components and charts set inline style attributes.
    setHeader(
      event,
      'content-security-policy',
      [
        "default-src 'self'",
        `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'`,
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "font-src 'self' data:",
        "connect-src 'self'",
        "worker-src 'self' blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
      ].join('; '),
    )
  })
}
