import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fillMaterials, type Side } from '../../../core/checks/lifts'
import type { Entry } from '../../../core/record/entry'
import { entry } from '../support'
import { lift, reachOf } from './reach'

const OD = 0.4
const plain = reachOf({ lifts: { kind: 'lifts', od: 'pipe.od' } })
const judged = (entries: readonly Entry[]) => plain.judge(entries).steps[0]!
const codes = (entries: readonly Entry[]) => judged(entries).faults.map((f) => f.code)
const levels = (entries: readonly Entry[]) => plain.project(entries).summary.figures
const side = fc.constantFrom<Side>('left', 'right', 'both')
const laid = fc.array(fc.tuple(side, fc.integer({ min: 20, max: 400 })), { maxLength: 10 })

describe('levels', () => {
  it('each side is the sum of its lifts, compacted', () => {
    fc.assert(
      fc.property(laid, fc.constantFrom(0.85, 0.9, 1), (steps, factor) => {
        const { left, right } = levels(steps.map(([s, mm]) => lift(s, mm / 1000, { factor })))
        const sum = (of: Side) =>
          steps.filter(([s]) => s === of || s === 'both').reduce((n, [, mm]) => n + (mm / 1000) * factor, 0)
        expect(left).toBeCloseTo(sum('left'), 9)
        expect(right).toBeCloseTo(sum('right'), 9)
      }),
    )
  })
  it('300 mm laid loose stand 255 mm high', () =>
    expect(levels([lift('both', 0.3, { factor: undefined })]).left).toBeCloseTo(0.255, 9))
  it('left and right are treated alike', () => {
    const mirror = (s: Side): Side => (s === 'left' ? 'right' : s === 'right' ? 'left' : 'both')
    fc.assert(
      fc.property(laid, (steps) => {
        const [a, b] = [(s: Side) => s, mirror].map((turn) =>
          steps.map(([s, mm]) => lift(turn(s), mm / 1000)),
        ) as [Entry[], Entry[]]
        expect([levels(a).left, levels(a).right]).toEqual([levels(b).right, levels(b).left])
        expect([judged(a).state, codes(a)]).toEqual([judged(b).state, codes(b)])
      }),
    )
  })
  it('the order of arrival says nothing', () => {
    fc.assert(
      fc.property(laid, fc.integer({ min: 0, max: 9 }), (steps, turn) => {
        const entries = steps.map(([s, mm], i) => lift(s, mm / 1000, {}, i))
        const turned = [...entries.slice(turn), ...entries.slice(0, turn)]
        expect(plain.judge(turned)).toEqual(plain.judge(entries))
      }),
    )
  })
  it('a struck lift was never laid', () => {
    const wrong = lift('both', 0.2)
    const strike = entry('lifts', 'correction', { strikes: wrong.id, reason: 'another reach' }, 9)
    expect(levels([lift('both', 0.1), wrong, strike, lift('both', 0.1)]).left).toBeCloseTo(0.2, 9)
  })
  it('a stray lift without a thickness counts as nothing', () =>
    expect(judged([entry('lifts', 'lift', { side: 'left' })]).state).toBe('not-started'))
})

describe('a lift of sand beside the pipe', () => {
  it.each<[string, object, string[]]>([
    ['0.3 m loose', { thickness: 0.3 }, []],
    ['0.301 m loose', { thickness: 0.301 }, ['too-thick']],
    ['three passes', { passes: 3 }, []],
    ['two passes', { passes: 2 }, ['few-passes']],
    ['passes of nothing', { passes: 9, plant: 'none' }, ['few-passes']],
    ['wet', { moisture: 'wet' }, ['wet']],
    ['of something else', { material: 'rubble' }, ['material']],
    ['by vehicle', { plant: 'vehicle' }, ['plant']],
    ['by plate', { plant: 'plate' }, []],
    ['not tamped under the haunch', { haunched: false }, ['haunch']],
    [
      'wrong in every way',
      { thickness: 0.5, passes: 1, material: 'frozen', moisture: 'wet', haunched: false },
      ['too-thick', 'few-passes', 'material', 'wet', 'haunch'],
    ],
  ])('%s: %j is %j', (_what, more, want) => {
    const found = judged([lift('both', 0.15, more)])
    expect(found.faults.map((f) => f.code)).toEqual(want)
    expect(found.state).toBe(want.length > 0 ? 'rejected' : 'in-work')
  })
  it.each(fillMaterials.map((m) => [m.key, m.conforms] as const))('%s conforms: %s', (material, conforms) =>
    expect(codes([lift('both', 0.15, { material })])).toEqual(conforms ? [] : ['material']),
  )
  it('the haunch ends at the springline', () => {
    expect(codes([lift('both', 0.19), lift('both', 0.1, { haunched: false })])).toEqual(['haunch'])
    expect(codes([lift('both', 0.2), lift('both', 0.1, { haunched: false })])).toEqual([])
  })
  it('one lift ahead is practice; a second on a side that stands over 150 mm ahead is not', () => {
    expect(codes([lift('left', 0.16)])).toEqual([])
    expect(codes([lift('left', 0.16), lift('left', 0.05)])).toEqual(['sides'])
    expect(codes([lift('left', 0.15), lift('left', 0.05)])).toEqual([])
    expect(codes([lift('left', 0.16), lift('right', 0.16), lift('left', 0.05)])).toEqual([])
  })
})

