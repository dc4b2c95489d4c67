import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import { loadProcedure } from '../../../core/procedure/load'
import type { Entry } from '../../../core/record/entry'
import { read, yes } from '../support'
import { at } from './support'

/** A step that has its time in the work: not before one reading is so far, not after another is. */
const compiled = loadProcedure(`
key: window
title: Window
revision: A
system: window
material: none
basis: made up for tests
cautions: []
facts:
  - { key: site.opens, title: Opens from, dimension: length, from: site, optional: true }
  - { key: site.closes, title: Closes from, dimension: length, from: site, optional: true }
tables: []
stages:
  - key: work
    title: Work
    steps:
      - { key: height, title: Height, instruction: Measure., onFailure: { action: rework, words: Again. },
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm,
          limits: [ { of: each, title: Height, max: 9 m } ] } }
      - { key: struts, title: Struts out, instruction: Take out.,
          window: { opens: 'reading("height") >= site.opens', early: Too early.,
          closes: 'reading("height") > site.closes', late: Too late. },
          check: { kind: confirm, question: Out? } }
`)
const struts = (entries: Entry[], facts: Record<string, number> = { 'site.opens': 1, 'site.closes': 2 }) =>
  judge(compiled, facts, entries, at(90)).steps.find((s) => s.key === 'struts')!

describe('a window', () => {
  it.each<[string, number, string, RegExp | null]>([
    ['before it opens', 0.9, 'blocked', /Too early/],
    ['where it opens', 1, 'not-started', null],
    ['where it closes', 2, 'not-started', null],
    ['after it has closed', 2.1, 'overdue', /Too late/],
  ])('%s, nothing done: %s m', (_what, height, state, sentence) => {
    const step = struts([read('height', [height], 5)])
    expect(step.state).toBe(state)
    if (sentence) expect(step.sentence).toMatch(sentence)
  })
  it.each<[string, number, string]>([
    ['before it opens does not stand', 0.9, 'blocked'],
    ['while it is open is accepted', 1.5, 'accepted'],
    ['after it has closed is rejected', 2.1, 'rejected'],
  ])('what was done %s', (_what, height, state) =>
    expect(struts([read('height', [height], 5), yes('struts', 6)]).state).toBe(state),
  )
  it('goes by a reading as it was last read: what was read wrong at first was never so', () => {
    const entries = [read('height', [1.5], 5), yes('struts', 6), read('height', [2.5], 7)]
    expect(struts(entries).state).toBe('rejected')
  })
  it.each([
    ['site.opens', 'opens from'],
    ['site.closes', 'closes from'],
  ])('of which %s is not known cannot be worked out', (key, what) => {
    const facts = Object.fromEntries(
      Object.entries({ 'site.opens': 1, 'site.closes': 2 }).filter(([k]) => k !== key),
    )
    for (const more of [[], [yes('struts', 6)]])
      expect(struts([read('height', [1.5], 5), ...more], facts)).toMatchObject({
        ...{ state: 'blocked', sentence: `Cannot be worked out: ${what} is not known.` },
      })
  })
})
