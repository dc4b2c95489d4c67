import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judgeAhead, stateAt } from '../../../core/judgement/ahead'
import { judge } from '../../../core/judgement/judge'
import type { Entry } from '../../../core/record/entry'
import { conforming, electrofusion, entry, facts180, read, T0, yes } from '../support'

const MINUTE = 60_000
const at = (minute: number) => T0 + minute * MINUTE
const run = (entries: Entry[], minute = 500, options = {}) =>
  judge(electrofusion, facts180, entries, at(minute), options)
const step = (entries: Entry[], key: string, minute = 500, options = {}) =>
  run(entries, minute, options).steps.find((s) => s.key === key)!
const without = (key: string) => conforming().filter((e) => e.step !== key)
const instead = (key: string, ...entries: Entry[]) => [...without(key), ...entries]

describe('a conforming joint', () => {
  it('is accepted once the earliest-test time has passed, with nothing drafted', () => {
    const result = run(conforming())
    expect(result.state).toBe('accepted')
    expect(result.done).toBe(result.applicable)
    expect(result.drafts).toEqual([])
    expect(result.gates['pressure-test']).toEqual({ open: true, until: at(30) + (210 + 4 * 1200) * 1000 })
  })

  it('waits until then, and its stored state says when it changes', () => {
    const { judgement, changes } = judgeAhead(electrofusion, facts180, conforming(), at(60))
    expect(judgement.state).toBe('waiting')
    expect(changes[0]!.at).toBe(at(30) + (210 + 4 * 1200) * 1000)
    expect(stateAt({ state: judgement.state, changes }, changes[0]!.at)).toBe('accepted')
    expect(stateAt({ state: judgement.state, changes }, changes[0]!.at - 1)).toBe('waiting')
  })

  it('may be tested after the cooling time where that school is chosen', () => {
    expect(run(conforming(), 60, { schools: { test: 'cooling' } }).state).toBe('accepted')
  })
})

describe('marks and limits are worked out for this pipe and fitting', () => {
  it.each([
    ['scrape-mark', {}, 0.115],
    ['scrape-mark', { scrape: 'half' }, 0.095],
    ['stab-mark', {}, 0.094],
    ['stab-mark', { stab: 'half' }, 0.095],
  ])('%s under %j is %d m', (key, schools, value) => {
    expect(step([], key, 0, { schools }).value).toBeCloseTo(value, 9)
  })

  it('stab depth is half the width where the fitting has no stop', () => {
    const { 'fitting.stop': _none, ...facts } = facts180
    expect(judge(electrofusion, facts, [], T0).steps.find((s) => s.key === 'stab-mark')!.value).toBeCloseTo(
      0.095,
      9,
    )
  })

  it('large-diameter steps apply from 400 mm', () => {
    expect(step([], 'feeler').state).toBe('not-applicable')
    expect(
      judge(electrofusion, { ...facts180, 'pipe.od': 0.4 }, [], T0).steps.find((s) => s.key === 'feeler')!
        .state,
    ).not.toBe('not-applicable')
  })
})

describe('each criterion rejects at its own step, with its reason', () => {
  const rejections: [key: string, entry: Entry, reason: RegExp][] = [
    ['right-parts', entry('right-parts', 'confirmation', { answer: 'no' }, 1), /Answered no/],
    ['temperature', read('temperature', [-12], 4), /Air temperature −12 °C is outside/],
    ['square', read('square', [0.001, 0.0045], 6), /4\.5 mm is outside: allowed at most 3\.6 mm/],
    ['gouge', read('gouge', [0.002], 7), /allowed at most 1\.64 mm/],
    ['peel-depth', read('peel-depth', [0.00015, 0.0003], 13), /0\.15 mm is outside/],
    ['peel-depth', read('peel-depth', [0.0003, 0.00045], 13), /0\.45 mm is outside/],
    [
      'ovality',
      read('ovality', [0.184, 0.1803, 0.1799, 0.18], 16),
      /Out of roundness 4\.1 mm is outside: allowed at most 2\.7 mm/,
    ],
    ['wiped', entry('wiped', 'choice', { choice: 'ipa90' }, 18), /Weaker than this procedure asks/],
    ['stab-check', read('stab-check', [0.001, -0.004], 21), /−4 mm is outside/],
    ['controller-time', read('controller-time', [209], 28), /209 s is outside: allowed exactly 210 s/],
    ['fusion-run', entry('fusion-run', 'clock', { answer: 'yes' }, 33), /Done 30 s too early/],
    ['cooling', entry('cooling', 'clock', { answer: 'yes' }, 53), /Done 30 s too early/],
    ['not-moved', entry('not-moved', 'confirmation', { answer: 'no' }, 55), /Answered no/],
  ]
  it.each(rejections)('%s: %#', (key, wrong, reason) => {
    const result = run(instead(key, wrong))
    const judged = result.steps.find((s) => s.key === key)!
    expect(judged.state).toBe('rejected')
    expect(judged.sentence).toMatch(reason)
    expect(result.state).toBe('rejected')
    expect(result.drafts.map((d) => d.step)).toContain(key)
  })

  it('a pipe rated below the line is rejected before anything is measured', () => {
    const result = judge(electrofusion, { ...facts180, 'fitting.rating': 8e5 }, [], T0)
    expect(result.steps.find((s) => s.key === 'rating')!.state).toBe('rejected')
  })
})

