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