describe('plant over the crown', () => {
  const up = [lift('both', 0.2), lift('both', 0.2)]
  it.each<[string, number, string[]]>([
    ['plate', 0.29, ['plant']],
    ['plate', 0.3, []],
    ['roller', 0.29, ['plant']],
    ['vehicle', 0.85, ['plant', 'too-thick']],
    ['vehicle', 0.9, ['too-thick']],
    ['hand', 0.05, []],
  ])('%s at %f m of cover', (plant, cover, want) =>
    expect(codes([...up, lift('both', cover, { plant })]).sort()).toEqual(
      want.filter((c) => c !== 'too-thick' || cover > 0.3).sort(),
    ),
  )
  it('the cover is that of the lower side', () =>
    expect(codes([...up, lift('left', 0.1), lift('right', 0.3, { plant: 'plate' })])).toEqual(['plant']))
})

describe('shovel slicing', () => {
  const sliced = reachOf({ lifts: { kind: 'lifts', od: 'pipe.od', slicing: true } })
  const rock = { material: 'crushed-rock', moisture: 'dry', plant: 'none', passes: 0 }
  const of = (more: object, reach = sliced) => reach.judge([lift('both', 0.2, more)]).steps[0]!.faults
  it('takes dry crushed rock without a pass, where the project says so', () => {
    expect(of(rock)).toEqual([])
    expect(of(rock, plain)).not.toEqual([])
  })
  it.each([{ moisture: 'damp' }, { material: 'gravel' }, { plant: 'hand' }])('but not %j', (more) =>
    expect(of({ ...rock, ...more }).map((f) => f.code)).toEqual(['few-passes']),
  )
})

describe('laid again', () => {
  it('the last of a chain stands at the place of the first', () => {
    const first = lift('both', 0.5, {}, 1)
    const second = lift('both', 0.4, { replaces: first.id }, 3)
    const third = lift('both', 0.2, { replaces: second.id }, 4)
    const later = lift('both', 0.1, {}, 2)
    const found = judged([first, later, second, third])
    expect([found.state, found.faults]).toEqual(['in-work', []])
    expect(levels([first, later, second, third]).left).toBeCloseTo(0.3, 9)
  })
  it('of two that take the place of one the later counts', () => {
    const first = lift('both', 0.5, {}, 1)
    const again = [0.1, 0.2].map((t, i) => lift('both', t, { replaces: first.id }, 2 + i))
    expect(levels([first, ...again]).left).toBeCloseTo(0.2, 9)
  })
  it('one that takes the place of a struck lift stands at its own time', () => {
    const first = lift('both', 0.5, {}, 1)
    const strike = entry('lifts', 'correction', { strikes: first.id, reason: 'another reach' }, 2)
    expect(levels([first, strike, lift('both', 0.2, { replaces: first.id }, 3)]).left).toBeCloseTo(0.2, 9)
  })
  it('lifts that name each other lay nothing twice', () => {
    const a = lift('both', 0.1, {}, 1)
    const b = lift('both', 0.1, { replaces: a.id }, 2)
    const loop = { ...a, payload: { ...a.payload, replaces: b.id } }
    expect(levels([loop, b]).left).toBeCloseTo(0.1, 9)
  })
})

describe('the state of the fill', () => {
  it('is accepted exactly when no lift is wrong and both sides reach the level', () => {
    fc.assert(
      fc.property(laid, (steps) => {
        const entries = steps.map(([s, mm]) => lift(s, mm / 1000))
        const { left, right } = levels(entries)
        const { state, faults } = judged(entries)
        expect(state === 'accepted').toBe(
          faults.length === 0 && entries.length > 0 && Math.min(left!, right!) >= OD + 0.3 - 1e-9,
        )
      }),
    )
  })
  it('cannot be told without the diameter', () => {
    const { compiled } = plain
    expect(compiled.procedure.facts.map((f) => f.key)).toContain('pipe.od')
    const unknown = reachOf({ lifts: { kind: 'lifts', od: 'pipe.od / pit', maxLoose: '0.3' } }, { pit: NaN })
    const found = unknown.judge([lift('both', 0.2)]).steps[0]!
    expect([found.state, found.sentence]).toEqual([
      'blocked',
      expect.stringContaining('cannot be worked out'),
    ])
  })
})

describe('formulas read the fill', () => {
  const window = reachOf({
    lifts: { kind: 'lifts', od: 'pipe.od' },
    struts: {
      kind: 'choice',
      question: 'Where are the struts?',
      choices: [
        {
          key: 'out',
          title: 'Out',
          conforms: 'lift("low") >= 0.7 * pipe.od and lift("cover") <= 0 m',
          reason: 'x',
        },
        { key: 'in', title: 'In', conforms: true },
      ],
    },
  })
  const out = (minute: number) => entry('struts', 'choice', { choice: 'out' }, minute)
  const struts = (entries: Entry[]) => window.judge(entries).steps[1]!.state
  const fill = [1, 2, 3].map((minute) => lift('both', 0.15, {}, minute))
  it.each([
    [0, 'rejected'],
    [1.5, 'rejected'],
    [2.5, 'accepted'],
    [3.5, 'rejected'],
  ])('struts taken out at minute %f: %s', (minute, want) => expect(struts([...fill, out(minute)])).toBe(want))
  it('and of two at one moment the ids decide', () => {
    const [at, after] = [out(3), lift('both', 0.15, {}, 3)]
    expect(struts([...fill.slice(0, 2), at, after])).toBe('accepted')
  })
})
