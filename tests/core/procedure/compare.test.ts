import { describe, expect, it } from 'vitest'
import { compareSchools } from '../../../core/judgement/compare-schools'
import { compareProcedures } from '../../../core/procedure/compare'
import { exampleFacts } from '../../../core/procedure/facts'
import type { Procedure } from '../../../core/procedure/types'
import { loadSystem, systemKeys } from '../../../demo/system-records'
import { electrofusion } from '../support'

const changed = (change: (p: Procedure) => void) => {
  const copy = structuredClone(electrofusion.procedure)
  change(copy)
  return compareProcedures(electrofusion.procedure, copy)
}
const step = (p: Procedure, key: string) => p.stages.flatMap((s) => s.steps).find((s) => s.key === key)!

describe('two revisions side by side', () => {
  it('the same document differs in nothing', () => expect(changed(() => {})).toEqual([]))
  it('a limit that was changed stands beside the one before', () => {
    expect(
      changed(
        (p) => ((step(p, 'gouge').check as { limits: { max: string }[] }).limits[0]!.max = '5 % * pipe.wall'),
      ),
    ).toEqual([
      {
        part: 'step',
        key: 'gouge',
        title: 'Deepest gouge',
        field: 'check.limits.0.max',
        before: '10 % * pipe.wall',
        after: '5 % * pipe.wall',
      },
    ])
  })
  it('steps added, removed and moved are named', () => {
    const differences = changed((p) => {
      const ends = p.stages.find((s) => s.key === 'ends')!
      ends.steps = ends.steps.filter((s) => s.key !== 'sound')
      p.stages[0]!.steps.push({
        key: 'briefed',
        title: 'Crew briefed',
        instruction: 'Tell the crew.',
        check: { kind: 'confirm', question: 'Told?' },
      })
    })
    expect(differences).toContainEqual({
      part: 'step',
      key: 'briefed',
      title: 'Crew briefed',
      field: null,
      before: null,
      after: 'Tell the crew.',
    })
    expect(differences).toContainEqual(expect.objectContaining({ key: 'sound', field: null, after: null }))
    expect(differences.find((d) => d.key === 'square')).toMatchObject({
      field: 'place',
      before: '3',
      after: '2',
    })
  })
  it('a revision letter and a default are differences of their own', () => {
    const differences = changed((p) => {
      p.revision = 'B'
      p.options[0]!.default = 'cleaner'
    })
    expect(differences.map((d) => [d.part, d.field])).toEqual([
      ['document', 'revision'],
      ['option', 'default'],
    ])
  })
})

describe('two schools side by side', () => {
  it('shows the steps that ask otherwise, worked out for the joint', () => {
    const differences = compareSchools(
      electrofusion,
      exampleFacts(electrofusion.procedure),
      {},
      { scrape: 'half', test: 'cooling', wipe: 'cleaner', freshWipe: 'none' },
    )
    expect(differences).toEqual([
      { step: 'scrape-mark', title: 'Scrape mark', a: '115 mm', b: '95 mm' },
      { step: 'wiped', title: 'Wiped', a: 'Isopropyl 96 % or more, Welding cleaner', b: 'Welding cleaner' },
      { step: 'fresh-wipe', title: 'Coupler wiped', a: 'applies', b: 'does not apply' },
      {
        step: 'earliest-test',
        title: 'Earliest pressure test',
        a: 'not before 83.5 min',
        b: 'not before 23.5 min',
      },
    ])
  })
  it.each(systemKeys)('%s has an example for every fact, and every school decides something', (key) => {
    const { compiled, facts } = loadSystem(key)
    const example = exampleFacts(compiled.procedure)
    expect(example).toMatchObject(facts)
    expect(Object.keys(example).sort()).toEqual(compiled.procedure.facts.map((f) => f.key).sort())
    const used = compiled.steps.flatMap((s) =>
      [
        s.when,
        s.value,
        s.earliest,
        s.latest,
        s.readings,
        ...s.limits.flatMap((l) => [l.min, l.max]),
        ...s.conforms,
      ].flatMap((f) => (typeof f === 'object' && f ? f.uses : [])),
    )
    expect(compiled.procedure.options.map((o) => o.key).filter((k) => !used.includes(`option.${k}`))).toEqual(
      [],
    )
  })
})
