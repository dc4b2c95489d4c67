import { describe, expect, it } from 'vitest'
import { cellReader, column, guessMapping, headingsKey, unmapped } from '../../../core/files/columns'
import { tableOfGrid } from '../../../core/files/table'
import { refused } from '../refusal'

/** Which heading of a file gives which column: guessed, remembered, or said. */
const columns = [
  column('serial', 'Serial number', true, 'each its own', 'no', 'nr'),
  column('lot', 'Lot', false, 'of the maker', 'batch'),
  column('length', 'Length', true, 'with its unit'),
]

describe('a column is found', () => {
  it.each([
    ['by its key', 'serial'],
    ['by its title', 'Serial number'],
    ['by another name', 'NR'],
    ['with room about it', '  No '],
  ])('%s', (_name, heading) => expect(guessMapping(columns, [heading])).toEqual({ serial: heading }))
  it('once: the first heading that fits, and no heading for two', () => {
    expect(guessMapping(columns, ['nr', 'no'])).toEqual({ serial: 'nr' })
    const both = [column('a', 'A', true, '', 'x'), column('b', 'B', true, '', 'x')]
    expect(guessMapping(both, ['x'])).toEqual({ a: 'x' })
    expect(guessMapping(both, ['x'], { b: 'x' })).toEqual({ b: 'x' })
    expect(guessMapping(both, ['x'], { a: 'x', b: 'x' })).toEqual({ a: 'x' })
  })
  it('as it was remembered, where the file still has that heading', () => {
    expect(guessMapping(columns, ['serial', 'Rohr'], { serial: 'Rohr' })).toEqual({ serial: 'Rohr' })
    expect(guessMapping(columns, ['serial', 'Rohr'], { serial: 'Tube' })).toEqual({ serial: 'serial' })
  })
})

describe('headings', () => {
  it('are the same whatever their case and the room about them', () => {
    expect(headingsKey([' Serial ', 'LOT'])).toBe(headingsKey(['serial', 'lot']))
  })
  it('are others in another order, or joined', () => {
    expect(headingsKey(['lot', 'serial'])).not.toBe(headingsKey(['serial', 'lot']))
    expect(headingsKey(['serial lot'])).not.toBe(headingsKey(['serial', 'lot']))
    expect(headingsKey(['serial', 'lot'])).not.toBe(headingsKey(['seriallot']))
  })
})

describe('cells by column', () => {
  const table = tableOfGrid([['Nr', 'Len', 'Batch'], ['P-1', '6 m', ''], ['P-2']])
  const mapping = { serial: 'Nr', length: 'Len' }
  it('are read where they stand; nothing where the row or the mapping has none', () => {
    const { cell, heading } = cellReader(columns, table, mapping)
    expect(table.rows.map((r) => ['serial', 'length', 'lot'].map((key) => cell(r.cells, key)))).toEqual([
      ['P-1', '6 m', ''],
      ['P-2', '', ''],
    ])
    expect(['serial', 'lot'].map(heading)).toEqual(['Nr', 'lot'])
  })
  it('need every column that must be there', () => {
    expect(unmapped(columns, { lot: 'Batch' }).map((c) => c.key)).toEqual(['serial', 'length'])
    expect(unmapped(columns, mapping)).toEqual([])
    const { code, field, message } = refused(() => cellReader(columns, table, {}))
    expect([code, field]).toEqual(['unmapped', 'mapping'])
    expect(message).toBe(
      'Say which column of the file is "Serial number", "Length". Columns found: Nr, Len, Batch.',
    )
  })
  it('name no more of what was found than fits', () => {
    const wide = tableOfGrid([Array.from({ length: 90 }, (_v, i) => `c${i}`), ['1']])
    expect(refused(() => cellReader(columns, wide, {})).message.length).toBeLessThan(300)
  })
  it.each([
    [{ ...mapping, colour: 'Nr' }, 'mapping.colour', /no column "colour"/],
    [{ ...mapping, lot: 'Charge' }, 'mapping.lot', /has no column "Charge"/],
    [{ ...mapping, lot: 'Nr' }, 'mapping.lot', /used twice/],
  ])('by %j are refused', (given, at, words) => {
    const { code, field, message } = refused(() => cellReader(columns, table, given))
    expect([code, field]).toEqual(['bad-mapping', at])
    expect(message).toMatch(words)
  })
})
