import { describe, expect, it } from 'vitest'
import { askedAt, conditionsOf, heldByAsked, reviewOf, watchOf } from '../../../core/judgement/asked'
import type { Asked } from '../../../core/judgement/types'
import { entry, T0, yes } from '../entries'

/** What the entries of a step ask, without a judge round it. */
const query = (to?: unknown, minute = 1) => entry('peeled', 'query', { text: 'Which side?', to }, minute)
const response = (to: string, minute: number, more: object = {}) =>
  entry('peeled', 'response', { to, text: 'Left.', ...more }, minute, { person: 'tam' })
const release = (conditions: unknown, minute = 5) =>
  entry('hold', 'release', { conditions }, minute, { person: 'ines' })

describe('the conditions of a release', () => {
  it.each<[string, unknown, unknown]>([
    ['none given', undefined, []],
    ['no list', 'peeled', []],
    ['nothing in the list', [null, 7, {}], []],
    ['one without a step', [{ text: 'A photo' }], []],
    ['one without a text', [{ step: 'peeled' }], []],
    ['a text that is none', [{ step: 'peeled', text: 9 }], []],
    ['one', [{ step: 'peeled', text: 'A photo' }], [{ step: 'peeled', text: 'A photo' }]],
  ])('%s', (_what, conditions, found) => expect(conditionsOf({ payload: { conditions } })).toEqual(found))
})

describe('what is asked at a step', () => {
  it('of whom it is asked is the crew where nobody says otherwise', () =>
    expect(
      [query('inspector'), query('crew'), query()].map((q) => askedAt('peeled', [q], [])[0]!.to),
    ).toEqual([...['inspector', 'crew', 'crew']]))
  it('is answered by a response to it, and by none to another', () => {
    const [one, two] = [query(), query()]
    const found = askedAt('peeled', [one, two, response(two.id, 3)], [])
    expect(found.map((a) => a.answer?.entry ?? null)).toEqual([null, expect.any(String)])
  })
  it('only a response answers', () => {
    const asked = query()
    const remark = entry('peeled', 'remark', { to: asked.id, text: 'Left.' }, 3)
    expect(askedAt('peeled', [asked, remark], [])[0]!.answer).toBeNull()
  })
  it('the last answer counts; one that says nothing of good is good', () => {
    const asked = query()
    const bad = response(asked.id, 3, { good: false })
    expect(askedAt('peeled', [asked, bad], [])[0]!.answer).toMatchObject({ good: false, by: 'tam' })
    expect(askedAt('peeled', [asked, bad, response(asked.id, 4)], [])[0]!.answer).toMatchObject({
      ...{ good: true, text: 'Left.', at: T0 + 4 * 60_000 },
    })
  })
  it('a text that is none is empty', () =>
    expect(askedAt('peeled', [entry('peeled', 'query', { text: 9 }, 1)], [])[0]!.text).toBe(''))
  it('are the conditions of each hold that name it, each answered by its place', () => {
    const one = release([
      { step: 'peeled', text: 'A photo' },
      { step: 'looks', text: 'Another' },
      { step: 'peeled', text: 'The depth' },
    ])
    const two = release([{ step: 'peeled', text: 'By ines' }], 6)
    const found = askedAt('peeled', [response(one.id, 8, { index: 2 })], [[one], [two]])
    expect(found.map((a) => [a.kind, a.index, a.text, a.answer !== null])).toEqual([
      ['condition', 0, 'A photo', false],
      ['condition', 2, 'The depth', true],
      ['condition', 0, 'By ines', false],
    ])
  })
  const first = release([{ step: 'peeled', text: 'A photo' }])
  it.each([
    ['refused since', entry('hold', 'refusal', { reason: 'No.' }, 6)],
    ['asked for anew since', entry('hold', 'request', {}, 6)],
    ['waived since', entry('hold', 'waiver', { reason: 'By letter.' }, 6)],
    ['given anew without', release([], 6)],
  ])('a release that was %s asks nothing any more', (_what, since) =>
    expect(askedAt('peeled', [], [[first, since]])).toEqual([]),
  )
  it('a hold that nobody released asks nothing', () =>
    expect(askedAt('peeled', [], [[entry('hold', 'request', {}, 1)], []])).toEqual([]))
})

describe('what it makes of the step', () => {
  const asked = (kind: Asked['kind'], good: boolean | null): Asked => ({
    ...{ id: 'x', kind, index: 0, text: 'A photo', to: 'crew', by: 'ines', at: T0 },
    answer: good === null ? null : { good, text: 'Blurred', by: 'tam', at: T0, entry: 'e' },
  })
  const [open, met, unmet] = [null, true, false].map((good) => asked('condition', good)) as [
    Asked,
    Asked,
    Asked,
  ]
  it('what is accepted waits for what is open', () => {
    expect(heldByAsked('accepted', [met, open])).toEqual({
      ...{ state: 'held', draft: null },
      sentence: 'Condition of the release: A photo Acceptance waits for it.',
    })
    expect(heldByAsked('accepted', [asked('query', null)])!.sentence).toMatch(/^Queried: A photo/)
  })
  it('a condition that is not met rejects it, with a draft of its report', () =>
    expect(heldByAsked('accepted', [open, unmet])).toEqual({
      ...{ state: 'rejected', sentence: 'A condition of the release is not met: A photo – Blurred' },
      draft: { criterion: 'Condition of the release: A photo', reading: 'Blurred', entry: 'e' },
    }))
  it('a query answered no rejects nothing', () =>
    expect(heldByAsked('accepted', [asked('query', false)])).toBeNull())
  it.each<[Parameters<typeof heldByAsked>[0], Asked[]]>([
    ['accepted', [met]],
    ['accepted', []],
    ['rejected', [unmet]],
    ['not-started', [open]],
    ['not-applicable', [unmet]],
  ])('what is %s stays as it is', (state, list) => expect(heldByAsked(state, list)).toBeNull())
  it('what is not started is rejected by what is not met', () =>
    expect(heldByAsked('not-started', [unmet])!.state).toBe('rejected'))
})

describe('a review', () => {
  const read = (minute: number) => entry('peeled', 'review', {}, minute, { person: 'hale' })
  it('is not due before there is an answer', () =>
    expect([reviewOf([]), reviewOf([read(1)])]).toEqual(
      Array.from({ length: 2 }, () => ({ state: 'not-yet', by: null, at: null })),
    ))
  it('at the moment of the answer covers it, before it not', () => {
    expect(reviewOf([yes('peeled', 2), read(2)])).toMatchObject({ state: 'reviewed', by: 'hale' })
    expect(reviewOf([read(1), yes('peeled', 2)])).toMatchObject({ state: 'due', at: T0 + 2 * 60_000 })
  })
})

describe('surveillance', () => {
  const watch = (payload: object, minute = 3) =>
    entry('peeled', 'watch', { ...payload }, minute, { person: 'ines' })
  it('is what was seen last; what says nothing of good was good', () => {
    expect(watchOf([], true)).toEqual({ drawn: true, watched: null })
    expect(watchOf([watch({ good: false, note: 'Late.' })], false)).toEqual({
      drawn: false,
      watched: { good: false, note: 'Late.', by: 'ines', at: T0 + 3 * 60_000 },
    })
    expect(watchOf([watch({ good: false }), watch({}, 4)], null).watched).toMatchObject({
      ...{ good: true, note: '' },
    })
  })
  it('is none of other entries', () => expect(watchOf([yes('peeled', 1)], null).watched).toBeNull())
})
