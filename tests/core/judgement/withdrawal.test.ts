import { describe, expect, it } from 'vitest'
import { projectSubject } from '../../../core/judgement/projection'
import { standing } from '../../../core/judgement/standing'
import { checkNotWithdrawn } from '../../../core/judgement/withdrawal'
import type { Problem } from '../../../core/problem'
import { entry, yes } from '../entries'
import { at, facts, judged, small } from './support'

const work = [yes('peeled', 0), yes('joined', 5), entry('before', 'request', {}, 6)]
const withdrawal = entry(null, 'withdrawal', { reason: 'The line was moved.' }, 20)
const back = entry(null, 'correction', { strikes: withdrawal.id, reason: 'It stays after all.' }, 30)

describe('what was withdrawn', () => {
  const before = judged(work, 40)
  const after = judged([...work, withdrawal], 40)
  it('asks nobody for anything: no next step, no clock, no draft', () => {
    expect(before.clocks.length).toBeGreaterThan(0)
    expect(before.drafts.length).toBeGreaterThan(0)
    expect(after).toMatchObject({ state: 'withdrawn', next: null, clocks: [], drafts: [] })
  })
  it('says still what was found at its steps', () => {
    expect(after.steps.map((s) => s.state)).toEqual(before.steps.map((s) => s.state))
  })
  it('is never ready for a test, and is not what the test waits for', () => {
    expect(after.test).toEqual({ ready: false, gated: false, at: null })
  })
  it('is held for nobody, and no time changes it', () => {
    const waits = [yes('peeled', 0), entry('before', 'request', {}, 6)]
    expect(projectSubject(small, facts, waits, at(40), {}).heldSince).toBe(at(6))
    const stored = projectSubject(small, facts, [...waits, withdrawal], at(40), {})
    expect(stored).toMatchObject({ state: 'withdrawn', heldSince: null, drafts: 0, until: null, then: null })
    expect(stored.summary.holds).toEqual([])
  })
  it('comes back as it was when the word is struck', () => {
    expect(judged([...work, withdrawal, back], 40)).toEqual(before)
  })
  it('is so too when the word arrives before the work', () => {
    expect(judged([withdrawal, ...work], 40).state).toBe('withdrawn')
  })
})

describe('recording at what was withdrawn', () => {
  const refused = (news: Parameters<typeof checkNotWithdrawn>[1], entries = [...work, withdrawal]) => {
    try {
      checkNotWithdrawn(standing(entries), news, 'Joint A-1')
    } catch (error) {
      return (error as Problem).code
    }
    return null
  }
  it.each([
    ['a reading is refused', [yes('wiped', 30)], 'withdrawn'],
    ['a second withdrawal is refused', [entry(null, 'withdrawal', { reason: 'Once more' }, 30)], 'withdrawn'],
    [
      'a correction of something else is refused',
      [entry(null, 'correction', { strikes: work[0]!.id }, 30)],
      'withdrawn',
    ],
    ['with the word that brings it back, work is refused still', [back, yes('wiped', 31)], 'withdrawn'],
    ['the word that brings it back is taken', [back], null],
  ])('%s', (_what, news, code) => expect(refused(news)).toBe(code))
  it('where nothing was withdrawn, or no more, everything is taken', () => {
    expect(refused([yes('wiped', 31)], work)).toBeNull()
    expect(refused([yes('wiped', 31)], [...work, withdrawal, back])).toBeNull()
  })
})
