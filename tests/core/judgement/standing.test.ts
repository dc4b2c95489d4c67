import { describe, expect, it } from 'vitest'
import { byStep, standing, struckByCrew } from '../../../core/judgement/standing'
import { loadProcedure } from '../../../core/procedure/load'
import type { Entry } from '../../../core/record/entry'
import { entry, yes } from '../entries'
import { small, step } from './support'

/** What stands of a record, and where. */
const strike = (what: Entry, minute: number, more: Partial<Entry> = {}) =>
  entry(what.step, 'correction', { strikes: what.id, reason: 'Wrong.' }, minute, more)
const ids = (list: readonly Entry[]) => list.map((e) => e.id)

describe('what stands', () => {
  const [one, two] = [yes('peeled', 1), yes('wiped', 2)]
  it('is everything that nobody struck, in the order it was recorded', () => {
    expect(ids(standing([two, one]))).toEqual([one.id, two.id])
    expect(standing([])).toEqual([])
  })
  it('is not what was struck, nor the correction', () =>
    expect(ids(standing([one, two, strike(one, 3)]))).toEqual([two.id]))
  it('is what was struck, when the correction was struck', () => {
    const wrong = strike(one, 3)
    expect(ids(standing([one, two, wrong, strike(wrong, 4)]))).toEqual([one.id, two.id])
  })
  it('is not, when that was struck in its turn', () => {
    const wrong = strike(one, 3)
    const back = strike(wrong, 4)
    expect(ids(standing([one, two, wrong, back, strike(back, 5)]))).toEqual([two.id])
  })
})

describe('what a crew has struck', () => {
  const one = yes('peeled', 1)
  const struck = (list: Entry[]) =>
    [...struckByCrew(small, list)].map(([index, found]) => [small.steps[index]!.step.key, ids(found)])
  it('is kept by its step, once however often it was struck', () => {
    expect(struck([one])).toEqual([])
    expect(struck([one, strike(one, 2)])).toEqual([['peeled', [one.id]]])
    expect(struck([one, strike(one, 2), strike(one, 3)])).toEqual([['peeled', [one.id]]])
    const again = yes('peeled', 3)
    expect(struck([one, strike(one, 2), again, strike(again, 4)])).toEqual([['peeled', [one.id, again.id]]])
  })
  it('is not what an inspector struck', () =>
    expect(struck([one, strike(one, 2, { role: 'inspector' })])).toEqual([]))
  it('is not what stands after all, is not there, or is of no step', () => {
    const wrong = strike(one, 2)
    expect(struck([one, wrong, strike(wrong, 3)])).toEqual([])
    expect(struck([strike(one, 2)])).toEqual([])
    const remark = entry(null, 'remark', { text: 'Wet' }, 1)
    expect(struck([remark, strike(remark, 2)])).toEqual([])
  })
  it('is answers: a remark that was struck was never tried', () => {
    const remark = entry('peeled', 'remark', { text: 'Wet' }, 2.5)
    expect(struck([one, remark, strike(remark, 3)])).toEqual([])
  })
  it('takes nothing from a decision when it was a remark', () => {
    const no = entry('peeled', 'confirmation', { answer: 'no' }, 1)
    const accepted = entry('peeled', 'decision', { verdict: 'accept', reason: 'Seen.' }, 2, {
      ...{ person: 'ines', role: 'inspector' },
    })
    const remark = entry('peeled', 'remark', { text: 'Wet' }, 2.5)
    expect(step([no, accepted], 'peeled').state).toBe('accepted')
    expect(step([no, accepted, remark, strike(remark, 3)], 'peeled').state).toBe('accepted')
  })
  it('of a step that there is no more is left out', () => {
    const gone = yes('gone', 1)
    expect(struck([gone, strike(gone, 2)])).toEqual([])
  })
})

describe('by step', () => {
  const at = (list: Entry[], key: string) => ids(byStep(small, list)[small.stepIndex.get(key)!]!)
  it('each entry is at its own, and one of no step at none', () => {
    const [one, two, more] = [yes('peeled', 1), yes('wiped', 2), yes('peeled', 3)]
    const list = [one, two, more, entry(null, 'remark', { text: 'Wet' }, 4), yes('gone', 5)]
    expect([at(list, 'peeled'), at(list, 'wiped'), at(list, 'gouge')]).toEqual([
      [one.id, more.id],
      [two.id],
      [],
    ])
    expect(byStep(small, list).flat()).toHaveLength(3)
  })
  const lots = loadProcedure(`
key: lots
title: Lots
revision: A
system: lots
material: none
basis: made up for tests
cautions: []
facts: []
stages:
  - key: all
    title: All
    steps:
      - { key: glue, title: Glue, instruction: Lot., check: { kind: lot, question: Lot? } }
      - { key: stirred, title: Stirred, instruction: Stir., once: glue, check: { kind: confirm, question: Stirred? } }
`)
  const stirred = (rests: string | null) =>
    entry('stirred', 'confirmation', {
      answer: 'yes',
      ...(rests && {
        once: { entry: 'e', subject: 's', at: 'J-1', answeredAt: 1, rests: { step: 'glue', lot: rests } },
      }),
    })
  const counts = (...list: Entry[]) => byStep(lots, list)[1]!.length
  const lot = (name: string, minute: number) => entry('glue', 'lot', { lot: name }, minute)
  it('what was answered once for a lot counts while that lot is in use, however its name is written', () => {
    expect(counts(lot('CE-8', 1), stirred('ce-8'))).toBe(1)
    expect(counts(lot('CE-9', 1), stirred('CE-8'))).toBe(0)
    expect(counts(lot('CE-8', 1), lot('CE-9', 2), stirred('CE-8'))).toBe(0)
    expect(counts(lot('CE-9', 1), lot('CE-8', 2), stirred('CE-8'))).toBe(1)
    expect(counts(stirred('CE-8'))).toBe(0)
  })
  it('what was answered here counts whatever lot is in use', () =>
    expect(counts(lot('CE-9', 1), stirred(null))).toBe(1))
})