describe('uncertainty', () => {
  it('a reading within the instrument’s uncertainty of the limit is too close to call', () => {
    expect(step(instead('gouge', read('gouge', [0.0016], 7)), 'gouge').state).toBe('too-close')
  })
  it('a better instrument settles it', () => {
    const instruments = {
      fine: {
        uncertainty: 0.00001,
        min: 0,
        max: 0.1,
        calibrated: [{ from: 0, until: at(9999) }],
        name: 'Fine gauge',
      },
    }
    expect(
      step(instead('gouge', read('gouge', [0.0016], 7, { instrument: 'fine' })), 'gouge', 500, {
        instruments,
      }).state,
    ).toBe('accepted')
  })
  it.each([
    ['out of calibration', { calibrated: [{ from: 0, until: at(0) }] }, /out of calibration/],
    ['calibrated only afterward', { calibrated: [{ from: at(8), until: at(9999) }] }, /out of calibration/],
    ['outside its range', { max: 0.0001 }, /outside the range/],
  ])('a reading with an instrument %s does not count', (_what, change, reason) => {
    const instruments = {
      tool: {
        uncertainty: 0.00001,
        min: 0,
        max: 0.1,
        calibrated: [{ from: 0, until: at(9999) }],
        name: 'Gauge',
        ...change,
      },
    }
    const judged = step(instead('gouge', read('gouge', [0.0005], 7, { instrument: 'tool' })), 'gouge', 500, {
      instruments,
    })
    expect(judged.state).toBe('not-started')
    expect(judged.sentence).toMatch(reason)
  })
  it('under the simple rule the limit alone decides', () => {
    expect(step(instead('gouge', read('gouge', [0.0016], 7)), 'gouge', 500, { rule: 'simple' }).state).toBe(
      'accepted',
    )
  })
})

describe('hold points', () => {
  const upToHold = () => conforming().filter((e) => e.recordedAt < at(23))
  it('steps behind an unreleased hold are blocked', () => {
    expect(step(upToHold(), 'power', 25).state).toBe('blocked')
  })
  it('requested is held; refused is rejected with its reason; waived passes', () => {
    const request = [yes('before-fusion', 23), entry('before-fusion', 'request', {}, 23.1)]
    expect(step([...upToHold(), ...request], 'before-fusion', 25).state).toBe('held')
    const refused = step(
      [...upToHold(), ...request, entry('before-fusion', 'refusal', { reason: 'marks missing' }, 24)],
      'before-fusion',
      25,
    )
    expect([refused.state, refused.sentence]).toEqual(['rejected', 'Refused: marks missing'])
    expect(
      step(
        [...upToHold(), ...request, entry('before-fusion', 'waiver', { reason: 'witnessed on camera' }, 24)],
        'before-fusion',
        25,
      ).state,
    ).toBe('accepted')
  })
  it('work past an unreleased hold is recorded, and drafts one nonconformance at the hold', () => {
    const result = run(conforming().filter((e) => e.kind !== 'release'))
    expect(result.drafts).toHaveLength(1)
    expect(result.drafts[0]).toMatchObject({ step: 'before-fusion', kind: 'past-hold' })
    expect(result.state).toBe('rejected')
    expect(result.steps.find((s) => s.key === 'fusion-start')!.state).toBe('accepted')
  })
  it('a release after the fact does not cure it', () => {
    const late = [
      ...conforming().filter((e) => e.kind !== 'release'),
      entry('before-fusion', 'release', {}, 100, { person: 'ines', role: 'inspector' }),
    ]
    expect(step(late, 'before-fusion').state).toBe('rejected')
  })
})

describe('nonconformances at a step', () => {
  const wrong = read('controller-time', [180], 28)
  const raised = entry('controller-time', 'ncr', { event: 'raised', number: 'NCR-0001' }, 40)
  const again = read('controller-time', [210], 41)
  const closed = (disposition: string) =>
    entry('controller-time', 'ncr', { event: 'closed', number: 'NCR-0001', disposition }, 45)
  it('stays rejected while open, even when the new reading conforms', () => {
    const judged = step(instead('controller-time', wrong, raised, again), 'controller-time')
    expect(judged.state).toBe('rejected')
    expect(judged.sentence).toMatch(/waits to be verified/)
  })
  it('goes on after verified rework', () => {
    expect(
      step(instead('controller-time', wrong, raised, again, closed('rework')), 'controller-time').state,
    ).toBe('accepted')
  })
  it('closed without a new reading asks for one', () => {
    expect(step(instead('controller-time', wrong, raised, closed('rework')), 'controller-time').state).toBe(
      'not-started',
    )
  })
  it('a concession accepts what was; scrap ends the joint', () => {
    expect(
      step(instead('controller-time', wrong, raised, closed('use-as-is')), 'controller-time').state,
    ).toBe('accepted')
    expect(run(instead('controller-time', wrong, raised, closed('scrap'))).state).toBe('rejected')
  })
})

