import { describe, expect, it } from 'vitest'
import { holdOpening } from '../../../core/judgement/hold'
import { openBefore, waived } from '../../../core/judgement/release'
import { byStep } from '../../../core/judgement/standing'
import type { Entry } from '../../../core/record/entry'
import { entry, read, T0, yes } from '../entries'
import { judged, small } from './support'

/** When a hold point is open: somebody asked, everything before it was answered, and somebody released. */
const hold = small.stepIndex.get('before')!
const opening = (list: Entry[]) => holdOpening(small.steps.slice(0, hold + 1), byStep(small, list))
const at = (minute: number) => T0 + minute * 60_000
const before = (more: Entry[] = [], without: string[] = []) => [
  ...[
    read('gouge', [0.0001], 1),
    yes('peeled', 2),
    yes('wiped', 3),
    yes('marked', 4),
    entry('bolts', 'count', { count: 4 }, 5),
    yes('before', 6),
  ].filter((e) => !without.includes(e.step!)),
  ...more,
]
const asked = entry('before', 'request', {}, 7)
const release = (minute: number, payload: object = {}) =>
  entry('before', 'release', { ...payload }, minute, { person: 'ines', role: 'inspector' })
const waiver = (minute: number, payload: object = {}) =>
  entry('before', 'waiver', { reason: 'By letter.', ...payload }, minute)

describe('a release', () => {
  it('opens when it was asked for and everything is answered, from its own moment', () =>
    expect(opening(before([asked, release(8)]))).toEqual({ since: at(8), lacking: [] }))
  it('is nobody’s yet: nothing is open, and nothing lacks', () =>
    expect(opening(before([asked]))).toEqual({ since: Infinity, lacking: [] }))
  it('that nobody asked for lacks that', () =>
    expect(opening(before([release(8)]))).toEqual({ since: Infinity, lacking: ['the request for it'] }))
  it('asked for at its very moment counts, after it not', () => {
    const asks = (minute: number) => entry('before', 'request', {}, minute)
    expect(opening(before([asks(8), release(8)])).since).toBe(at(8))
    expect(opening(before([release(8), asks(8.1)])).lacking).toEqual(['the request for it'])
  })
  it.each([
    ['gouge', 'Gouge'],
    ['wiped', 'Wiped'],
    ['bolts', 'Bolts'],
    ['before', 'Before joining'],
  ])('lacks %s where nobody answered it', (step, title) =>
    expect(opening(before([asked, release(8)], [step]))).toEqual({ since: Infinity, lacking: [title] }),
  )
  it('lacks what was answered only after it; at its moment is in time', () => {
    const wiped = (minute: number) => before([asked, release(8), yes('wiped', minute)], ['wiped'])
    expect(opening(wiped(8)).since).toBe(at(8))
    expect(opening(wiped(8.1))).toEqual({ since: Infinity, lacking: ['Wiped'] })
  })
  it('lacks nothing of a step that has a report', () => {
    const ncr = entry('wiped', 'ncr', { event: 'raised', number: 'NCR-1' }, 4)
    expect(opening(before([asked, release(8), ncr], ['wiped'])).since).toBe(at(8))
  })
  it('that did not count does not keep a later one from counting, which opens from then', () => {
    const late = before([asked, release(8), yes('wiped', 9), release(10)], ['wiped'])
    expect(opening(late)).toEqual({ since: at(10), lacking: [] })
  })
  it('of two that count opens from the first', () =>
    expect(opening(before([asked, release(8), release(10)])).since).toBe(at(8)))
  it('that came late, or is of a refusal, opens nothing', () => {
    expect(opening(before([asked, { ...release(8), late: true }])).since).toBe(Infinity)
    expect(opening(before([asked, entry('before', 'refusal', { reason: 'No.' }, 8)])).since).toBe(Infinity)
  })
})

describe('a waiver', () => {
  it('needs nobody to have asked', () => expect(opening(before([waiver(8)])).since).toBe(at(8)))
  it('opens over what it names, and over nothing else', () => {
    expect(opening(before([waiver(8, { waives: ['wiped'] })], ['wiped'])).since).toBe(at(8))
    expect(opening(before([waiver(8, { waives: ['wiped'] })], ['wiped', 'bolts']))).toEqual({
      ...{ since: Infinity, lacking: ['Bolts'] },
    })
    expect(opening(before([waiver(8)], ['wiped'])).lacking).toEqual(['Wiped'])
  })
  it('for a lot opens no hold', () =>
    expect(opening(before([waiver(8, { lot: 'CE-3' })])).since).toBe(Infinity))
  it('names steps, or none', () => {
    expect(waived({ waives: ['a', 'b'] })).toEqual(['a', 'b'])
    expect([waived({}), waived({ waives: 'a' })]).toEqual([[], []])
  })
})

