import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import { openBefore } from '../../../core/judgement/release'
import type { CompiledProcedure } from '../../../core/procedure/compile'
import { loadProcedure } from '../../../core/procedure/load'
import type { Entry } from '../../../core/record/entry'
import { loadSystem, sampleEntries } from '../../../demo/system-records'
import { entry, T0 } from '../support'

const document = (stages: string, facts = '') => `
key: two-ends
title: Two ends
revision: A
system: two-ends
material: steel
basis: A test.
cautions: []
facts:
  - { key: pipe.od, title: Diameter, dimension: length, unit: mm, from: pipe }
  - { key: joint.oneEnd, title: One end, dimension: flag, from: joint, optional: true }
${facts}
gate: none
drawings:
  - { key: pipe, each: end, show: socket-end, title: End, values: { od: pipe.od, wall: pipe.od / 10, depth: mark("depth") } }
stages:
${stages}`
const confirm = (key: string, more = '') =>
  `      - { key: ${key}, title: ${key} title, instruction: Look., ${more} check: { kind: confirm, question: Good? } }\n`
const END = `
  - key: end
    title: End
    each: end
    when: 'end == "upstream" or joint.oneEnd != true'
    steps:
      - { key: read, title: Reading, instruction: Measure.,
          check: { kind: measure, quantity: length, unit: mm, limits: [ { of: each, max: 10 mm } ] } }
      - { key: depth, title: Depth, instruction: Mark., drawing: pipe#depth,
          check: { kind: mark, formula: 'reading("read") + 50 mm', unit: mm, from: end, question: Marked? } }
      - { key: hold, title: Hold, instruction: Ask., point: H, check: { kind: confirm, question: Good? } }
${confirm('glued', 'after: [ depth ],')}`
const LAST = `  - key: last\n    title: Last\n    steps:\n${confirm('closed', 'after: [ glued ],')}`
const two = loadProcedure(document(END + LAST))
const at = (compiled: CompiledProcedure, facts: Record<string, number | boolean>, entries: Entry[]) => {
  const j = judge(compiled, { 'pipe.od': 0.1, ...facts }, entries, T0 + 86_400_000)
  return { ...j, of: (key: string) => j.steps.find((s) => s.key === key)! }
}
const reading = (step: string, mm: number, minute: number) =>
  entry(step, 'reading', { values: [mm / 1000] }, minute)
const yes = (step: string, minute: number) => entry(step, 'confirmation', { answer: 'yes' }, minute)

