import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { longSection } from '../../../core/embedment/long-section'
import { boxFootNow, trenchOf } from '../../../core/embedment/trench'
import { slotsOf } from '../../../core/judgement/slots'
import { exampleFacts } from '../../../core/procedure/facts'
import { loadProcedure } from '../../../core/procedure/load'
import type { Entry } from '../../../core/record/entry'
import { entry, read, yes } from '../entries'

const compiled = loadProcedure(
  readFileSync(new URL('../../../procedures/embed-flexible.yaml', import.meta.url), 'utf8'),
)
const facts = exampleFacts(compiled.procedure)
const book = (off: number[], close = 0, minute = 10) =>
  entry(
    'inverts',
    'levels',
    {
      rows: [
        { backsight: 1.2 },
        ...off.map((o, i) => ({
          intermediate: 102.7 - (100 - i * 0.01 + o),
          station: i * 2.5,
          design: 100 - i * 0.01,
        })),
        { foresight: 1.2 + close },
      ],
    },
    minute,
  )
const section = (...entries: Entry[]) => longSection(compiled, slotsOf(compiled, facts, entries), entries)

describe('the reach from the side', () => {
  it('is nothing before anything is booked', () => expect(section()).toBeNull())
  it('has each pipe with its design, and says which is off and which does not fall', () => {
    const { inverts, tolerance, void: none } = section(book([0, 0.012, 0.001]))!
    expect(inverts.map((p) => [p.station, p.off, p.back])).toEqual([
      [0, false, false],
      [2.5, true, true],
      [5, false, false],
    ])
    expect([tolerance, none]).toEqual([0.01, false])
  })
  it('is that of the last booking', () =>
    expect(section(book([0, 0.02, 0]), book([0, 0.001, 0], 0, 20))!.inverts.some((p) => p.off)).toBe(false))
  it('says when the run closes so badly that nothing of it counts', () =>
    expect(section(book([0, 0, 0], 0.009))!.void).toBe(true))
  it('is nothing where the benchmark is not known', () => {
    const { 'site.benchmark': _gone, ...less } = facts
    const entries = [book([0, 0, 0])]
    expect(longSection(compiled, slotsOf(compiled, less, entries), entries)).toBeNull()
  })
})

describe('the trench cut across', () => {
  it('knows what was measured and chosen, and nothing more', () => {
    const bare = trenchOf(compiled, { 'site.depth': 2.4 }, [])
    expect(bare).toEqual({
      ...{ depth: 2.4, width: null, bed: null, support: null, boxFoot: null, struts: null },
      ...{ stones: false, dry: null },
    })
    const entries = [
      read('trench-width', [1.4, 1.32, 1.5], 1),
      entry('support', 'choice', { choice: 'box' }, 2),
      read('box-bottom', [0.4], 3),
      entry('water', 'confirmation', { answer: 'no' }, 4),
      yes('stone-layer', 5),
      read('bed-thickness', [0.16, 0.15], 6),
    ]
    const strutted = { 'site.depth': 2.4, 'pipe.strutted': true }
    expect(trenchOf(compiled, strutted, entries)).toEqual({
      ...{ depth: 2.4, width: 1.32, bed: 0.15, support: 'box', boxFoot: 0.4, struts: 'in' },
      ...{ stones: true, dry: false },
    })
    expect(trenchOf(compiled, strutted, [...entries, yes('struts-out', 30)]).struts).toBe('out')
  })
  it('the bed is as drawn until somebody has measured it', () => {
    const drawn = { 'site.bed': 0.15 }
    expect(trenchOf(compiled, drawn, []).bed).toBe(0.15)
    expect(trenchOf(compiled, drawn, [read('bed-thickness', [0.2], 1)]).bed).toBe(0.2)
  })
  it.each([
    ['a support that nobody knows', [entry('support', 'choice', { choice: 'rope' }, 1)], { support: null }],
    ['readings that are none', [entry('trench-width', 'reading', { values: 'wide' }, 1)], { width: null }],
    [
      'a reading that is no number',
      [entry('trench-width', 'reading', { values: [1.4, null] }, 1)],
      { width: 1.4 },
    ],
    [
      'the last word counts',
      [yes('water', 1), entry('water', 'confirmation', { answer: 'no' }, 2)],
      { dry: false },
    ],
    ['a dry bed', [yes('water', 1)], { dry: true }],
  ])('%s', (_what, entries, known) => expect(trenchOf(compiled, {}, entries)).toMatchObject(known))
  it.each([['2.4'], [NaN], [null]])('a depth of %s is not known', (depth) =>
    expect(trenchOf(compiled, { 'site.depth': depth }, []).depth).toBeNull(),
  )
})

describe('the foot of the box', () => {
  type Lift = Parameters<typeof boxFootNow>[1]['lifts'][number]
  const lift = (raised: boolean, left: number, right?: number) =>
    ({
      payload: { raised },
      left: [0, left],
      right: right === undefined ? null : [0, right],
    }) as unknown as Lift
  it.each<[string, number | null, Lift[], number]>([
    ['hangs as it was set', 0.4, [], 0.4],
    ['stands on the bottom where nobody has said', null, [], 0],
    ['is over the lift before which it was raised', 0.1, [lift(true, 0.3, 0.35)], 0.5],
    ['of one side alone', 0.1, [lift(true, 0.3)], 0.45],
    ['stays where it was not raised', 0.1, [lift(true, 0.3), lift(false, 0.6)], 0.45],
    ['never hangs lower than it was set', 0.9, [lift(true, 0.3)], 0.9],
  ])('%s', (_what, boxFoot, lifts, foot) =>
    expect(boxFootNow({ boxFoot }, { lifts }, 0.15)).toBeCloseTo(foot, 9),
  )
})
