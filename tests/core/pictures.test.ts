import { describe, expect, it } from 'vitest'
import { isPicture, isPrintable, pngOf } from '../../server/services/pictures'
import { damaged, dot, huge, withRows } from '../server/picture'

const png = (text: string) => isPicture(Buffer.from(text, 'base64'), 'image/png')
/** A JPEG up to its size: start, an application segment, a frame. */
const jpeg = (height: number, width: number, frame = 0xc0) => {
  const head = Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 4, 1, 1, 0xff, frame, 0, 17, 8, 0, 0, 0, 0, 3, 1, 0, 0, 0, 0])
  head.writeUInt16BE(height, 13)
  head.writeUInt16BE(width, 15)
  return head
}

describe('a PNG', () => {
  it('that is whole is taken, every time', () => {
    for (let i = 0; i < 5; i++) expect([png(dot), png(withRows(4))]).toEqual([true, true])
  })
  it.each([['pixels that do not unpack', damaged], ['a row too few', withRows(3)], ['a row too many', withRows(5)], ['more points than anybody photographs', huge], ['a beginning only', dot.slice(0, 60)], ['nothing', ''], ['its first eight bytes', 'iVBORw0KGgo=']])('with %s is not, any time', (_what, text) => {
    for (let i = 0; i < 5; i++) expect(png(text)).toBe(false)
  })
  it('whose chunk says it is longer than the file is not', () => {
    const bytes = Buffer.from(dot, 'base64')
    bytes.writeUInt32BE(0xfffffff0, 33)
    expect(isPicture(bytes, 'image/png')).toBe(false)
  })
})

describe('a JPEG', () => {
  it.each([[jpeg(1200, 1600), true], [jpeg(1200, 1600, 0xc2), true], [jpeg(0, 1600), false], [jpeg(1200, 1600).subarray(0, 12), false], [Buffer.from([0xff, 0xd8, 0xff, 0xd9, 0, 0, 0, 0, 0, 0, 0, 0, 0]), false], [Buffer.from('not at all a picture'), false]])('%#', (bytes, want) => expect(isPicture(bytes, 'image/jpeg')).toBe(want))
})

describe('any other kind', () => {
  it.each(['image/svg+xml', 'text/html', 'application/pdf', '', 'constructor', '__proto__'])('%j is none', (mime) => expect(isPicture(Buffer.from(dot, 'base64'), mime)).toBe(false))
  it('a WebP is kept, but not printed', () => {
    const webp = Buffer.concat([Buffer.from('RIFF'), Buffer.alloc(4), Buffer.from('WEBPVP8 '), Buffer.alloc(20)])
    expect([isPicture(webp, 'image/webp'), isPrintable(webp, 'image/webp')]).toEqual([true, false])
  })
  it('the bytes of a data address are those behind its comma', () => expect(pngOf(`data:image/png;base64,${dot}`).equals(Buffer.from(dot, 'base64'))).toBe(true))
})