describe('two people, decisions, corrections', () => {
  it('two people who differ leave it to an inspector', () => {
    const two = instead(
      'square',
      read('square', [0.001, 0.001], 6),
      read('square', [0.005, 0.001], 6.5, { person: 'ines', role: 'inspector' }),
    )
    expect(step(two, 'square').state).toBe('differs')
    const decided = step(
      [
        ...two,
        entry('square', 'decision', { verdict: 'accept', reason: 'measured together' }, 7, {
          person: 'ines',
          role: 'inspector',
        }),
      ],
      'square',
    )
    expect([decided.state, decided.computed]).toEqual(['accepted', 'differs'])
  })
  it('what is accepted by decision drafts nothing; what is rejected by decision drafts its reason', () => {
    const decide = (verdict: string) =>
      entry('square', 'decision', { verdict, reason: 'looked at together' }, 7, {
        person: 'ines',
        role: 'inspector',
      })
    const drafts = (...entries: Entry[]) =>
      run(instead('square', ...entries)).drafts.map((d) => [d.step, d.reading])
    expect(drafts(read('square', [0.009, 0.001], 6))).toEqual([['square', '9 mm']])
    expect(drafts(read('square', [0.009, 0.001], 6), decide('accept'))).toEqual([])
    expect(drafts(read('square', [0.001, 0.001], 6), decide('reject'))).toEqual([
      ['square', 'Rejected by decision: looked at together'],
    ])
  })
  it('a struck correction no longer strikes', () => {
    const first = read('gouge', [0.003], 7)
    const strike = entry('gouge', 'correction', { strikes: first.id, reason: 'wrong pipe' }, 8)
    const unstrike = entry('gouge', 'correction', { strikes: strike.id, reason: 'was right' }, 9)
    expect(step([first, { ...strike, role: 'inspector' }], 'gouge', 10).state).toBe('not-started')
    expect(step([first, strike, unstrike], 'gouge', 10).state).toBe('rejected')
  })
})

describe('properties', () => {
  const kinds = [
    'reading',
    'confirmation',
    'choice',
    'clock',
    'request',
    'release',
    'refusal',
    'waiver',
    'decision',
    'remark',
    'ncr',
  ] as const
  const keys = electrofusion.steps.map((s) => s.step.key)
  const payload = fc.record({
    answer: fc.constantFrom('yes', 'no'),
    values: fc.array(fc.double({ min: -1, max: 300, noNaN: true }), { maxLength: 5 }),
    choice: fc.constantFrom('ipa96', 'other', 'x'),
    verdict: fc.constantFrom('accept', 'reject'),
    reason: fc.string(),
    event: fc.constantFrom('raised', 'closed'),
    number: fc.constant('NCR-1'),
    disposition: fc.constantFrom('rework', 'use-as-is'),
  })
  const anyEntries = fc
    .array(
      fc.record({
        step: fc.constantFrom(...keys),
        kind: fc.constantFrom(...kinds),
        payload,
        minute: fc.integer({ min: 0, max: 90 }),
        person: fc.constantFrom('tam', 'ines'),
      }),
      { maxLength: 40 },
    )
    .map((list) => list.map((e): Entry => entry(e.step, e.kind, e.payload, e.minute, { person: e.person })))

  it('any entries in any order give a result, and the order of arrival does not matter', () => {
    fc.assert(
      fc.property(
        anyEntries,
        fc.integer({ min: 0, max: 200 }),
        fc.infiniteStream(fc.nat()),
        (entries, minute, order) => {
          const shuffled = entries
            .map((e) => [order.next().value, e] as const)
            .sort((a, b) => a[0]! - b[0]!)
            .map(([, e]) => e)
          expect(run(shuffled, minute)).toEqual(run(entries, minute))
        },
      ),
      { numRuns: 150 },
    )
  })
  it('an entry struck by an inspector counts as never written', () => {
    fc.assert(
      fc.property(anyEntries, fc.nat(), (entries, pick) => {
        fc.pre(entries.length > 0)
        const victim = entries[pick % entries.length]!
        const strike = entry(victim.step, 'correction', { strikes: victim.id, reason: 'x' }, 95, {
          role: 'inspector',
        })
        expect(run([...entries, strike])).toEqual(run(entries.filter((e) => e !== victim)))
      }),
      { numRuns: 150 },
    )
  })
  it('an entry at one step changes no step that does not depend on it', () => {
    fc.assert(
      fc.property(anyEntries, (entries) => {
        const before = run(entries)
        const after = run([...entries, read('square', [0.009, 0.001], 96)])
        const unrelated = (r: typeof before) =>
          r.steps.filter((s) => s.key !== 'square' && s.key !== 'before-fusion')
        expect(unrelated(after)).toEqual(unrelated(before))
      }),
      { numRuns: 100 },
    )
  })
})
