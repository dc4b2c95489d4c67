import { describe, expect, it } from 'vitest'
import { indicesOf } from '../../../core/procedure/compile'
import { endOf, ofOtherEnd, plainKey } from '../../../core/procedure/ends'
import { loadProcedure } from '../../../core/procedure/load'
import type { Problem } from '../../../core/problem'

/** What the steps of a document may ask, read and wait for; what is wrong is told with its place. */
const confirm = '{ kind: confirm, question: So? }'
const step = (key: string, more = '') =>
  `{ key: ${key}, title: ${key}, instruction: Do., ${more} check: ${confirm} }`
const document = (stages: string, more = '') => `
key: made-up
title: Made up
revision: A
system: made-up
material: none
basis: made up for tests
cautions: []
facts:
  - { key: pipe.od, title: Outside diameter, dimension: length, from: pipe }
  - { key: site.wet, title: Wet, dimension: flag, from: site }
tables: []
${more}
stages:
${stages}
`
const stage = (steps: string[], more = '', key = 'work') =>
  `  - { key: ${key}, title: Work, ${more} steps: [ ${steps.join(',\n      ')} ] }`
const load = (steps: string[], more = '', of = '') => loadProcedure(document(stage(steps, more), of))
const refusal = (run: () => unknown): [place: string | null, sentence: string] | null => {
  try {
    run()
    return null
  } catch (error) {
    const { field, message } = error as Problem
    return [field, message.replace(/^Line \d+, column \d+: /, '')]
  }
}
const PATH = 'stages[0].steps'

describe('a window', () => {
  const window = (text: string) => refusal(() => load([step('a', `window: { ${text} },`)]))
  it('opens, closes or both, each with what it means', () => {
    for (const text of ['opens: site.wet, early: Too early.', 'closes: site.wet, late: Too late.'])
      expect(window(text)).toBeNull()
    const { opens, closes } = load([step('a', 'window: { opens: site.wet, early: Too early. },')]).steps[0]!
      .window!
    expect([opens === null, closes]).toEqual([false, null])
  })
  it.each([
    ['opens: site.wet', `${PATH}[0].window.early`, 'Give "opens" and "early" together.'],
    [
      'early: Too early., closes: site.wet, late: x',
      `${PATH}[0].window.early`,
      'Give "opens" and "early" together.',
    ],
    ['closes: site.wet', `${PATH}[0].window.late`, 'Give "closes" and "late" together.'],
    ['opens: site.wet, early: x, late: y', `${PATH}[0].window.late`, 'Give "closes" and "late" together.'],
    ['', `${PATH}[0].window`, 'A window opens or closes.'],
  ])('with %s is refused', (text, place, sentence) => expect(window(text)).toEqual([place, sentence]))
  it('is none where nobody gave one', () => expect(load([step('a')]).steps[0]!.window).toBeNull())
})

describe('what is asked once', () => {
  const lot = (key: string) =>
    `{ key: ${key}, title: Lot, instruction: Look., check: { kind: lot, question: Lot? } }`
  it('a shift rests on nothing, of a lot on the last one asked before it, or on the one that is named', () => {
    const { steps } = load([
      lot('glue'),
      lot('primer'),
      step('shift', 'once: shift,'),
      step('any', 'once: lot,'),
      step('named', 'once: glue,'),
      step('never'),
    ])
    expect(steps.map((s) => s.once)).toEqual([null, null, { lot: null }, { lot: 1 }, { lot: 0 }, null])
  })
  it('of the very first lot is asked too', () =>
    expect(load([lot('glue'), step('any', 'once: lot,')]).steps[1]!.once).toEqual({ lot: 0 }))
  const where = (steps: string[], more = '') => refusal(() => load(steps, more))
  it.each<[string, string[], string, number, RegExp]>([
    [
      'of a lot that comes later',
      [step('a', 'once: lot,'), lot('glue')],
      '',
      0,
      /^No lot is asked before this step, as "lot" says\.$/,
    ],
    ['of a step that is no lot', [step('b'), step('a', 'once: b,')], '', 1, /^No lot is asked before/],
    ['of each end', [step('a', 'once: shift,')], 'each: end,', 0, /made at each end is asked at each/],
    ['where a witness comes', [step('a', 'once: shift, point: W,')], '', 0, /comes to look at/],
    ['at a hold point', [step('a', 'once: shift, point: H,')], '', 0, /comes to look at/],
    [
      'after a hold point',
      [step('h', 'point: H,'), step('a', 'once: shift,')],
      '',
      1,
      /follows a hold point/,
    ],
    [
      'of what is measured',
      [
        '{ key: a, title: A, instruction: Count., once: shift, check: { kind: count, question: How many?, min: 1 } }',
      ],
      '',
      0,
      /^What a check of kind count asks is asked at every joint\.$/,
    ],
  ])('%s is refused', (_what, steps, more, at, sentence) => {
    const found = where(steps, more)!
    expect(found[0]).toBe(`${PATH}[${at}].once`)
    expect(found[1]).toMatch(sentence)
  })
  it('before a hold point it may be', () =>
    expect(where([step('a', 'once: shift,'), step('h', 'point: H,')])).toBeNull())
})

