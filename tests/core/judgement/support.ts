import { judge } from '../../../core/judgement/judge'
import type { JudgeOptions } from '../../../core/judgement/types'
import { loadProcedure } from '../../../core/procedure/load'
import type { FactValue } from '../../../core/formula/formula'
import type { Entry } from '../../../core/record/entry'
import { T0 } from '../support'

/** A small procedure with one step of each kind that a rule of the judge speaks of. */
export const small = loadProcedure(`
key: small
title: Small
revision: A
system: small
material: none
basis: made up for tests
cautions: []
facts:
  - { key: site.air, title: Air temperature, dimension: temperature, from: site, optional: true }
  - { key: pipe.od, title: Outside diameter, dimension: length, from: pipe, optional: true }
  - { key: site.wet, title: Wet weather, dimension: flag, from: site, optional: true }
tables:
  - { key: cure, title: Cure, dimension: time, axes: [ { dimension: temperature, unit: degC, mode: interpolated, values: [0, 20] } ],
      values: [2 h, 1 h] }
stages:
  - key: ends
    title: Ends
    steps:
      - { key: gouge, title: Gouge, instruction: Measure., onFailure: { action: recut, words: Cut. },
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0.1 mm,
          limits: [ { of: each, title: Gouge, max: 1 mm } ] } }
      - { key: peeled, title: Peeled, instruction: Peel., check: { kind: confirm, question: Peeled? } }
      - { key: wiped, title: Wiped, instruction: Wipe., after: [peeled], check: { kind: confirm, question: Wiped? } }
      - { key: marked, title: Marked, instruction: Mark., when: pipe.od > 0 mm or site.wet != true,
          check: { kind: mark, formula: pipe.od / 2, unit: mm, from: end, question: Marked? } }
      - { key: bolts, title: Bolts, instruction: Count., check: { kind: count, question: How many?, min: ceil(pipe.od / 100 mm) } }
      - { key: before, title: Before joining, instruction: Look., point: H, check: { kind: confirm, question: Ready? } }
  - key: join
    title: Join
    steps:
      - { key: joined, title: Joined, instruction: Join., check: { kind: confirm, question: Joined? } }
      - { key: off, title: Clamps off, instruction: Take off.,
          check: { kind: clock, from: joined, earliest: 30 min, latest: 60 min, action: Clamps off } }
      - { key: cured, title: Cured, instruction: Wait.,
          check: { kind: clock, from: joined, earliest: 'table("cure", site.air)', gate: pressure-test } }
      - { key: paste, title: Paste, instruction: Lot., check: { kind: lot, question: Lot?, shelfMonths: 24, openedLife: 30 d } }
      - { key: rain, title: Sheltered, instruction: Shelter., when: site.wet, check: { kind: confirm, question: Sheltered? } }
`)
export const facts: Record<string, FactValue> = { 'site.air': 20, 'pipe.od': 0.2, 'site.wet': false }
export const at = (minute: number) => T0 + minute * 60_000
export const judged = (entries: Entry[], minute = 90, options: JudgeOptions = {}, given = facts) =>
  judge(small, given, entries, at(minute), options)
export const step = (entries: Entry[], key: string, minute = 90, options: JudgeOptions = {}, given = facts) =>
  judged(entries, minute, options, given).steps.find((s) => s.key === key)!
