import { describe, expect, it } from 'vitest'
import { compareSchools } from '../../../core/judgement/compare-schools'
import { loadProcedure } from '../../../core/procedure/load'

/** Two schools side by side: every kind of thing that a step may ask otherwise, and in which words. */
const compiled = loadProcedure(`
key: schools
title: Schools
revision: A
system: schools
material: none
basis: made up for tests
cautions: []
facts:
  - { key: pipe.od, title: Outside diameter, dimension: length, from: pipe }
  - { key: site.air, title: Air temperature, dimension: temperature, from: site, optional: true }
options:
  - { key: way, title: Way, default: old, choices: [ { key: old, title: Old, reason: x }, { key: new, title: New, reason: y } ] }
tables:
  - { key: cure, title: Cure, dimension: time, axes: [ { dimension: temperature, unit: degC, mode: interpolated, values: [0, 20] } ],
      values: [2 h, 1 h] }
stages:
  - key: work
    title: Work
    steps:
      - { key: same, title: Same, instruction: Look., check: { kind: confirm, question: So? } }
      - { key: most, title: Most, instruction: Measure., onFailure: { action: rework, words: Again. },
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm,
          limits: [ { of: each, title: Gap, max: 'option.way == "old" ? 3 mm : 2 mm' } ] } }
      - { key: least, title: Least, instruction: Measure., onFailure: { action: rework, words: Again. },
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm,
          limits: [ { of: each, title: Lap, min: 'option.way == "old" ? 3 mm : 2 mm' } ] } }
      - { key: between, title: Between, instruction: Measure., onFailure: { action: rework, words: Again. },
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm,
          limits: [ { of: each, title: Gap, min: 1 mm, max: 'option.way == "old" ? 3 mm : 2 mm' },
            { of: each, title: Lap, min: 4 mm } ] } }
      - { key: mark, title: Mark, instruction: Mark.,
          check: { kind: mark, formula: 'option.way == "old" ? pipe.od : pipe.od / 2', unit: mm, from: end, question: Marked? } }
      - { key: only, title: Only, instruction: Look., when: 'option.way == "new"', check: { kind: confirm, question: So? } }
      - { key: choice, title: Choice, instruction: Choose., onFailure: { action: rework, words: Again. },
          check: { kind: choice, question: Which?, choices: [ { key: a, title: First, conforms: true },
            { key: b, title: Second, conforms: 'option.way == "new"', reason: Not in the old way. } ] } }
      - { key: joined, title: Joined, instruction: Join., check: { kind: confirm, question: Joined? } }
      - { key: short, title: Short, instruction: Wait.,
          check: { kind: clock, from: joined, earliest: 'option.way == "old" ? 90 s : 119 s', action: On } }
      - { key: middle, title: Middle, instruction: Wait.,
          check: { kind: clock, from: joined, earliest: 'option.way == "old" ? 120 s : 30 min', latest: 2 h, action: On } }
      - { key: long, title: Long, instruction: Wait.,
          check: { kind: clock, from: joined, latest: 'option.way == "old" ? 3 h : table("cure", site.air)', action: On } }
`)
const between = (facts: Record<string, number>, a = {}, b: Record<string, string> = { way: 'new' }) =>
  Object.fromEntries(compareSchools(compiled, facts, a, b).map((d) => [d.step, [d.title, d.a, d.b]]))

describe('two schools', () => {
  it('differ in what they ask, step by step, in the words of a person', () =>
    expect(between({ 'pipe.od': 0.2, 'site.air': 10 })).toEqual({
      most: ['Most', 'Gap at most 3 mm', 'Gap at most 2 mm'],
      least: ['Least', 'Lap at least 3 mm', 'Lap at least 2 mm'],
      between: ['Between', 'Gap 1 mm to 3 mm; Lap at least 4 mm', 'Gap 1 mm to 2 mm; Lap at least 4 mm'],
      mark: ['Mark', '200 mm', '100 mm'],
      only: ['Only', 'does not apply', 'applies'],
      choice: ['Choice', 'First', 'First, Second'],
      short: ['Short', 'not before 90 s', 'not before 119 s'],
      middle: ['Middle', 'not before 2 min, not after 2 h', 'not before 30 min, not after 2 h'],
      long: ['Long', 'not after 3 h', 'not after 90 min'],
    }))
  it('of which a time is not known say so', () =>
    expect(between({ 'pipe.od': 0.2 }).long).toEqual([
      'Long',
      'not after 3 h',
      'not after a time not known yet',
    ]))
  it('that are one differ in nothing', () =>
    expect(between({ 'pipe.od': 0.2 }, { way: 'new' }, { way: 'new' })).toEqual({}))
})
