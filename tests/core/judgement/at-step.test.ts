import { describe, expect, it } from 'vitest'
import { conceded, lookThrough, ncrOf, ofRelease, releaseOf } from '../../../core/judgement/decisions'
import type { Entry } from '../../../core/record/entry'
import { entry, T0, yes } from '../entries'

/** What is found at one step, looked through once. */
const at = (minute: number) => T0 + minute * 60_000
const raised = (minute: number, number = 'NCR-1') => entry('s', 'ncr', { event: 'raised', number }, minute)
const closed = (minute: number, disposition: string, number = 'NCR-1') =>
  entry('s', 'ncr', { event: 'closed', number, disposition }, minute)
const decided = (minute: number, payload: object = { verdict: 'accept' }) =>
  entry('s', 'decision', { ...payload, reason: 'Seen.' }, minute, { role: 'inspector' })
const anew = (minute: number) => decided(minute, { verdict: 'again' })
const found = (list: Entry[], struck: Entry[] = []) => {
  const { last, other, tried, decision } = lookThrough(list, struck)
  return {
    ...{ last: last?.id ?? null, other: other?.id ?? null, tried: tried.map((e) => e.id) },
    decision: decision?.id ?? null,
  }
}

describe('the answers that count', () => {
  const [one, two, three] = [yes('s', 1), yes('s', 2, { person: 'lea' }), yes('s', 3)]
  const none = { last: null, other: null, tried: [], decision: null }
  it('are none where nobody answered', () => {
    expect(found([])).toEqual(none)
    expect(found([entry('s', 'remark', { text: 'Wet' }, 1)])).toEqual(none)
  })
  it('are all of them, the last decides, and the last of somebody else is the other', () => {
    expect(found([one])).toEqual({ ...none, last: one.id, tried: [one.id] })
    expect(found([one, two, three])).toEqual({
      ...{ last: three.id, other: two.id, tried: [one.id, two.id, three.id], decision: null },
    })
  })
  it('a remark or a photo between them is no answer', () => {
    const remark = entry('s', 'remark', { text: 'Wet' }, 2.5)
    expect(found([one, remark])).toEqual({ ...none, last: one.id, tried: [one.id] })
  })
  it('after a report only what was done since, not what was read at its very moment', () => {
    expect(found([one, raised(1.5), two])).toEqual({ ...none, last: two.id, tried: [two.id] })
    const same = yes('s', 1.5)
    expect(found([one, raised(1.5), same])).toEqual(none)
  })
  it('of several reports after the last', () =>
    expect(found([one, raised(1.5), two, raised(2.5, 'NCR-2'), three]).tried).toEqual([three.id]))
  it('after a decision to measure again only what was done since', () =>
    expect(found([one, anew(1.5), two])).toEqual({ ...none, last: two.id, tried: [two.id] }))
  it('the one that a decision lets stand, and what came after it', () => {
    const stands = decided(2.5, { verdict: 'accept', stands: one.id })
    expect(found([one, two, stands])).toEqual({ ...none, last: one.id, tried: [one.id] })
    expect(found([one, two, stands, three])).toEqual({ ...none, last: three.id, tried: [one.id, three.id] })
  })
  it('but not one that was let stand before a report', () => {
    const stands = decided(1.2, { verdict: 'accept', stands: one.id })
    expect(found([one, stands, raised(1.5)])).toEqual(none)
    const later = decided(1.7, { verdict: 'accept', stands: one.id })
    expect(found([one, raised(1.5), later])).toMatchObject({ last: one.id })
  })
  it('what a crew has struck was tried, in its order, and is no answer', () => {
    const struck = yes('s', 1.5)
    expect(found([one, two], [struck])).toMatchObject({
      ...{ last: two.id, other: one.id, tried: [one.id, struck.id, two.id] },
    })
    expect(found([], [struck])).toEqual({ ...none, tried: [struck.id] })
    expect(found([raised(2)], [struck])).toEqual(none)
  })
})

describe('a decision on an answer', () => {
  const [one, two] = [yes('s', 1), yes('s', 3)]
  it('counts when it came after it, or with it', () => {
    const own = decided(2)
    expect(found([one, own]).decision).toBe(own.id)
    const same = decided(1)
    expect(found([one, same]).decision).toBe(same.id)
  })
  it('not when something was done after it', () => expect(found([one, decided(2), two]).decision).toBeNull())
  it('nor when a crew struck something after it', () =>
    expect(found([one, decided(2)], [yes('s', 2.5)]).decision).toBeNull())
  it('nor on nothing', () => expect(found([decided(2)]).decision).toBeNull())
  it('the last one', () => {
    const last = decided(2.5, { verdict: 'reject' })
    expect(found([one, decided(2), last]).decision).toBe(last.id)
  })
})

describe('a report at a step', () => {
  it('is the last that was raised, open until its own number is closed', () => {
    expect(ncrOf([yes('s', 1)])).toBeNull()
    expect(ncrOf([raised(1)])).toEqual({ number: 'NCR-1', open: true, disposition: null, raisedAt: at(1) })
    expect(ncrOf([raised(1), closed(2, 'rework')])).toEqual({
      ...{ number: 'NCR-1', open: false, disposition: 'rework', raisedAt: at(1) },
    })
    expect(ncrOf([raised(1), closed(2, 'rework'), raised(3, 'NCR-2')])).toMatchObject({
      ...{ number: 'NCR-2', open: true, raisedAt: at(3) },
    })
    expect(ncrOf([raised(1), closed(2, 'rework', 'NCR-9')])).toMatchObject({ open: true })
  })
  it('is conceded when it was closed as used as is, and no otherwise', () => {
    expect(conceded(null)).toBe(false)
    expect(conceded(ncrOf([raised(1)]))).toBe(false)
    expect(conceded(ncrOf([raised(1), closed(2, 'rework')]))).toBe(false)
    expect(conceded(ncrOf([raised(1), closed(2, 'use-as-is')]))).toBe(true)
    expect(conceded({ number: 'NCR-1', open: true, disposition: 'use-as-is', raisedAt: at(1) })).toBe(false)
  })
})

describe('the release of a hold point', () => {
  const asked = entry('s', 'request', {}, 1)
  const given = entry('s', 'release', {}, 2, { person: 'ines', role: 'inspector' })
  it('is what was said last, by whom, when and why', () => {
    expect(releaseOf([])).toEqual({ state: 'none', at: null, by: null, reason: null })
    expect(releaseOf([asked])).toMatchObject({ state: 'requested', at: at(1), by: 'mara', reason: null })
    expect(releaseOf([asked, given])).toMatchObject({ state: 'released', at: at(2), by: 'ines' })
    const refused = entry('s', 'refusal', { reason: 'Support it.' }, 3)
    expect(releaseOf([asked, given, refused])).toMatchObject({ state: 'refused', reason: 'Support it.' })
    const waiver = entry('s', 'waiver', { reason: 'By letter.' }, 4)
    expect(releaseOf([asked, waiver])).toMatchObject({ state: 'waived', reason: 'By letter.' })
  })
  it('is not spoken of by a remark, a waiver for a lot, or what came late', () => {
    const lot = entry('s', 'waiver', { reason: 'Tested.', lot: 'CE-3' }, 3)
    const late = entry('s', 'release', {}, 3, { late: true })
    for (const e of [entry('s', 'remark', { text: 'x' }, 3), lot, late]) {
      expect(ofRelease(e)).toBe(false)
      expect(releaseOf([asked, e]).state).toBe('requested')
    }
    expect(ofRelease({ ...late, late: false })).toBe(true)
  })
})
