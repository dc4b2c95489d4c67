import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkConditions, checkResponse } from '../../../core/judgement/duties'
import { judge } from '../../../core/judgement/judge'
import { projectSubject } from '../../../core/judgement/projection'
import type { Entry } from '../../../core/record/entry'
import { conforming, electrofusion, entry, facts180, T0 } from '../support'

const LATE = T0 + 500 * 60_000
const judged = (more: Entry[] = [], options = {}) =>
  judge(electrofusion, facts180, [...conforming(), ...more], LATE, options)
const at = (step: string, more: Entry[] = [], options = {}) =>
  judged(more, options).steps.find((s) => s.key === step)!
const query = (step: string, minute = 400, to = 'crew') =>
  entry(step, 'query', { text: 'Which side?', to }, minute, { person: 'ines', role: 'inspector' })
const response = (to: string, payload: object = {}, minute = 410, step = 'peeled') =>
  entry(step, 'response', { to, text: 'The left one.', ...payload }, minute, { person: 'tam' })
/** The release of the hold before fusion, given once more with conditions. */
const released = (...conditions: [step: string, text: string][]) => {
  const own = conforming().find((e) => e.kind === 'release')!
  const payload = { conditions: conditions.map(([step, text]) => ({ step, text })) }
  return { ...own, payload }
}
const withConditions = (release: Entry, more: Entry[] = []) => [
  ...conforming().map((e) => (e.kind === 'release' ? release : e)),
  ...more,
]
const conditional = (release: Entry, more: Entry[] = []) =>
  judge(electrofusion, facts180, withConditions(release, more), LATE)

describe('a query', () => {
  it('holds the acceptance of its step until it is answered', () => {
    const asked = query('peeled')
    expect([at('peeled', [asked]).state, judged([asked]).state]).toEqual(['held', 'held'])
    expect(at('peeled', [asked]).sentence).toBe('Queried: Which side? Acceptance waits for the answer.')
    const answered = [asked, response(asked.id)]
    expect([at('peeled', answered).state, judged(answered).state]).toEqual(['accepted', judged().state])
    expect(at('peeled', answered).asked[0]!.answer).toMatchObject({ text: 'The left one.', by: 'tam' })
  })
  it('undoes nothing of what followed', () => {
    const before = judged().steps.map((s) => [s.key, s.state])
    const after = judged([query('peeled')]).steps.map((s) => [s.key, s.state])
    expect(after.filter(([key]) => key !== 'peeled')).toEqual(before.filter(([key]) => key !== 'peeled'))
  })
  it('at a step that is not accepted changes nothing of its state', () => {
    const rejected = [entry('peeled', 'confirmation', { answer: 'no' }, 200)]
    expect(at('peeled', [...rejected, query('peeled')]).state).toBe('rejected')
  })
  it('that was struck asks nothing', () => {
    const asked = query('peeled')
    const strike = entry('peeled', 'correction', { strikes: asked.id, reason: 'wrong step' }, 401)
    expect(at('peeled', [asked, strike])).toMatchObject({ state: 'accepted', asked: [] })
  })
  it('is open in what is stored of the joint, until it is answered', () => {
    const stored = (more: Entry[]) =>
      projectSubject(electrofusion, facts180, [...conforming(), ...more], LATE, {}).summary
    const asked = query('peeled')
    expect(stored([asked]).asked).toMatchObject([{ step: 'peeled', kind: 'query', text: 'Which side?' }])
    expect(stored([asked, response(asked.id)])).not.toHaveProperty('asked')
  })
  it('in whatever order its entries arrive', () => {
    const asked = query('peeled')
    const all = [...conforming(), asked, response(asked.id), query('scrape-mark')]
    const states = judge(electrofusion, facts180, all, LATE).steps.map((s) => s.state)
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: all.length }), (shuffled) => {
        expect(judge(electrofusion, facts180, shuffled, LATE).steps.map((s) => s.state)).toEqual(states)
      }),
      { numRuns: 30 },
    )
  })
})

