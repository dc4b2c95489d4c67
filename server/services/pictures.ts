import sharp, { type Sharp } from 'sharp'
import { makeTurn } from './turn'

/** Nobody draws or keeps a sharper picture; a small file may unfold to a huge one. */
const MOST_PIXELS = 24_000_000
const SECONDS = 10

// Of all that the library reads, only what a person can send.
sharp.block({ operation: ['VipsForeignLoad'] })
sharp.unblock({
  operation: ['VipsForeignLoadJpegBuffer', 'VipsForeignLoadPngBuffer', 'VipsForeignLoadWebpBuffer'],
})
sharp.cache(false)
sharp.concurrency(1)

const kinds: Record<string, 'png' | 'jpeg' | 'webp'> = {
  'image/png': 'png',
  'image/jpeg': 'jpeg',
  'image/webp': 'webp',
}
const inTurn = makeTurn(40, 'The server takes in other pictures at this moment: try again in a few seconds.')

async function decoded(bytes: Buffer, mime: string): Promise<Sharp | null> {
  const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, animated: false }).timeout({
    seconds: SECONDS,
  })
  const { format } = await picture.metadata()
  return Object.hasOwn(kinds, mime) && format === kinds[mime] ? picture.rotate() : null
}

/**
 * Decodes a picture and writes it anew, upright and without what else its file carried.
 *
 * @returns null when it is no whole picture of its kind
 */
export const cleanPicture = (bytes: Buffer, mime: string): Promise<Buffer | null> =>
  inTurn(async () => {
    try {
      const picture = await decoded(bytes, mime)
      if (!picture) return null
      return await picture.toFormat(kinds[mime]!, mime === 'image/png' ? {} : { quality: 88 }).toBuffer()
    } catch {
      return null
    }
  })

/** A picture as a document can show it, as a data address; null when it cannot be shown. */
export async function printable(bytes: Buffer, mime: string): Promise<string | null> {
  try {
    const picture = await decoded(bytes, mime)
    if (!picture) return null
    const flat = picture.resize({ width: 1600, height: 1600, fit: 'inside', withoutEnlargement: true })
    if (mime === 'image/png')
      return `data:image/png;base64,${(await flat.png().toBuffer()).toString('base64')}`
    return `data:image/jpeg;base64,${(await flat.jpeg({ quality: 85 }).toBuffer()).toString('base64')}`
  } catch {
    return null
  }
}

/** The bytes of a picture written as a data address. */
export const pngOf = (address: string): Buffer =>
  Buffer.from(address.slice(address.indexOf(',') + 1), 'base64')
