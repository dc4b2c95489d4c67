import { crc32, deflateSync } from 'node:zlib'

/** A whole PNG of one point. */
export const dot =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='

function png(width: number, height: number, data: Buffer): string {
  const chunk = (type: string, content: Buffer) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), content])
    const framed = Buffer.alloc(8 + body.length)
    framed.writeUInt32BE(content.length, 0)
    body.copy(framed, 4)
    framed.writeUInt32BE(crc32(body), 4 + body.length)
    return framed
  }
  const head = Buffer.alloc(13)
  head.writeUInt32BE(width, 0)
  head.writeUInt32BE(height, 4)
  head.set([8, 6, 0, 0, 0], 8)
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', head),
    chunk('IDAT', data),
    chunk('IEND', Buffer.alloc(0)),
  ]).toString('base64')
}
/** A PNG of four by four points with these rows. */
export const withRows = (rows: number) => png(4, 4, deflateSync(Buffer.alloc(rows * 17)))
/** A PNG of four by four points whose rows begin with this filter byte. */
export const withFilter = (filter: number) =>
  png(
    4,
    4,
    deflateSync(
      Buffer.concat(Array.from({ length: 4 }, () => Buffer.from([filter, ...Array(16).fill(200)]))),
    ),
  )
/** Right on the outside, with pixels that do not unpack. */
export const damaged = png(4, 4, Buffer.from('these are no pixels'))
/** A few bytes that claim forty thousand by forty thousand points. */
export const huge = png(40_000, 40_000, deflateSync(Buffer.alloc(100)))