describe('a release on conditions', () => {
  const release = released(['clamped', 'Shield from the wind'], ['looks', 'Photo of the beads'])
  it('holds each later step that it names, until it is met there', () => {
    const before = conditional(release)
    const held = before.steps.filter((s) => s.state === 'held').map((s) => s.key)
    const named = ['clamped', 'looks'].filter((key) => {
      const was = judged().steps.find((s) => s.key === key)!
      return was.state === 'accepted'
    })
    expect(held).toEqual(named)
    const met = [
      response(release.id, { index: 0, good: true, text: 'Tent up' }, 410, 'clamped'),
      response(release.id, { index: 1, good: true, text: 'Photo 3' }, 411, 'looks'),
    ]
    expect(conditional(release, met).steps.map((s) => s.state)).toEqual(judged().steps.map((s) => s.state))
  })
  it('that is not met rejects the step, and drafts a report of it', () => {
    const unmet = response(release.id, { index: 1, good: false, text: 'No photo' }, 410, 'looks')
    const { steps, drafts } = conditional(release, [unmet])
    expect(steps.find((s) => s.key === 'looks')).toMatchObject({
      state: 'rejected',
      sentence: 'A condition of the release is not met: Photo of the beads – No photo',
    })
    expect(drafts).toContainEqual({
      ...{ step: 'looks', kind: 'rejected', criterion: 'Condition of the release: Photo of the beads' },
      ...{ reading: 'No photo', entry: unmet.id },
    })
  })
  it('the last answer counts', () => {
    const no = response(release.id, { index: 1, good: false, text: 'No photo' }, 410, 'looks')
    const yes = response(release.id, { index: 1, good: true, text: 'Taken' }, 411, 'looks')
    expect(conditional(release, [no, yes]).steps.find((s) => s.key === 'looks')!.state).toBe('accepted')
  })
  it('that was refused since carries none', () => {
    const hold = release.step!
    const refusal = entry(hold, 'refusal', { reason: 'Look again' }, 120, {
      person: 'ines',
      role: 'inspector',
    })
    const steps = conditional(release, [refusal]).steps
    expect(steps.flatMap((s) => s.asked)).toEqual([])
  })
  it.each([
    ['an earlier step', 'peeled'],
    ['its own step', 'before-fusion'],
    ['a step that there is not', 'castle'],
  ])('of %s is refused', (_what, step) =>
    expect(() => checkConditions([{ step, text: 'x' }], new Set(['clamped', 'looks']))).toThrow(
      expect.objectContaining({ code: 'bad-condition', field: 'conditions[0].step' }),
    ),
  )
})

describe('an answer', () => {
  const asked = [
    { id: 'q1', kind: 'query', index: null, text: '?', to: 'inspector', by: 'hale', at: 1, answer: null },
    { id: 'r1', kind: 'condition', index: 1, text: 'tent', to: 'crew', by: 'ines', at: 1, answer: null },
  ] as const
  it.each([
    ['to nothing', { to: 'q9' }, 'tam', ['crew-lead'], 'not-found'],
    ['to another condition of the release', { to: 'r1', index: 0 }, 'tam', ['crew-lead'], 'not-found'],
    ['of whoever asks', { to: 'q1' }, 'hale', ['inspector'], 'own-work'],
    ['of a crew to what an inspector is asked', { to: 'q1' }, 'tam', ['crew-lead'], 'forbidden'],
  ] as const)('%s is refused', (_what, payload, person, roles, code) =>
    expect(() => checkResponse(asked, payload, person, roles)).toThrow(expect.objectContaining({ code })),
  )
  it('of whom it is asked is taken', () => {
    expect(() => checkResponse(asked, { to: 'q1' }, 'ines', ['inspector'])).not.toThrow()
    expect(() => checkResponse(asked, { to: 'r1', index: 1 }, 'tam', ['crew-lead'])).not.toThrow()
  })
})

describe('a review point', () => {
  const options = { plan: { peeled: 'R' as const } }
  const reviewOf = (...more: Entry[]) => at('peeled', more, options).review
  const review = (minute: number) =>
    entry('peeled', 'review', {}, minute, { person: 'oskar', role: 'inspector' })
  it('is due once the step is answered', () => expect(reviewOf()).toMatchObject({ state: 'due' }))
  it('is over when somebody has read it', () =>
    expect(reviewOf(review(400))).toMatchObject({ state: 'reviewed', by: 'oskar' }))
  it('comes again when the step is answered anew', () =>
    expect(reviewOf(review(300), entry('peeled', 'confirmation', { answer: 'yes' }, 301))).toMatchObject({
      state: 'due',
    }))
  it('changes no state', () => expect(at('peeled', [], options).state).toBe(at('peeled', []).state))
  it('is in what is stored while it is due', () => {
    const stored = (more: Entry[]) =>
      projectSubject(electrofusion, facts180, [...conforming(), ...more], LATE, options).summary
    expect(stored([]).reviews!.map((r) => r.step)).toContain('peeled')
    expect((stored([review(400)]).reviews ?? []).map((r) => r.step)).not.toContain('peeled')
  })
})

describe('surveillance', () => {
  const options = { plan: { peeled: 'S' as const }, drawn: ['peeled'] }
  const watch = entry('peeled', 'watch', { good: true, note: 'Clean' }, 60, {
    person: 'ines',
    role: 'inspector',
  })
  it('tells whether the step is drawn, and whether somebody stood by', () => {
    expect(at('peeled', [], options).watch).toEqual({ drawn: true, watched: null })
    expect(at('peeled', [watch], options).watch).toMatchObject({ drawn: true, watched: { by: 'ines' } })
  })
  it('where the draw is not told nobody is told of it', () =>
    expect(at('peeled', [], { plan: { peeled: 'S' } }).watch).toEqual({ drawn: null, watched: null }))
  it('is stored with what was done', () => {
    const { watches } = projectSubject(
      electrofusion,
      facts180,
      [...conforming(), watch],
      LATE,
      options,
    ).summary
    expect(watches!.find((w) => w.step === 'peeled')).toMatchObject({
      drawn: true,
      done: true,
      watched: true,
    })
  })
})
