import { describe, expect, it } from 'vitest'
import { needsReason } from '../../../core/judgement/again'
import type { Entry } from '../../../core/record/entry'
import { entry, read, yes } from '../support'
import { judged, step } from './support'

/** A rejection does not vanish by being recorded over. */
const ines = { person: 'ines', role: 'inspector' as const }
const deep = read('gouge', [0.002], 1)
const shallow = (minute = 5, more: Partial<Entry> = {}) => read('gouge', [0.0001], minute, more)
const decide = (payload: object, minute = 9, more: Partial<Entry> = {}) =>
  entry('gouge', 'decision', { reason: 'looked at it', ...payload }, minute, { ...ines, ...more })
const draftsAt = (list: Entry[], key = 'gouge') => judged(list).drafts.filter((d) => d.step === key)

describe('after a rejection', () => {
  it('a better reading of the same person is a re-measurement: rejected still, its draft with the first reading', () => {
    const s = step([deep, shallow()], 'gouge')
    expect(s.state).toBe('rejected')
    expect(s.sentence).toMatch(/2 mm is outside.*Done again since: .*0\.1 mm.*The rejection stands/)
    expect(s.between).toHaveLength(2)
    expect(draftsAt([deep, shallow()])).toMatchObject([{ reading: '2 mm', entry: deep.id }])
  })
  it('a better reading of another person differs, and the draft stays', () => {
    const list = [deep, shallow(5, ines)]
    expect(step(list, 'gouge').state).toBe('differs')
    expect(draftsAt(list)).toMatchObject([{ entry: deep.id }])
  })
  it('any number of further readings change nothing', () =>
    expect(step([deep, shallow(5), shallow(6), shallow(7)], 'gouge').state).toBe('rejected'))
  it('a crew cannot strike it away', () => {
    const strike = entry('gouge', 'correction', { strikes: deep.id, reason: 'mistyped' }, 3)
    const s = step([deep, strike], 'gouge')
    expect([s.state, s.sentence.includes('It was struck since')]).toEqual(['rejected', true])
    expect(draftsAt([deep, strike, shallow()])).toHaveLength(1)
  })
  it('an inspector strikes it away', () => {
    const strike = entry('gouge', 'correction', { strikes: deep.id, reason: 'the wrong pipe' }, 3, ines)
    expect(step([deep, strike], 'gouge').state).toBe('not-started')
    expect(step([deep, strike, shallow()], 'gouge').state).toBe('accepted')
  })
  it.each<[string, object, string]>([
    ['that the new reading stands', {}, 'accepted'],
    ['that the old reading stands', { stands: deep.id }, 'rejected'],
    ['to measure again', { verdict: 'again' }, 'not-started'],
    ['to reject', { verdict: 'reject' }, 'rejected'],
  ])('an inspector decides %s', (_what, payload, state) => {
    const better = shallow()
    const stands = { verdict: 'accept', stands: better.id }
    const s = step(
      [
        deep,
        better,
        decide({ ...(Object.keys(payload).length ? { verdict: 'accept' } : stands), ...payload }),
      ],
      'gouge',
    )
    expect(s.state).toBe(state)
    expect(
      draftsAt([
        deep,
        better,
        decide({ ...(Object.keys(payload).length ? { verdict: 'accept' } : stands), ...payload }),
      ]),
    ).toHaveLength(state === 'rejected' ? 1 : 0)
  })
  it('after the decision a new rejection stands again', () => {
    const better = shallow()
    expect(
      step(
        [deep, better, decide({ verdict: 'accept', stands: better.id }), read('gouge', [0.003], 12)],
        'gouge',
      ).state,
    ).toBe('rejected')
    expect(step([deep, decide({ verdict: 'again' }), shallow(12)], 'gouge').state).toBe('accepted')
  })
  it('between two people the inspector says who is right', () => {
    const other = shallow(5, { person: 'oskar', role: 'inspector' })
    expect(step([deep, other, decide({ verdict: 'accept', stands: other.id })], 'gouge').state).toBe(
      'accepted',
    )
    expect(step([deep, other, decide({ verdict: 'accept', stands: deep.id })], 'gouge').state).toBe(
      'rejected',
    )
  })
  it('a report closed by rework counts what was measured since', () => {
    const raised = entry('gouge', 'ncr', { event: 'raised', number: 'NCR-1' }, 6, ines)
    const closed = entry(
      'gouge',
      'ncr',
      { event: 'closed', number: 'NCR-1', disposition: 'rework' },
      20,
      ines,
    )
    expect(step([deep, shallow(5), raised, closed], 'gouge').state).toBe('not-started')
    expect(step([deep, raised, shallow(10), closed], 'gouge').state).toBe('accepted')
    // A reading of the very moment the report was raised is of before it.
    expect(step([deep, raised, shallow(6), closed], 'gouge').state).toBe('not-started')
    // Nor does what another person said before it differ any more.
    expect(step([read('gouge', [0.002], 2, ines), deep, raised, shallow(10), closed], 'gouge').state).toBe(
      'accepted',
    )
  })
  it('clamps taken off too early are not cured by taking them off later', () => {
    const joined = yes('joined', 10)
    const off = (minute: number) => entry('off', 'clock', { answer: 'yes' }, minute)
    expect(step([joined, off(30)], 'off').state).toBe('rejected')
    expect(step([joined, off(30), off(45)], 'off').state).toBe('rejected')
    expect(draftsAt([joined, off(30), off(45)], 'off')).toHaveLength(1)
    expect(step([joined, off(45)], 'off').state).toBe('accepted')
  })
  it('what stopped is not run again without a word', () => {
    const joined = yes('joined', 10)
    expect(
      step(
        [joined, entry('off', 'clock', { answer: 'no' }, 41), entry('off', 'clock', { answer: 'yes' }, 50)],
        'off',
      ).state,
    ).toBe('rejected')
  })
  it('a further answer says why, until somebody has decided', () => {
    const needs = (list: Entry[]) =>
      needsReason(
        step(list, 'gouge'),
        list.filter((e) => e.step === 'gouge'),
      )
    expect([[], [shallow()], [deep], [deep, shallow()]].map(needs)).toEqual([false, false, true, true])
    const raised = entry('gouge', 'ncr', { event: 'raised', number: 'NCR-1' }, 6, ines)
    expect(needs([deep, raised])).toBe(false)
    expect(needs([deep, decide({ verdict: 'again' })])).toBe(false)
  })
  it('of a decision and an answer of the same moment the decision is on that answer', () => {
    expect(step([read('gouge', [0.002], 9), decide({ verdict: 'accept' }, 9)], 'gouge').state).toBe(
      'accepted',
    )
    expect(step([read('gouge', [0.002], 10), decide({ verdict: 'accept' }, 9)], 'gouge').state).toBe(
      'rejected',
    )
  })
})
