import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { canonicalEntry, CHAIN_START, findChainFault, type ChainedEntry } from '../../../core/record/chain'

/** The text that is hashed, written out by hand: not by the function under test. */
const row: ChainedEntry = {
  id: 'i',
  project: 'p',
  subjectType: 'joint',
  subject: 's',
  seq: 1,
  kind: 'remark',
  step: 'st',
  payload: '{"a":1}',
  instrument: 'in',
  person: 'pe',
  role: 'inspector',
  crew: 'c',
  device: 'd',
  deviceNumber: null,
  stampAt: null,
  late: null,
  recordedAt: 'ra',
  receivedAt: 'rc',
  prev: CHAIN_START,
}
const text = `["i","p","joint","s",1,"remark","st","{\\"a\\":1}","in","pe","inspector","c","d","ra","rc","${'0'.repeat(64)}"`
const sha256 = (t: string) => createHash('sha256').update(t).digest('hex')

describe('what is hashed', () => {
  it('is every field in its order', () => expect(canonicalEntry(row)).toBe(`${text}]`))
  it('and what the device says of time, where it says any', () => {
    expect(canonicalEntry({ ...row, deviceNumber: 7, stampAt: 'sa', late: 'gap' })).toBe(
      `${text},7,"sa","gap"]`,
    )
    expect(canonicalEntry({ ...row, late: 'gap' })).toBe(`${text},null,null,"gap"]`)
  })
  it.each(Object.keys(row) as (keyof ChainedEntry)[])('changes with %s', (key) => {
    const other = { ...row, [key]: typeof row[key] === 'number' ? 99 : 'changed' }
    expect(sha256(canonicalEntry(other))).not.toBe(sha256(canonicalEntry(row)))
  })
})

describe('a chain', () => {
  const build = (count: number) => {
    let prev = CHAIN_START
    return Array.from({ length: count }, (_v, i) => {
      const e = { ...row, id: `e${i + 1}`, seq: i + 1, payload: `{"n":${i}}`, prev }
      // By hand, as above: a fault of the hasher does not hide itself.
      const hash = sha256(
        `["${e.id}","p","joint","s",${e.seq},"remark","st","{\\"n\\":${i}}","in","pe","inspector","c","d","ra","rc","${prev}"]`,
      )
      prev = hash
      return { ...e, hash }
    })
  }
  const head = (list: ReturnType<typeof build>, more: object = {}) => ({
    project: 'p',
    subjectType: 'joint',
    seq: list.at(-1)!.seq,
    hash: list.at(-1)!.hash,
    ...more,
  })
  it('that is whole has no fault', () => expect(findChainFault(build(4), sha256, head(build(4)))).toBeNull())
  it('whose last entry was rewritten with a hash of its own is found by its head', () => {
    const list = build(3)
    const forged = { ...list[2]!, payload: '{"n":9}' }
    const rewritten = [...list.slice(0, 2), { ...forged, hash: sha256(canonicalEntry(forged)) }]
    expect(findChainFault(rewritten, sha256, head(list))).toMatchObject({
      entry: 'e3',
      fault: expect.stringContaining('the record ends at entry 3'),
    })
  })
  it.each([
    ['project', { project: 'other' }],
    ['kind', { subjectType: 'ncr' }],
  ])('whose head is of another %s is found', (_what, more) =>
    expect(findChainFault(build(2), sha256, head(build(2), more))).toMatchObject({
      entry: 'e1',
      fault: expect.stringContaining('another kind or project'),
    }),
  )
  it('that begins in its middle is found', () =>
    expect(findChainFault(build(3).slice(1), sha256, head(build(3)))).toMatchObject({ entry: 'e2' }))
})
