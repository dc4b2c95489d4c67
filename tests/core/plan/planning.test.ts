import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readCsv } from '../../../core/files/table'
import { planCheck, type Planned } from '../../../core/plan/check'
import { generateJoints, type Generator } from '../../../core/plan/joints'
import { cutReaches, type Cutting } from '../../../core/plan/reaches'
import { numbering } from '../../../core/plan/numbering'
import { ground } from './ground'
import { readSchedule } from '../../../core/plan/schedule'
import { elevationAt } from '../../../core/pressure/pack'
import { Problem } from '../../../core/problem'

const line = { from: 0, to: 100 }
const base: Generator = { from: 0, to: 100, pipeLength: 2.5, pattern: 'TF-{n:3}', start: 1 }
const field = (act: () => unknown) => {
  try {
    act()
  } catch (error) {
    if (error instanceof Problem) return [error.code, error.field]
    throw error
  }
  return 'taken'
}

describe('joints a pipe length apart', () => {
  it('stand between two pipes each: none at either end of the line', () => {
    const joints = generateJoints(base, line)
    expect(joints).toHaveLength(39)
    expect([joints[0], joints.at(-1)]).toEqual([
      { number: 'TF-001', station: 2.5 },
      { number: 'TF-039', station: 97.5 },
    ])
  })
  it('a last pipe that is cut shorter has its joint too', () => {
    expect(generateJoints({ ...base, to: 99 }, line).at(-1)!.station).toBe(97.5)
  })
  it('there is one less than pipes, and every pipe but the last is a whole one', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 1, max: 120 }), (decimetres, pipe) => {
        fc.pre(decimetres > pipe && pipe > 1)
        const [to, pipeLength] = [decimetres / 10, pipe / 10]
        const joints = generateJoints({ ...base, to, pipeLength }, { from: 0, to })
        expect(joints).toHaveLength(Math.ceil(decimetres / pipe) - 1)
        joints.forEach((j, i) => expect(j.station).toBeCloseTo((i + 1) * pipeLength, 6))
        expect(to - joints.at(-1)!.station).toBeLessThanOrEqual(pipeLength + 1e-6)
      }),
    )
  })
  it.each<[string, Partial<Generator>, [string, string]]>([
    ['before the line', { from: -1 }, ['out-of-bounds', 'from']],
    ['beyond the line', { to: 101 }, ['out-of-bounds', 'to']],
    ['backwards', { from: 50, to: 40 }, ['contradiction', 'to']],
    ['with no pipe', { pipeLength: 0 }, ['out-of-bounds', 'pipeLength']],
    ['with one pipe from end to end', { pipeLength: 100 }, ['nothing', 'pipeLength']],
    ['with more than anybody plans', { pipeLength: 0.11, to: 5000 }, ['too-many', 'pipeLength']],
    ['with half a number', { start: 1.5 }, ['not-whole', 'start']],
    ['without a place for the number', { pattern: 'TF' }, ['bad-pattern', 'pattern']],
    ['with two places', { pattern: '{n}-{n}' }, ['bad-pattern', 'pattern']],
    ['with a hostile number', { pattern: '=cmd|{n}' }, ['bad-pattern', 'pattern']],
  ])('%s is refused by its field', (_, more, expected) => {
    const to = more.pipeLength === 0.11 ? 5000 : 100
    expect(field(() => generateJoints({ ...base, ...more }, { from: 0, to }))).toEqual(expected)
  })
  it.each([
    ['RM-{n:3}', 7, 'RM-007'],
    ['RM-{n:3}', 1234, 'RM-1234'],
    ['{n}', 5, '5'],
    ['A {n:2} b', 5, 'A 05 b'],
  ])('%s makes of %i %s', (pattern, n, number) => {
    expect(numbering(pattern)(n)).toBe(number)
  })
})