describe('what is open before a hold point', () => {
  const open = (list: Entry[]) => openBefore(small, judged(list), list, 'before')
  it('is everything that is not accepted, and its own question', () => {
    expect(open([])).toContain('before')
    expect(open([])).toEqual(expect.arrayContaining(['gouge', 'peeled', 'wiped']))
    expect(open([])).not.toContain('joined')
  })
  it('is not what is accepted, nor its own question once it is answered', () => {
    const list = before()
    expect(open(list)).not.toContain('peeled')
    expect(open(list)).not.toContain('before')
    expect(open(before([], ['before']))).toContain('before')
  })
  it('is what is rejected', () => {
    const list = before([], ['gouge'])
    expect(open([read('gouge', [0.005], 1), ...list])).toContain('gouge')
  })
})

describe('a hold point at a step that is measured', () => {
  const options = { plan: { gouge: 'H' as const, before: null } }
  const gouge = (mm: number, ...more: Entry[]) =>
    judged([read('gouge', [mm / 1000], 1), ...more], 90, options).steps.find((s) => s.key === 'gouge')!
  const request = entry('gouge', 'request', {}, 2)
  const by = (kind: 'release' | 'refusal' | 'waiver' | 'decision', payload: object, minute = 3) =>
    entry('gouge', kind, { ...payload }, minute, { person: 'ines', role: 'inspector' })
  const drafts = (...more: Entry[]) =>
    judged([read('gouge', [0.002], 1), ...more], 90, options).drafts.map((d) => d.step)

  it('conforms, and waits for its release', () => {
    expect(gouge(0.5)).toMatchObject({ state: 'held', sentence: 'Waits for release.' })
    expect(gouge(0.5, request)).toMatchObject({ state: 'held', sentence: 'Release requested.' })
    expect(gouge(0.5, request, by('release', {}))).toMatchObject({ state: 'accepted', sentence: 'Released.' })
  })
  it.each([
    ['too deep', 2, 'rejected'],
    ['too near the limit', 0.95, 'too-close'],
  ])('%s: neither asking nor a release makes it conform', (_what, mm, state) => {
    const measured = gouge(mm)
    expect(measured.state).toBe(state)
    expect(gouge(mm, request)).toMatchObject({
      ...{ state, sentence: `${measured.sentence} Release is requested.` },
    })
    expect(gouge(mm, request, by('release', {}))).toMatchObject({
      ...{ state, sentence: `Released. ${measured.sentence}` },
    })
  })
  it('what an inspector accepted with a reason is released as what conforms', () => {
    const accepted = by('decision', { verdict: 'accept', reason: 'Ground out.' }, 2.5)
    expect(gouge(2, request, accepted)).toMatchObject({ state: 'held', computed: 'rejected' })
    expect(gouge(2, request, accepted, by('release', {}))).toMatchObject({ state: 'accepted' })
  })
  it('a waiver with its reason lets it through, and drafts no report', () => {
    const waived = by('waiver', { reason: 'By letter.', waives: ['gouge'] })
    expect(gouge(2, request, waived)).toMatchObject({ state: 'accepted', sentence: 'Waived: By letter.' })
    expect([drafts(), drafts(request, by('release', {})), drafts(waived)]).toEqual([['gouge'], ['gouge'], []])
  })
  it('is among what is open before its own release as long as it does not conform', () => {
    const open = (mm: number) => {
      const list = [read('gouge', [mm / 1000], 1), request]
      return openBefore(small, judged(list, 90, options), list, 'gouge')
    }
    expect([open(0.5), open(0.95), open(2)]).toEqual([[], ['gouge'], ['gouge']])
  })
  it('a release leaves work that is not finished where it is', () => {
    const counted = judged(
      [
        entry('bolts', 'count', {}, 1),
        entry('bolts', 'request', {}, 2),
        ...[entry('bolts', 'release', {}, 3, { person: 'ines', role: 'inspector' })],
      ],
      90,
      { plan: { bolts: 'H', before: null } },
    ).steps.find((s) => s.key === 'bolts')!
    expect(counted.state).not.toBe('accepted')
  })
})
