import { inflateSync } from 'node:zlib'

/** A small file may unfold to a huge picture; nobody draws or keeps a sharper one. */
const MOST_PIXELS = 24_000_000

const fits = (width: number, height: number) => width > 0 && height > 0 && width * height <= MOST_PIXELS

/** Samples a point by the colour type of a PNG. */
const samples: Record<number, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 }

/** Walks the chunks of a PNG and unpacks its pixels: they must be there, all of them, and no more. */
function wholePng(bytes: Buffer): boolean {
  if (bytes.length < 33 || bytes.toString('latin1', 1, 4) !== 'PNG' || bytes.toString('latin1', 12, 16) !== 'IHDR') return false
  const [width, height, depth, colour, interlaced] = [bytes.readUInt32BE(16), bytes.readUInt32BE(20), bytes[24]!, bytes[25]!, bytes[28]! === 1]
  if (!fits(width, height) || !Object.hasOwn(samples, colour)) return false
  const packed: Buffer[] = []
  for (let at = 8; at + 12 <= bytes.length; ) {
    const size = bytes.readUInt32BE(at)
    const type = bytes.toString('latin1', at + 4, at + 8)
    if (at + 12 + size > bytes.length) return false
    if (type === 'IDAT') packed.push(bytes.subarray(at + 8, at + 8 + size))
    if (type === 'IEND') {
      const wanted = height * (1 + Math.ceil((width * samples[colour]! * depth) / 8))
      try {
        // Interlaced rows carry a little more for each of the seven passes.
        const found = inflateSync(Buffer.concat(packed), { maxOutputLength: wanted * 2 + 64 }).length
        return interlaced ? found > 0 : found === wanted
      } catch {
        return false
      }
    }
    at += 12 + size
  }
  return false
}

/** Walks the segments of a JPEG to the one that gives its size. */
function wholeJpeg(bytes: Buffer): boolean {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return false
  for (let at = 2; at + 9 < bytes.length; ) {
    const marker = bytes[at + 1]!
    if (bytes[at] !== 0xff) return false
    const sized = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)
    if (sized) return bytes.readUInt16BE(at + 5) > 0 && bytes.readUInt16BE(at + 7) > 0
    if (marker === 0xd9 || marker === 0xda) return false
    at += 2 + bytes.readUInt16BE(at + 2)
  }
  return false
}

const kinds: Record<string, (bytes: Buffer) => boolean> = {
  'image/png': wholePng,
  'image/jpeg': wholeJpeg,
  'image/webp': (bytes) => bytes.length > 16 && bytes.toString('latin1', 0, 4) === 'RIFF' && bytes.toString('latin1', 8, 12) === 'WEBP',
}

/** Whether bytes are a whole picture of their kind. A damaged one would stop every document that shows it. */
export const isPicture = (bytes: Buffer, mime: string): boolean => Object.hasOwn(kinds, mime) && kinds[mime]!(bytes)

/** The bytes of a picture written as a data address. */
export const pngOf = (address: string): Buffer => Buffer.from(address.slice(address.indexOf(',') + 1), 'base64')

/** Whether a PDF can show it. */
export const isPrintable = (bytes: Buffer, mime: string): boolean => mime !== 'image/webp' && isPicture(bytes, mime)