describe('a joint schedule', () => {
  const listed = { ...line, key: 'TF', material: 'concrete', profiled: true }
  const read = (...rows: string[]) =>
    readSchedule(
      readCsv(new TextEncoder().encode(['number,station,system,crew', ...rows].join('\n'))),
      ground,
      listed,
    )
  it('is read row by row, names of crews however they are spelled', () => {
    expect(read('TF-1,2.5,rc-confined-ring,crew  fell').joints).toEqual([
      { number: 'TF-1', station: 2.5, system: 'rc-confined-ring', crew: 'Crew Fell' },
    ])
  })
  it.each([
    ['a number that is there', 'tf-900,2.5,rc-confined-ring,Crew Fell', 'number'],
    ['a hostile number', '=1+1,2.5,rc-confined-ring,Crew Fell', 'number'],
    ['a station off the line', 'TF-1,101,rc-confined-ring,Crew Fell', 'station'],
    ['what is no station', 'TF-1,there,rc-confined-ring,Crew Fell', 'station'],
    ['an unknown system', 'TF-1,2.5,glue,Crew Fell', 'system'],
    ['an unknown crew', 'TF-1,2.5,rc-confined-ring,Crew Moon', 'crew'],
  ])('%s is told by row and column, and not taken', (_, row, column) => {
    const { joints, faults } = read('TF-0,1,rc-confined-ring,Crew Fell', row)
    expect(joints.map((j) => j.number)).toEqual(['TF-0'])
    expect(faults.map((f) => [f.row, f.column])).toEqual([[3, column]])
  })
  it('a number twice is told at the second row', () => {
    const { faults } = read('TF-1,1,rc-confined-ring,Crew Fell', 'tf-1,2,rc-confined-ring,Crew Fell')
    expect(faults.map((f) => [f.row, f.message])).toEqual([[3, 'tf-1 stands in row 2 too']])
  })
  it('without a column it is refused', () => {
    expect(
      field(() => readSchedule(readCsv(new TextEncoder().encode('number,station\nA,1')), ground, listed)),
    ).toEqual(['bad-file', 'file'])
  })
})

describe('the plan check', () => {
  const whole: Planned = {
    lines: [{ name: 'Fell', points: 12, joints: 40, reaches: 10 }],
    systems: [{ key: 'rc-confined-ring', lines: ['Fell'], issued: true, inHand: true }],
    crews: [{ name: 'Crew Fell', leads: 1, joints: 40 }],
    roles: { inspector: 1, engineer: 2, witness: 1, 'crew-lead': 1 },
    waiting: 0,
    instruments: 3,
    instrumentsOut: 0,
    articles: 4,
    packs: [
      { number: 'TP-1', testPressure: 12e5, gauge: { name: 'Gauge 1', max: 25e5, inCalibration: true } },
    ],
  }
  const codes = (more: Partial<Planned>) => planCheck({ ...whole, ...more }).map((f) => [f.code, f.needed])
  it.each([
    ['no gauge', null, 12e5, 'TP-1 has no gauge.'],
    [
      'one out of calibration',
      { max: 25e5, inCalibration: false },
      12e5,
      'TP-1 has Gauge 1, which is out of calibration.',
    ],
    ['one too large', { max: 60e5, inCalibration: true }, 12e5, /no gauge whose range fits/],
    ['one too small', { max: 14e5, inCalibration: true }, 12e5, /no gauge whose range fits/],
  ])('of a test pack with %s it says so', (_what, gauge, testPressure, says) => {
    const packs = [{ number: 'TP-1', testPressure, gauge: gauge && { name: 'Gauge 1', ...gauge } }]
    const [finding] = planCheck({ ...whole, packs })
    expect(finding).toMatchObject({ code: 'gauge', needed: false, where: 'packs' })
    expect(finding!.sentence).toMatch(says)
  })
  it('says nothing where everything is there', () => {
    expect(codes({})).toEqual([])
  })
  it.each<[string, Partial<Planned>, string, boolean]>([
    ['no line', { lines: [] }, 'no-line', true],
    ['a line without joints', { lines: [{ ...whole.lines[0]!, joints: 0, reaches: 0 }] }, 'no-joint', true],
    ['a line without a profile', { lines: [{ ...whole.lines[0]!, points: 0 }] }, 'no-profile', false],
    ['a line without reaches', { lines: [{ ...whole.lines[0]!, reaches: 0 }] }, 'no-reach', false],
    [
      'a procedure that is not issued',
      { systems: [{ ...whole.systems[0]!, issued: false }] },
      'not-issued',
      true,
    ],
    ['no crew', { crews: [] }, 'no-crew', true],
    ['a crew at work without a lead', { crews: [{ name: 'C', leads: 0, joints: 3 }] }, 'no-lead', true],
    ['no inspector', { roles: { engineer: 2, witness: 1 } }, 'no-inspector', true],
    ['one engineer', { roles: { ...whole.roles, engineer: 1 } }, 'one-engineer', true],
    ['no witness', { roles: { ...whole.roles, witness: 0 } }, 'no-witness', false],
    ['nothing to measure with', { instruments: 0 }, 'no-instrument', true],
    ['an instrument out of date', { instrumentsOut: 1 }, 'out', false],
    ['people with an unused link', { waiting: 2 }, 'waiting', false],
    ['an empty catalogue', { articles: 0 }, 'no-article', false],
  ])('%s', (_, more, code, needed) => {
    expect(codes(more)).toEqual([[code, needed]])
  })
  it('names the line and the procedure that misses, and says when it waits for review', () => {
    const [finding] = planCheck({ ...whole, systems: [{ ...whole.systems[0]!, issued: false }] })
    expect(finding!.sentence).toBe(
      'Fell has no issued procedure for "rc-confined-ring": it waits for review and issue.',
    )
  })
  it('what is needed stands before what only helps', () => {
    const needed = planCheck({ ...whole, articles: 0, lines: [] }).map((f) => f.needed)
    expect(needed).toEqual([true, false])
  })
})