describe('a step that waits for others', () => {
  it('finds them by their keys, those of its own end and, from outside, both', () => {
    const two = [
      stage([step('a'), step('b', 'after: [a],')], 'each: end,', 'ends'),
      stage([step('c', 'after: [b],')]),
    ]
    const compiled = loadProcedure(document(two.join('\n')))
    expect(compiled.steps.map((s) => [s.key, s.after])).toEqual([
      ['a@upstream', []],
      ['b@upstream', [0]],
      ['a@downstream', []],
      ['b@downstream', [2]],
      ['c', [1, 3]],
    ])
    expect(compiled.steps.map((s) => s.plainTitle)).toEqual(['a', 'b', 'a', 'b', 'c'])
    expect(compiled.steps.map((s) => s.end)).toEqual([
      'upstream',
      'upstream',
      'downstream',
      'downstream',
      null,
    ])
    expect([indicesOf(compiled, 'c'), indicesOf(compiled, 'a'), indicesOf(compiled, 'a@downstream')]).toEqual(
      [[4], [0, 2], [2]],
    )
    expect(indicesOf(compiled, 'castle')).toEqual([])
  })
  it('must not wait for one that there is not, nor for itself through others', () => {
    expect(refusal(() => load([step('a', 'after: [castle],')]))).toEqual([
      `${PATH}[0].after[0]`,
      'There is no step "castle".',
    ])
    expect(refusal(() => load([step('a', 'after: [b],'), step('b', 'after: [a],')]))).toEqual([
      `${PATH}[0]`,
      'These steps wait for each other: a → b → a.',
    ])
    const clock = `{ key: t, title: T, instruction: Wait., after: [a], check: { kind: clock, from: joined, earliest: 5 min, action: On } }`
    expect(
      refusal(() => load([step('joined', 'after: [t],'), step('a'), clock.replace('after: [a], ', '')]))![1],
    ).toBe('These steps wait for each other: joined → t → joined.')
  })
  it('a clock from a step of both ends asks which', () => {
    const clock = (from: string) =>
      `{ key: t, title: T, instruction: Wait., check: { kind: clock, from: ${from}, earliest: 5 min, action: On } }`
    const both = (from: string) =>
      document([stage([step('a')], 'each: end,', 'ends'), stage([clock(from)])].join('\n'))
    expect(refusal(() => loadProcedure(both('a')))).toEqual([
      'stages[1].steps[0].check.from',
      '"a" is made at each end: say which, as a@upstream.',
    ])
    expect(loadProcedure(both('a@downstream')).steps[2]!.from).toBe(1)
  })
  it('what it reads of itself it does not wait for', () => {
    const measure = (key: string, max: string) =>
      `{ key: ${key}, title: T, instruction: Measure., onFailure: { action: rework, words: x },
        check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm, limits: [ { of: each, title: G, max: '${max}' } ] } }`
    const { steps } = load([measure('a', '3 mm'), measure('b', 'reading("a")')])
    expect(steps.map((s) => s.reads)).toEqual([[], [0]])
  })
})

describe('what a step stands in', () => {
  it('a stage that comes after the test, with its own condition', () => {
    const compiled = load([step('a', 'point: R,')], 'after: pressure-test, when: site.wet,')
    expect(compiled.steps[0]).toMatchObject({ afterTest: true, stage: 'work', point: 'R', index: 0 })
    expect(compiled.steps[0]!.stageWhen).not.toBeNull()
    expect(load([step('a')]).steps[0]).toMatchObject({ afterTest: false, stageWhen: null, point: null })
  })
  it('a check of a reach is asked of no joint', () => {
    const lifts =
      '{ key: l, title: L, instruction: Fill., onFailure: { action: rework, words: x }, check: { kind: lifts, od: pipe.od } }'
    expect(refusal(() => load([lifts]))).toEqual([
      `${PATH}[0].check.kind`,
      'A check of kind lifts is asked of a reach: say so by "subject".',
    ])
  })
  it('a unit must be one of what is measured', () => {
    const measure = (unit: string) =>
      `{ key: m, title: M, instruction: Measure., onFailure: { action: rework, words: x },
        check: { kind: measure, quantity: length, unit: ${unit}, uncertainty: 0 mm, limits: [ { of: each, title: G, max: 3 mm } ] } }`
    for (const unit of ['bar', 'ell'])
      expect(refusal(() => load([measure(unit)]))).toEqual([
        `${PATH}[0].check.unit`,
        `"${unit}" is not a unit of a length.`,
      ])
  })
  it('keys are given once, and fit where they are kept', () => {
    expect(refusal(() => load([step('a'), step('a')]))![0]).toBe(`${PATH}[1].key`)
    const long = 'k'.repeat(49)
    expect(refusal(() => load([step(long)], 'each: end,'))).toEqual([
      `${PATH}[0].key`,
      'The key of a step that is made at each end may have at most 48 letters.',
    ])
    expect(load([step(long)]).steps).toHaveLength(1)
    expect(load([step('k'.repeat(48))], 'each: end,').steps).toHaveLength(2)
    const twice = [stage([step('a')]), stage([step('b')])].join('\n')
    expect(refusal(() => loadProcedure(document(twice)))![0]).toBe('stages[1].key')
  })
})

