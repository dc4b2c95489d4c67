import { promisify } from 'node:util'
import { gzip } from 'node:zlib'
import { getHeader, setHeader, type H3Event } from 'h3'

const gzipped = promisify(gzip)
/** Below this, packing costs more than it saves. */
const SMALL = 8 * 1024

/**
 * A reply as it is sent: what is an object and long is packed, where the client says that it unpacks.
 * Streams, buffers and texts go as they are.
 */
export async function packed(event: H3Event, data: unknown): Promise<unknown> {
  const plain = typeof data === 'object' && data !== null && (Array.isArray(data) || isPlain(data))
  if (!plain || !/\bgzip\b/.test(getHeader(event, 'accept-encoding') ?? '')) return data
  const text = JSON.stringify(data)
  if (text.length >= SMALL) {
    setHeader(event, 'content-type', 'application/json')
    setHeader(event, 'vary', 'accept-encoding')
    setHeader(event, 'content-encoding', 'gzip')
    return gzipped(text, { level: 5 })
  }
  setHeader(event, 'content-type', 'application/json')
  return text
}

const isPlain = (data: object) => Object.getPrototypeOf(data) === Object.prototype
