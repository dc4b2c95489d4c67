import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { longSection } from '../../../core/embedment/long-section'
import { trenchOf } from '../../../core/embedment/trench'
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
})
