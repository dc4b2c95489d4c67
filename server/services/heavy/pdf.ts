import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { TDocumentDefinitions } from 'pdfmake/interfaces'

const require = createRequire(import.meta.url)
export const PDF_FONT = 'Atkinson'

function fontFiles() {
  const folder =
    process.env.VET_LINE_FONTS ??
    join(dirname(require.resolve('@fontsource/atkinson-hyperlegible-next/package.json')), 'files')
  const file = (weight: number, style = 'normal') =>
    join(folder, `atkinson-hyperlegible-next-latin-${weight}-${style}.woff`)
  return {
    [PDF_FONT]: {
      normal: file(400),
      bold: file(700),
      italics: file(400, 'italic'),
      bolditalics: file(700, 'italic'),
    },
  }
}

interface Maker {
  setFonts(fonts: unknown): void
  setUrlAccessPolicy(policy: (url: string) => boolean): void
  setLocalAccessPolicy(policy: (path: string) => boolean): void
  createPdf(definition: TDocumentDefinitions): { getBuffer(): Promise<Buffer> }
}

/** A document as PDF bytes; it may read the shipped fonts and nothing else. */
export async function makePdf(definition: TDocumentDefinitions): Promise<Buffer> {
  const { default: pdfmake } = (await import('pdfmake')) as unknown as { default: Maker }
  const fonts = fontFiles()
  const allowed = new Set(Object.values(fonts).flatMap((f) => Object.values(f)))
  pdfmake.setFonts(fonts)
  pdfmake.setUrlAccessPolicy(() => false)
  pdfmake.setLocalAccessPolicy((path) => allowed.has(path))
  return pdfmake.createPdf(definition).getBuffer()
}