describe('a stage made at each end', () => {
  it('stands twice, the upstream end whole before the downstream end', () => {
    expect(two.steps.map((s) => s.step.key)).toEqual([
      'read@upstream',
      'depth@upstream',
      'hold@upstream',
      'glued@upstream',
      'read@downstream',
      'depth@downstream',
      'hold@downstream',
      'glued@downstream',
      'closed',
    ])
    expect(two.steps[5]!.step.title).toBe('Depth, downstream end')
  })
  it('is judged at each end for itself', () => {
    const j = at(two, {}, [reading('read@upstream', 12, 1), reading('read@downstream', 8, 2)])
    expect([j.of('read@upstream').state, j.of('read@downstream').state]).toEqual(['rejected', 'accepted'])
    expect(j.drafts.map((d) => d.step)).toEqual(['read@upstream'])
  })
  it('reads what was recorded at its own end', () => {
    const j = at(two, {}, [reading('read@upstream', 2, 1), reading('read@downstream', 7, 2)])
    expect(
      [j.of('depth@upstream').value, j.of('depth@downstream').value].map((v) => Math.round(v! * 1e6)),
    ).toEqual([52_000, 57_000])
    expect(at(two, {}, [reading('read@upstream', 2, 1)]).of('depth@downstream')).toMatchObject({
      value: null,
      state: 'blocked',
    })
  })
  it('is waited for at both ends by what comes after it', () => {
    const all = [
      reading('read', 2, 1),
      yes('depth', 2),
      yes('hold', 3),
      entry('hold', 'request', {}, 4),
      entry('hold', 'release', {}, 5, { person: 'ines', role: 'inspector' }),
    ]
    expect(at(two, {}, [...all, yes('glued@upstream', 6)]).of('closed').sentence).toBe(
      'First: glued title, downstream end.',
    )
    expect(
      at(two, {}, [...all, yes('glued@upstream', 6), yes('glued@downstream', 7)]).of('closed').state,
    ).toBe('not-started')
  })
  it('is one end where the stage says so, and that end is not judged', () => {
    const j = at(two, { 'joint.oneEnd': true }, [])
    expect(j.steps.filter((s) => s.end === 'downstream').map((s) => s.state)).toEqual([
      'not-applicable',
      'not-applicable',
      'not-applicable',
      'not-applicable',
    ])
    expect(j.applicable).toBe(5)
  })
  it('a hold point of one end holds only that end', () => {
    const upstream = [reading('read@upstream', 2, 1), yes('depth@upstream', 2), yes('hold@upstream', 3)]
    const j = at(two, {}, upstream)
    expect([j.of('glued@upstream').state, j.of('read@downstream').state]).toEqual(['blocked', 'not-started'])
    expect(openBefore(two, j, upstream, 'hold@downstream')).toEqual([
      'read@downstream',
      'depth@downstream',
      'hold@downstream',
    ])
    // Work at the other end is no work past it.
    expect(at(two, {}, [...upstream, reading('read@downstream', 2, 4)]).of('hold@upstream').state).toBe(
      'held',
    )
    expect(at(two, {}, [...upstream, yes('glued@upstream', 4)]).of('hold@upstream').state).toBe('rejected')
  })
  it('an entry without an end, as older records have it, stands for both', () => {
    const j = at(two, {}, [reading('read', 12, 1)])
    expect([j.of('read@upstream').state, j.of('read@downstream').state]).toEqual(['rejected', 'rejected'])
    expect(j.drafts).toHaveLength(1)
    const struck = at(two, {}, [
      { ...reading('read', 12, 1), id: 'bad' },
      entry('read', 'correction', { strikes: 'bad', reason: 'slipped' }, 2),
    ])
    expect([struck.of('read@upstream').state, struck.of('read@downstream').state]).toEqual([
      'rejected',
      'rejected',
    ])
  })
  it.each([
    'steel-axial-swage',
    'abs-preinsulated-nipple',
    'pe-corrugated-coupler',
    'pvc-solvent-weld',
    'cpvc-solvent-weld',
  ])('a record of %s with every answer at both ends at once is accepted as before', (key) => {
    const { compiled, sample, facts } = loadSystem(key)
    const plain = sampleEntries(compiled, sample.conforming).filter(
      (e) =>
        !e.step.endsWith('@upstream') || !compiled.stepIndex.has(e.step.replace('@upstream', '@downstream')),
    )
    const old = plain.map((e) =>
      entry(
        e.step.replace(/@.*/, ''),
        e.kind,
        e.payload,
        e.minute,
        e.by === 'inspector' ? { person: 'ines', role: 'inspector' } : {},
      ),
    )
    const j = judge(compiled, facts, old, T0 + 30 * 86_400_000)
    expect(
      j.steps
        .filter((s) => s.state !== 'accepted' && s.state !== 'not-applicable')
        .map((s) => [s.key, s.sentence]),
    ).toEqual([])
  })
})

describe('a procedure that mixes ends up is refused', () => {
  const refused = (stages: string) => () => loadProcedure(document(stages))
  it.each([
    [
      'a clock from outside that does not say which end',
      END +
        `  - key: last\n    title: Last\n    steps:\n      - { key: cure, title: Cure, ` +
        `instruction: Wait., check: { kind: clock, from: glued, earliest: 1 h } }\n`,
      /made at each end: say which, as glued@upstream/,
    ],
    [
      'a formula from outside that does not say which end',
      END +
        `  - key: last\n    title: Last\n    steps:\n      - { key: sum, title: Sum, ` +
        `instruction: Sum., check: { kind: calculated, formula: 'reading("read")', quantity: ` +
        `length, unit: mm } }\n`,
      /made at each end: say which, as read@upstream/,
    ],
    ['a key too long to carry its end', END.replaceAll('glued', 'g'.repeat(49)), /at most 48 letters/],
    [
      'an end in a stage that has none',
      `  - key: last\n    title: Last\n    when: 'end == "upstream"'\n    steps:\n${confirm('closed')}`,
      /end/,
    ],
    [
      'a drawing of each end where nothing is made at each',
      `  - key: last\n    title: Last\n    steps:\n${confirm('closed')}`,
      /No stage is made at each end|no mark/,
    ],
  ])('%s', (_what, stages, message) => expect(refused(stages)).toThrow(message))
  it('an end may be named from outside', () => {
    const compiled = loadProcedure(
      document(
        END +
          `  - key: last\n    title: Last\n    steps:\n      - { key: sum, title: Sum, ` +
          `instruction: Sum., check: { kind: calculated, formula: 'reading("read@downstream") - ` +
          `reading("read@upstream")', quantity: length, unit: mm } }\n`,
      ),
    )
    expect(
      at(compiled, {}, [reading('read@upstream', 2, 1), reading('read@downstream', 7, 2)]).of('sum').value,
    ).toBeCloseTo(0.005, 9)
  })
})