describe('a calculator at a step', () => {
  const aid = (args: string, calculator = 'coating-time') =>
    `aids: [ { calculator: ${calculator}, arguments: { ${args} } } ],`
  it('is given formulas of the joint, words and numbers as they stand', () => {
    const [found] = load([step('a', aid('diameter: pipe.od, people: 2'))]).steps[0]!.aids
    expect(found!.calculator).toBe('coating-time')
    expect(Object.entries(found!.arguments).map(([k, v]) => [k, Object.keys(v!)])).toEqual([
      ['diameter', ['formula']],
      ['people', ['value']],
    ])
    expect(load([step('a')]).steps[0]!.aids).toEqual([])
  })
  it('that there is not, or one of its inputs that there is not, is refused', () => {
    expect(refusal(() => load([step('a', aid('', 'castle'))]))![0]).toBe(`${PATH}[0].aids[0].calculator`)
    expect(refusal(() => load([step('a', aid('colour: 3'))]))).toEqual([
      `${PATH}[0].aids[0].arguments.colour`,
      'Calculator "coating-time" has no input "colour".',
    ])
  })
})

describe('ends', () => {
  it('are told by the key', () => {
    expect(['a@upstream', 'a@downstream', 'a', 'upstream', '@upstreams'].map(endOf)).toEqual([
      ...['upstream', 'downstream', null, null, null],
    ])
    expect(['a@upstream', 'a'].map(plainKey)).toEqual(['a', 'a'])
  })
  it.each([
    ['upstream', 'downstream', true],
    ['upstream', 'upstream', false],
    [null, 'upstream', false],
    ['downstream', null, false],
    [null, null, false],
  ] as const)('%s and %s are different ends: %s', (a, b, other) =>
    expect(ofOtherEnd({ end: a }, { end: b })).toBe(other),
  )
})

describe('the place of a fault', () => {
  const place = (source: string) => {
    try {
      loadProcedure(source)
    } catch (error) {
      const { details } = error as Problem
      return details
    }
    return null
  }
  it('is the line and column where it stands', () => {
    const text = document(stage([step('a', 'after: [castle],')]))
    const lines = text.split('\n')
    const line = lines.findIndex((l) => l.includes('castle'))
    expect(place(text)).toEqual({ line: line + 1, column: lines[line]!.indexOf('castle') + 1 })
  })
  it('within a formula is where the formula goes wrong, quotes counted', () => {
    for (const formula of ['pipe.od + castle', "'pipe.od + castle'", '"pipe.od + castle"']) {
      const text = document(
        stage([
          `{ key: m, title: M, instruction: Mark., check: { kind: mark, unit: mm, from: end, question: So?, formula: ${formula} } }`,
        ]),
      )
      const lines = text.split('\n')
      const line = lines.findIndex((l) => l.includes('castle'))
      expect(place(text)).toEqual({ line: line + 1, column: lines[line]!.indexOf('castle') + 1 })
    }
  })
  it('of what is missing is where it should stand', () => {
    const text = document(stage([`{ key: a, title: A, check: ${confirm} }`]))
    const line = text.split('\n').findIndex((l) => l.includes('{ key: a,'))
    expect(place(text)).toMatchObject({ line: line + 1 })
  })
  it('of a key that stands twice is the second', () => {
    const text = document(stage([step('a')]), 'cautions: []')
    const lines = text.split('\n')
    expect(place(text)).toEqual({ line: lines.lastIndexOf('cautions: []') + 1, column: 1 })
  })
  it('of a document that is too large is its beginning', () =>
    expect(place('#'.repeat(400_001))).toEqual({ line: 1, column: 1 }))
})
