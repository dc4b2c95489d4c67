import { describe, expect, it } from 'vitest'
import type { FactValue } from '../../../core/formula/formula'
import { lacking, whatIsMissing } from '../../../core/judgement/missing'
import { fillSlots } from '../../../core/judgement/slots'
import { byStep } from '../../../core/judgement/standing'
import { loadProcedure } from '../../../core/procedure/load'
import type { Entry } from '../../../core/record/entry'
import { read } from '../support'

/** What keeps a formula from being worked out, as a person is told it. */
const compiled = loadProcedure(`
key: lacks
title: Lacks
revision: A
system: lacks
material: none
basis: made up for tests
cautions: []
facts:
  - { key: pipe.od, title: Outside Diameter, dimension: length, from: pipe, optional: true }
  - { key: pipe.wall, title: Wall, dimension: length, from: pipe, optional: true }
  - { key: pipe.grade, title: Grade, dimension: word, from: pipe, optional: true }
  - { key: site.wet, title: Wet, dimension: flag, from: site, optional: true }
tables: []
stages:
  - key: work
    title: Work
    steps:
      - { key: gap, title: Gap, instruction: Measure., onFailure: { action: rework, words: Again. },
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm, limits: [ { of: each, title: Gap, max: 9 m } ] } }
      - { key: lap, title: Lap, instruction: Measure., onFailure: { action: rework, words: Again. },
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm, limits: [ { of: each, title: Lap, max: 9 m } ] } }
      - { key: figures, title: Figures, instruction: Mark.,
          check: { kind: mark, unit: mm, from: end, question: So?,
          formula: 'pipe.od + pipe.wall + reading("gap") + reading("lap")' } }
      - { key: words, title: Words, instruction: Mark.,
          check: { kind: mark, unit: mm, from: end, question: So?,
          formula: 'pipe.grade == "x" and site.wet ? 1 mm : 2 mm' } }
`)
const formulaOf = (key: string) => compiled.steps[compiled.stepIndex.get(key)!]!.value!
const whole = { 'pipe.od': 1, 'pipe.wall': 1, 'pipe.grade': 'x', 'site.wet': true }
const slots = (facts: Record<string, FactValue>, entries: Entry[] = [read('gap', [1]), read('lap', [1])]) =>
  fillSlots(compiled, facts, undefined, byStep(compiled, entries))
const said = (facts: Record<string, FactValue>, entries?: Entry[]) =>
  whatIsMissing(compiled, [null, formulaOf('figures')], slots(facts, entries))
const without = (...keys: string[]) =>
  Object.fromEntries(Object.entries(whole).filter(([k]) => !keys.includes(k)))

describe('what is missing', () => {
  it.each<[Record<string, FactValue>, Entry[] | undefined, string]>([
    [without('pipe.od'), undefined, 'outside diameter is not known'],
    [without('pipe.od', 'pipe.wall'), undefined, 'outside diameter, wall are not known'],
    [whole, [read('gap', [1])], '"Lap" must be recorded first'],
    [whole, [], '"Gap", "Lap" must be recorded first'],
    // Facts come first: without them what is recorded helps nobody.
    [without('pipe.wall'), [], 'wall is not known'],
    [whole, undefined, 'the values lie outside the table of the procedure'],
    // What the formula does not read is not told.
    [without('pipe.grade', 'site.wet'), undefined, 'the values lie outside the table of the procedure'],
  ])('%j, %j: %s', (facts, entries, sentence) => expect(said(facts, entries)).toBe(sentence))
  it('of no formula is nothing', () =>
    expect(whatIsMissing(compiled, [null], slots({}, []))).toMatch(/outside the table/))
})

describe('a formula lacks', () => {
  const lacks = (key: string, facts: Record<string, FactValue>, entries?: Entry[]) =>
    lacking(compiled, formulaOf(key), slots(facts, entries))
  it('nothing where all of it is known', () => {
    expect(lacks('figures', whole)).toBe(false)
    expect(lacks('words', whole, [])).toBe(false)
  })
  it('a number that is not known', () => expect(lacks('figures', without('pipe.wall'))).toBe(true))
  it('a record that is not there', () => expect(lacks('figures', whole, [read('gap', [1])])).toBe(true))
  it('no word and no flag: what is not known is simply another', () =>
    expect(lacks('words', without('pipe.grade', 'site.wet'), [])).toBe(false))
})
