import { DateTime } from 'luxon'
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import type { Cause } from '#core/ncr/causes'
import { causeWords, dispositionWords } from '#core/ncr/words'
import { printable } from '../pictures'
import { makePdf, PDF_FONT } from './pdf'

interface Photo {
  mime: string
  sha256: string
  bytes: Uint8Array
}

/** A report as it is printed: what was found, what was decided and done, each with who and when. */
export interface NcrPaper {
  number: string
  place: string
  state: string
  criterion: string
  reading: string
  crew: string
  repeat: { times: number; before: string[] }
  story: { kind: string; payload: Record<string, unknown>; by: string; at: number }[]
  before: Photo | null
  after: Photo | null
  digest: string
  project: { name: string; zone: string }
}

const PALE = '#5A6168'
const titles: Record<string, string> = {
  raise: 'Raised',
  disposition: 'Decided',
  rework: 'Done',
  verification: 'Verified',
  concession: 'The client',
  action: 'Corrective action asked for',
  done: 'Corrective action done',
}
const text = (value: unknown) => (typeof value === 'string' ? value : '')

function saying(kind: string, p: Record<string, unknown>): string {
  if (kind === 'raise') return `${text(p.criterion)} – found ${text(p.reading)}`
  if (kind === 'disposition') {
    const cause = p.cause ? ` Cause: ${causeWords[p.cause as Cause].toLowerCase()}.` : ''
    return `${dispositionWords[text(p.disposition)] ?? ''}: ${text(p.reason)}${cause}`
  }
  if (kind === 'concession') return `${p.agrees ? 'Agrees' : 'Does not agree'}: ${text(p.text)}`
  if (kind === 'verification') return `${p.accepted ? 'Accepted' : 'Sent back'}: ${text(p.text)}`
  if (kind === 'action') return `${text(p.text)} (until ${text(p.due)})`
  return text(p.text)
}

/** A nonconformance on one page. A photo that cannot be shown never ends the document. */
export async function ncrHere(paper: NcrPaper): Promise<Uint8Array> {
  const { project, before, after } = paper
  const time = (ms: number) => DateTime.fromMillis(ms, { zone: project.zone }).toFormat('d LLL yyyy HH:mm')
  const pictures = await Promise.all(
    [before, after].map((p) => (p ? printable(Buffer.from(p.bytes), p.mime) : null)),
  )
  const photo = (i: 0 | 1, title: string): Content => {
    const image = pictures[i]
    const file = [before, after][i]
    return {
      stack: [
        { text: title, color: PALE, margin: [0, 0, 0, 3] },
        image
          ? { image, fit: [250, 190] as [number, number] }
          : { text: file ? 'The photo cannot be printed.' : 'No photo.', italics: true },
        ...(file ? [{ text: file.sha256, fontSize: 6, color: PALE }] : []),
      ],
    }
  }
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [38, 36, 38, 40],
    defaultStyle: { font: PDF_FONT, fontSize: 9.5, color: '#161A1D' },
    info: { title: `Nonconformance ${paper.number}` },
    footer: (n, of) => ({
      ...{ margin: [38, 6, 38, 0], fontSize: 7, color: PALE },
      columns: [`Vet Line · ${project.name} · ${paper.number}`, { text: `${n} / ${of}`, alignment: 'right' }],
    }),
    content: [
      {
        columns: [
          { text: `Nonconformance ${paper.number}`, fontSize: 17, bold: true },
          { width: 'auto', text: paper.state.toUpperCase(), bold: true, fontSize: 12 },
        ],
      },
      { text: [paper.place, paper.crew].filter(Boolean).join(' · '), color: PALE, margin: [0, 2, 0, 10] },
      {
        layout: 'lightHorizontalLines',
        table: {
          widths: [110, '*'],
          body: [
            ['Wanted', paper.criterion],
            ['Found', { text: paper.reading, bold: true }],
            [
              'Again',
              paper.repeat.times > 1
                ? `${paper.repeat.times}. time at this step by this crew; before it: ${paper.repeat.before.join(', ')}`
                : 'the first at this step by this crew',
            ],
          ].map(([a, b]) => [{ text: a as string, color: PALE }, b as never]),
        },
      },
      { text: 'What was decided and done', bold: true, margin: [0, 12, 0, 2] },
      {
        layout: 'lightHorizontalLines',
        table: {
          widths: [110, '*', 150],
          body: paper.story.map((e) => [
            titles[e.kind] ?? e.kind,
            saying(e.kind, e.payload),
            { text: `${e.by}, ${time(e.at)}`, color: PALE },
          ]),
        },
      },
      {
        ...{ margin: [0, 14, 0, 0], columnGap: 16, unbreakable: true },
        columns: [photo(0, 'Before'), photo(1, 'After')],
      },
      {
        ...{ unbreakable: true, margin: [0, 14, 0, 0] },
        columns: [
          { width: 66, qr: `vet-line:${paper.number}:${paper.digest}`, fit: 60 },
          {
            stack: [
              { text: 'Digest of the record of this report', color: PALE },
              { text: paper.digest, fontSize: 8 },
            ],
          },
        ],
      },
    ],
  }
  return makePdf(definition)
}
