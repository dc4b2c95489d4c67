import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { canonicalEntry, CHAIN_START } from '../../../core/record/chain'
import { checkRecordFile, type RecordFile } from '../../../core/record/record-file'

/** A record is checked by its file alone. */
const sha256 = (text: string) => createHash('sha256').update(text).digest('hex')
type Row = RecordFile['entries'][number]

function recordOf(payloads: [kind: string, payload: Record<string, unknown>][]): RecordFile {
  const entries: Row[] = []
  for (const [i, [kind, payload]] of payloads.entries()) {
    const prev = entries.at(-1)?.hash ?? CHAIN_START
    const row = {
      ...{ id: `e${i}`, project: 'p', subjectType: 'pack', subject: 's', seq: i + 1, kind, step: null },
      ...{
        payload: JSON.stringify(payload),
        instrument: null,
        person: 'ines',
        role: 'inspector',
        crew: null,
      },
      ...{ device: null, deviceNumber: null, stampAt: null, late: null, prev },
      ...{ recordedAt: `2026-05-04T0${i}:00:00.000Z`, receivedAt: `2026-05-04T0${i}:00:00.000Z` },
    }
    const bound = kind === 'signature' && payload.digest === '' ? { ...payload, digest: prev } : payload
    const whole = { ...row, payload: JSON.stringify(bound) }
    entries.push({ ...whole, hash: sha256(canonicalEntry(whole)) })
  }
  return { record: 'TP-1', entries }
}
const sound = () =>
  recordOf([
    ['start', { open: [] }],
    ['run', { file: 'f', sha256: 'a'.repeat(64) }],
    ['evaluation', { verdict: 'accept' }],
    ['signature', { name: 'Hale', digest: '' }],
  ])
const check = (file: unknown) => checkRecordFile(JSON.parse(JSON.stringify(file)), sha256)
const changed = (i: number, more: Partial<Row>): RecordFile => {
  const { record, entries } = sound()
  return { record, entries: entries.map((e, n) => (n === i ? { ...e, ...more } : e)) }
}

describe('the file of a record', () => {
  it('that is whole says its digest, who signed, and which files it names', () => {
    const file = sound()
    expect(check(file)).toEqual({
      ...{ record: 'TP-1', entries: 4, digest: file.entries[3]!.hash, fault: null },
      signatures: [
        { name: 'Hale', at: '2026-05-04T03:00:00.000Z', digest: file.entries[2]!.hash, holds: true },
      ],
      files: ['a'.repeat(64)],
    })
  })
  it.each([
    ['a verdict changed', changed(2, { payload: '{"verdict":"reject"}' }), /Entry 3: its content/],
    ['another person', changed(0, { person: 'oskar' }), /Entry 1: its content/],
    ['a moment moved', changed(1, { recordedAt: '2026-05-03T01:00:00.000Z' }), /Entry 2/],
    ['an entry of something else', changed(1, { subject: 'other' }), /Entry 2 is of something else/],
    ['an entry of another project', changed(2, { project: 'other' }), /Entry 3 is of something else/],
    ['words that are no payload', changed(3, { payload: 'loud' }), /Entry 4: its content/],
    ['one left out', { ...sound(), entries: sound().entries.filter((_e, i) => i !== 1) }, /missing/],
    ['another begin', { ...sound(), entries: sound().entries.slice(1) }, /missing/],
    [
      'a signature that was given for something else',
      recordOf([
        ['start', {}],
        ['signature', { name: 'Hale', digest: 'b'.repeat(64) }],
      ]),
      /Hale is bound to a digest that this record never had/,
    ],
  ])('tells of %s', (_what, file, sentence) => expect(check(file).fault).toMatch(sentence))
  it.each([
    ['nothing', null, 'record'],
    ['no entries', { record: 'x', entries: [] }, 'record'],
    ['no list of them', { record: 'x', entries: 'all' }, 'record'],
    ['no name', { entries: sound().entries }, 'record'],
    ['a second entry without its person', changed(1, { person: undefined }), 'entries.1.person'],
    ['an entry without its hash', changed(0, { hash: undefined }), 'entries.0.hash'],
    ['an entry of junk', { record: 'x', entries: [7] }, 'entries.0.id'],
  ])('of %s is refused', (_what, file, field) =>
    expect(() => check(file)).toThrowError(expect.objectContaining({ code: 'bad-record', field })),
  )
})
