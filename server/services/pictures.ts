import { PNG } from 'pngjs'

/** A small file may unfold to a huge picture; nobody photographs a pipe end with more. */
const MOST_PIXELS = 50_000_000

const fits = (width: number, height: number) => width > 0 && height > 0 && width * height <= MOST_PIXELS

function wholePng(bytes: Buffer): boolean {
  if (bytes.length < 33 || bytes.toString('latin1', 1, 4) !== 'PNG' || !fits(bytes.readUInt32BE(16), bytes.readUInt32BE(20))) return false
  try {
    PNG.sync.read(bytes, { checkCRC: true })
    return true
  } catch {
    return false
  }
}

/** Walks the segments of a JPEG to the one that gives its size. */
function wholeJpeg(bytes: Buffer): boolean {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return false
  for (let at = 2; at + 9 < bytes.length; ) {
    const marker = bytes[at + 1]!
    if (bytes[at] !== 0xff) return false
    const sized = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)
    if (sized) return fits(bytes.readUInt16BE(at + 7), bytes.readUInt16BE(at + 5))
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
