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
  it('tells of the first entry that is missing, by its number', () => {
    const list = build(4)
    expect(findChainFault([list[0]!, list[2]!, list[3]!], sha256, null)).toEqual({
      ...{ subject: 's', subjectType: 'joint', seq: 3, entry: 'e3', fault: 'entry 2 is missing before it' },
    })
  })
  it('tells of an entry that follows another than the one before it', () => {
    const [one, two] = build(2)
    const other = { ...two!, prev: 'f'.repeat(64) }
    const broken = [one!, { ...other, hash: sha256(canonicalEntry(other)) }]
    expect(findChainFault(broken, sha256, null)).toMatchObject({
      ...{ entry: 'e2', fault: 'it does not follow the entry before it' },
    })
  })
  it('of which nothing is left is found by its head', () =>
    expect(findChainFault([], sha256, head(build(2)))).toEqual({
      ...{ subject: '', subjectType: '', seq: 0, entry: '' },
      fault: 'the record ends at entry 0, but 2 were written',
    }))
  it('that ends too soon is found by its head, at its last entry', () =>
    expect(findChainFault(build(2), sha256, head(build(3)))).toEqual({
      ...{ subject: 's', subjectType: 'joint', seq: 2, entry: 'e2' },
      fault: 'the record ends at entry 2, but 3 were written',
    }))
  it('that begins in its middle is found', () =>
    expect(findChainFault(build(3).slice(1), sha256, head(build(3)))).toMatchObject({ entry: 'e2' }))
})
