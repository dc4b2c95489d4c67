import { describe, expect, it } from 'vitest'
import { editablesOf, setInSource } from '../../../core/procedure/edit'
import { loadProcedure } from '../../../core/procedure/load'
import { procedureSource, systemKeys } from '../../../demo/system-records'
import { electrofusionSource } from '../support'

const editables = (source: string) => editablesOf(loadProcedure(source).procedure)

describe('editing one value of a document', () => {
  it('finds limits, marks, times, schools and table cells, by the words of their step', () => {
    const { limits, schools } = editables(electrofusionSource)
    expect(
      limits.find((e) => e.group === 'Deepest gouge' && e.title === 'Gouge depth, at most'),
    ).toMatchObject({ value: '10 % * pipe.wall' })
    expect(limits.find((e) => e.group === 'Cooling in the clamps')).toMatchObject({
      title: 'not before',
      value: 'fitting.fusionTime + fitting.coolingTime',
    })
    expect(schools.find((e) => e.group === 'Wipe for fusion surfaces')).toMatchObject({
      value: 'ipa96',
      choices: expect.arrayContaining([{ key: 'cleaner', title: expect.any(String) }]),
    })
    expect(
      editables(procedureSource('bolted-coupling')).tables.find(
        (e) => e.group === 'Torque by bolt size' && e.title === '16 mm',
      ),
    ).toMatchObject({ value: '95' })
  })
  it.each(systemKeys)('changes only that value in %s, and leaves the rest as it is written', (key) => {
    const source = procedureSource(key)
    const all = editables(source)
    for (const e of [...all.limits, ...all.tables].slice(0, 4)) {
      const same = setInSource(source, e.path, e.value)
      expect(loadProcedure(same).procedure).toEqual(loadProcedure(source).procedure)
      expect(same.split('\n')[0]).toBe(source.split('\n')[0])
    }
  })
  it('a changed limit is read back, a number stays a number', () => {
    const gouge = editables(electrofusionSource).limits.find((e) => e.group === 'Deepest gouge')!
    const changed = setInSource(electrofusionSource, gouge.path, '5 % * pipe.wall')
    expect(editables(changed).limits.find((e) => e.group === 'Deepest gouge')!.value).toBe('5 % * pipe.wall')
    const torque = procedureSource('bolted-coupling')
    const cell = editables(torque).tables[0]!
    expect(loadProcedure(setInSource(torque, cell.path, '61.5')).procedure.tables[0]!.values[0]).toBe(61.5)
  })
  it('a place that is not there is refused', () => {
    expect(() => setInSource(electrofusionSource, ['stages', 99, 'title'], 'x')).toThrow(
      /cannot be changed there/,
    )
    expect(() => setInSource('a: [', ['a'], 'x')).toThrow(/cannot be changed there/)
  })
})

describe('the values of a document', () => {
  const twice = `
key: t
title: T
revision: A
system: t
material: none
basis: made up for tests
cautions: []
facts:
  - { key: pipe.od, title: Outside diameter, dimension: length, from: pipe }
  - { key: pipe.grade, title: Grade, dimension: word, from: pipe }
options:
  - { key: way, title: Way, default: old, choices: [ { key: old, title: Old, reason: x }, { key: new, title: New, reason: y } ] }
tables:
  - { key: cure, title: Cure, dimension: time, values: [ [1 h, 2 h], [3 h, 4 h] ],
      axes: [ { dimension: length, unit: mm, mode: exact, values: [50, 100] }, { dimension: word, mode: exact, values: [X, Y] } ] }
stages:
  - key: work
    title: Work
    steps:
      - { key: gap, title: Gap, instruction: Measure., onFailure: { action: rework, words: x },
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0.1 mm, readings: 4,
          limits: [ { of: each, min: 1 mm, max: 3 mm }, { of: range, title: Spread, max: 2 mm } ] } }
      - { key: seen, title: Seen, instruction: Look., check: { kind: confirm, question: So? } }
`
  it('are those of each limit, then those of its check; none of a plain question', () =>
    expect(editables(twice).limits).toEqual(
      [
        ['limits.0.min', 'each, at least', '1 mm'],
        ['limits.0.max', 'each, at most', '3 mm'],
        ['limits.1.max', 'Spread, at most', '2 mm'],
        ['uncertainty', 'uncertainty of a reading', '0.1 mm'],
        ['readings', 'readings', '4'],
      ].map(([place, title, value]) => ({
        ...{ group: 'Gap', title, value },
        path: [
          ...['stages', 0, 'steps', 0, 'check'],
          ...place!.split('.').map((p) => (/\d/.test(p) ? Number(p) : p)),
        ],
      })),
    ))
  it('of a table are its cells, by the words of both sides', () =>
    expect(editables(twice).tables.map((e) => [e.title, e.value, e.path.slice(2).join('.')])).toEqual([
      ['50 mm, X', '1 h', 'values.0.0'],
      ['50 mm, Y', '2 h', 'values.0.1'],
      ['100 mm, X', '3 h', 'values.1.0'],
      ['100 mm, Y', '4 h', 'values.1.1'],
    ]))
  it('of a school is its default, among its choices', () =>
    expect(editables(twice).schools).toEqual([
      {
        ...{ path: ['options', 0, 'default'], group: 'Way', title: 'default', value: 'old' },
        choices: [
          { key: 'old', title: 'Old' },
          { key: 'new', title: 'New' },
        ],
      },
    ]))
  it.each<[string, string]>([
    ['12', 'a: 12'],
    [' 12.25 ', 'a: 12.25'],
    ['-3', 'a: -3'],
    ['12 mm', 'a: 12 mm'],
    ['x12', 'a: x12'],
    ['1.', 'a: "1."'],
  ])('a number given as %j is written %s', (typed, text) =>
    expect(setInSource('a: 7 # of the maker\n', ['a'], typed).replace(/ # of the maker\n$/, '')).toBe(text),
  )
  it('a word given a number stays a word', () =>
    expect(setInSource('a: seven\n', ['a'], '7')).toBe('a: "7"\n'))
})