describe('a line without a profile', () => {
  it('has no elevation anywhere', () => {
    expect(field(() => elevationAt([], 5))).toEqual(['no-profile', 'profile'])
  })
})

describe('a line cut into reaches', () => {
  const cut: Cutting = { from: 0, to: 100, every: 30, pattern: 'R {n:2}', start: 1 }
  it('one after the other without a gap, the last one what is left', () => {
    expect(cutReaches(cut, line).map((r) => [r.name, r.from, r.to])).toEqual([
      ['R 01', 0, 30],
      ['R 02', 30, 60],
      ['R 03', 60, 90],
      ['R 04', 90, 100],
    ])
  })
  it('a rest of less than a tenth goes to the reach before it', () => {
    expect(cutReaches({ ...cut, every: 33 }, line).at(-1)).toEqual({ name: 'R 03', from: 66, to: 100 })
  })
  it('covers all of it, once, whatever the lengths', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 9000 }), fc.integer({ min: 10, max: 900 }), (to, every) => {
        const [end, length] = [to / 10, every / 10]
        const reaches = cutReaches({ ...cut, to: end, every: length }, { from: 0, to: end })
        expect([reaches[0]!.from, reaches.at(-1)!.to]).toEqual([0, end])
        for (const [i, r] of reaches.entries()) {
          expect(r.to).toBeGreaterThan(r.from)
          if (i > 0) expect(r.from).toBe(reaches[i - 1]!.to)
          expect(r.to - r.from).toBeLessThan(1.1 * length + 1e-6)
        }
      }),
    )
  })
  it.each<[string, Partial<Cutting>, [string, string]]>([
    ['before the line', { from: -1 }, ['out-of-bounds', 'from']],
    ['beyond the line', { to: 101 }, ['out-of-bounds', 'to']],
    ['backwards', { from: 60, to: 40 }, ['contradiction', 'to']],
    ['shorter than a metre', { every: 0.5 }, ['out-of-bounds', 'every']],
    ['half a number', { start: 0.5 }, ['not-whole', 'start']],
  ])('%s is refused by its field', (_, more, expected) => {
    expect(field(() => cutReaches({ ...cut, ...more }, line))).toEqual(expected)
  })
  it('none is cut over another, and one may begin where another ends', () => {
    const taken = [{ name: 'R old', from: 20, to: 50 }]
    expect(field(() => cutReaches(cut, line, taken))).toEqual(['overlap', 'from'])
    expect(cutReaches({ ...cut, from: 50 }, line, taken)).toHaveLength(2)
    expect(cutReaches({ ...cut, to: 20 }, line, taken)).toHaveLength(1)
  })
})
