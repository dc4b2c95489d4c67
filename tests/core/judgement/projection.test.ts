import { describe, expect, it } from 'vitest'
import { emptySummary, projectSubject } from '../../../core/judgement/projection'
import type { JudgeOptions } from '../../../core/judgement/types'
import { T0, entry, read, yes } from '../support'
import { at, facts, small } from './support'

/** What is stored of a joint, so that a list, Today and the strip need not judge it again. */
const free: JudgeOptions = { plan: { before: null } }
const begun = [yes('peeled', 1), yes('wiped', 2), read('gouge', [0.0002], 2)]
const stored = (entries = begun, minute = 10, options = free) =>
  projectSubject(small, facts, entries, at(minute), options)
const moment = (minute: number) => new Date(T0 + minute * 60_000).toISOString()

describe('the projection of a joint', () => {
  it('that nobody has begun', () =>
    expect(stored([])).toMatchObject({
      ...{ state: 'not-started', until: null, then: null, testableAt: null, heldSince: null, drafts: 0 },
      ...{ done: 0, summary: { next: 'gouge', nextTitle: 'Gouge', holds: [], invited: [], clocks: [] } },
    }))
  it('names what comes next, and counts what is done of what applies', () => {
    const all = small.steps.length
    // It does not rain: that step does not apply.
    expect(stored()).toMatchObject({
      done: 3,
      applicable: all - 1,
      summary: { next: 'marked', nextTitle: 'Marked' },
    })
  })
  it('keeps the last change that comes by time alone, and every one before it', () => {
    const p = stored([...begun, yes('joined', 5)])
    expect(p.summary.clocks).toHaveLength(2)
    expect(p.summary.changes.length).toBeGreaterThan(0)
    expect([p.until, p.then]).toEqual([p.summary.changes.at(-1)!.at, p.summary.changes.at(-1)!.state])
    expect(p.testableAt).toBe(at(65))
    expect(p.summary.test).toMatchObject({ gated: true, at: at(65) })
  })
  it('keeps its drafts, how many they are', () => {
    const p = stored([...begun, read('gouge', [0.004], 3)])
    expect([p.state, p.drafts, p.summary.drafts.map((d) => d.step)]).toEqual(['rejected', 1, ['gouge']])
  })
  it('has no figures where no check measures by the way', () =>
    expect(stored().summary.figures).toEqual(emptySummary.figures))
})

describe('a hold that waits for its release', () => {
  const marked = yes('marked', 3)
  const bolts = entry('bolts', 'count', { count: 2 }, 4)
  const request = entry('before', 'request', {}, 6, { person: 'tam' })
  it('is kept with since when and by whom', () => {
    const p = stored([...begun, marked, bolts, request], 10, {})
    expect(p.summary.holds).toMatchObject([
      { step: 'before', title: 'Before joining', since: at(6), by: 'tam' },
    ])
    expect([p.state, p.heldSince]).toEqual(['held', at(6)])
  })
  it('is none while nobody has asked, nor once it is released', () => {
    expect(stored([...begun, marked, bolts], 10, {}).summary.holds).toEqual([])
    const release = entry('before', 'release', {}, 7, { person: 'ines', role: 'inspector' })
    const done = stored([...begun, marked, bolts, request, release], 10, {})
    expect([done.summary.holds, done.heldSince]).toEqual([[], null])
  })
})

describe('a witness who was invited', () => {
  const watched: JudgeOptions = { plan: { before: null, joined: 'W' } }
  const invitation = entry('joined', 'invitation', { for: moment(240) }, 5)
  const reply = (accepts: boolean) => entry('joined', 'reply', { accepts }, 7, { role: 'witness' })
  const invited = (...more: ReturnType<typeof entry>[]) =>
    stored([...begun, ...more], 10, watched).summary.invited
  it('is kept until the answer, and with it', () => {
    const known = { step: 'joined', title: 'Joined', for: at(240), at: at(5) }
    expect(invited(invitation)).toEqual([{ ...known, state: 'invited' }])
    expect(invited(invitation, reply(true))).toEqual([{ ...known, state: 'accepted' }])
  })
  it('is none who declines, was there, or was never asked', () => {
    expect(invited(invitation, reply(false))).toEqual([])
    expect(invited(invitation, reply(true), entry('joined', 'attendance', { present: true }, 9))).toEqual([])
    expect(invited()).toEqual([])
  })
})

describe('what is asked, read and watched', () => {
  const watch: JudgeOptions = {
    plan: { before: null, peeled: 'S', wiped: 'R', rain: 'S' },
    drawn: ['peeled'],
  }
  it('is kept only where there is something', () =>
    expect(Object.keys(stored().summary)).toEqual(Object.keys(emptySummary)))
  it('with the step, what it is called and since when', () => {
    const query = entry('peeled', 'query', { text: 'Which side?', to: 'inspector' }, 5, { person: 'hale' })
    const { summary } = stored([...begun, query], 10, watch)
    expect(summary.asked).toMatchObject([
      { step: 'peeled', title: 'Peeled', kind: 'query', text: 'Which side?', to: 'inspector', since: at(5) },
    ])
    expect(summary.reviews).toEqual([{ step: 'wiped', title: 'Wiped', since: at(2) }])
    // What does not apply is not to be watched.
    expect(summary.watches).toEqual([
      { step: 'peeled', title: 'Peeled', drawn: true, done: true, watched: false },
    ])
  })
  it('no more once it was answered, read or watched', () => {
    const query = entry('peeled', 'query', { text: 'Which side?' }, 5, { person: 'hale' })
    const { summary } = stored(
      [
        ...begun,
        query,
        entry('peeled', 'response', { to: query.id, text: 'Left.' }, 6),
        entry('wiped', 'review', {}, 7, { person: 'ines', role: 'inspector' }),
        entry('peeled', 'watch', { good: true }, 8, { person: 'ines', role: 'inspector' }),
      ],
      10,
      { ...watch, drawn: [] },
    )
    expect(summary).not.toHaveProperty('asked')
    expect(summary).not.toHaveProperty('reviews')
    expect(summary.watches).toMatchObject([{ step: 'peeled', drawn: false, done: true, watched: true }])
  })
  it('nothing of a joint that was withdrawn', () => {
    const withdrawal = entry(null, 'withdrawal', { reason: 'No such joint.' }, 9, { role: 'engineer' })
    const { state, summary } = stored([...begun, withdrawal], 10, watch)
    expect([state, summary.reviews, summary.watches, summary.holds]).toEqual([
      'withdrawn',
      undefined,
      undefined,
      [],
    ])
  })
})
