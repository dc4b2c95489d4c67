import { describe, expect, it } from 'vitest'
import { checkColumns, MAX_COLUMNS, MAX_ROWS, readCsv, tableOfGrid } from '../../../core/files/table'
import { refused } from '../refusal'

/** What a file holds before anybody knows what its columns mean: letters, cells, rows as the file counts them. */
const utf8 = (text: string) => new TextEncoder().encode(text)
const utf16 = (text: string, little: boolean) => {
  const bytes = new Uint8Array(2 * text.length)
  const view = new DataView(bytes.buffer)
  for (const [i, letter] of [...text].entries()) view.setUint16(2 * i, letter.charCodeAt(0), little)
  return bytes
}
const cells = (text: string) => readCsv(utf8(text)).rows.map((r) => r.cells)

describe('the first line of a table', () => {
  it.each([
    ['', 1],
    ['a', 1],
    ['a,b', 2],
    ['a;b', 2],
    ['a\tb', 2],
    ['a,b;c\td', 4],
    ['a,b\nc,d,e,f', 2],
    ['a,b\rc,d,e,f', 2],
    ['\na,b,c,d', 1],
  ])('%j has columns for %i', (text, columns) => {
    expect(() => checkColumns(text, columns)).not.toThrow()
    if (columns > 1) expect(refused(() => checkColumns(text, columns - 1)).code).toBe('bad-file')
  })
  it('of more columns than any list has is refused before the rest is read', () => {
    const line = Array.from({ length: MAX_COLUMNS }, (_v, i) => `c${i}`).join(',')
    expect(readCsv(utf8(`${line}\n1`)).header).toHaveLength(MAX_COLUMNS)
    expect(refused(() => readCsv(utf8(`${line},more\n1`))).message).toMatch(/more than 200 columns/)
  })
})

describe('letters', () => {
  it.each([
    ['UTF-8', utf8('serial\nÄ-1')],
    ['UTF-8 with its mark', utf8('\uFEFFserial\nÄ-1')],
    ['UTF-16, the small byte first', utf16('\uFEFFserial\nÄ-1', true)],
    ['UTF-16, the great byte first', utf16('\uFEFFserial\nÄ-1', false)],
  ])('in %s are read without a word', (_name, bytes) => {
    expect(readCsv(bytes)).toMatchObject({
      ...{ header: ['serial'], rows: [{ row: 2, cells: ['Ä-1'] }], faults: [], remark: null },
    })
  })
  it('in the older encoding are read, and looked at once more', () => {
    const { rows, faults, remark } = readCsv(new Uint8Array([...utf8('serial\n'), 0xc4, ...utf8('-1')]))
    expect([rows[0]!.cells, faults]).toEqual([['Ä-1'], []])
    expect(remark).toMatch(/older encoding/)
  })
  it.each([
    ['two encodings in one file', [...utf8('Ä'), 0xc4, ...utf8('-1')]],
    ['a code that no text holds', [0x81, ...utf8('-1')]],
  ])('of %s are told by row and column', (_name, bytes) => {
    const { faults, remark } = readCsv(new Uint8Array([...utf8('lot,serial\n7,'), ...bytes]))
    expect(faults).toMatchObject([{ row: 2, column: 'serial' }])
    expect(remark).toMatch(/mixes two encodings/)
  })
  it.each([[0xff], [0xfe]])('one byte of a mark (%i) is no mark', (byte) =>
    expect(readCsv(new Uint8Array([byte, ...utf8('serial\n1')])).rows[0]!.cells).toEqual(['1']),
  )
  it('are no table where bytes lie between that no text has', () =>
    expect(refused(() => readCsv(utf8('a\u0000,b\n1,2'))).code).toBe('bad-file'))
})

describe('what sets columns apart', () => {
  it.each([
    ['a,b\n1,2', [['1', '2']]],
    ['a;b\n1,5;2,5', [['1,5', '2,5']]],
    ['a\tb\n1,5\t2;5', [['1,5', '2;5']]],
    ['a;b;c,d\n1;2;3', [['1', '2', '3']]],
    ['"a;x;y",b\n1,2', [['1', '2']]],
    ['a\n1;2', [['1;2']]],
    [
      'a;b\r\n1;2\r\n3;4',
      [
        ['1', '2'],
        ['3', '4'],
      ],
    ],
  ])('is seen from the names: %j', (text, rows) => expect(cells(text)).toEqual(rows))
})

describe('cells', () => {
  it('are text: nothing for nothing, a day for a date, without room about them', () =>
    expect(
      tableOfGrid([
        ['a', 'b', 'c', 'd'],
        [null, undefined, new Date('2026-03-09T05:00:00Z'), '  x '],
      ]).rows,
    ).toEqual([{ row: 2, cells: ['', '', '2026-03-09', 'x'] }]))
  it('keep the row that the file has them in, empty rows passed over', () =>
    expect(tableOfGrid([[''], ['a'], [' '], ['1'], [], ['2']]).rows.map((r) => [r.row, r.cells[0]])).toEqual([
      [4, '1'],
      [6, '2'],
    ]))
  it('beyond the last heading are told, with the number of their column', () =>
    expect(
      tableOfGrid([
        ['a', 'b'],
        ['1', '2', '', 'x'.repeat(50)],
      ]).faults,
    ).toEqual([
      { row: 2, column: '4', message: `has more cells than the header has columns: "${'x'.repeat(40)}"` },
    ]))
  it('that cannot be read are told with their beginning', () =>
    expect(tableOfGrid([['a'], ['\uFFFD'.repeat(50)]]).faults).toEqual([
      { row: 2, column: 'a', message: `holds letters that cannot be read: "${'\uFFFD'.repeat(40)}"` },
    ]))
  it('behind a quotation mark that is not closed are told', () =>
    expect(readCsv(utf8('a,b\n1,2\n"3,4')).faults).toEqual([
      { row: 3, column: 'a', message: 'a quotation mark is not closed' },
    ]))
})

describe('a file is refused', () => {
  const rows = (n: number) => [['a'], ...Array.from({ length: n }, () => ['1'])]
  it.each([
    ['that is empty', [], /is empty/],
    ['that holds only room', [[''], [' ', null]], /is empty/],
    ['with a header and no rows', [['a']], /no rows/],
    ['with two columns of one name', [['a', '', '', 'a'], ['1']], /two columns named "a"/],
    [
      'with too many columns',
      [Array.from({ length: MAX_COLUMNS + 1 }, (_v, i) => `c${i}`), ['1']],
      /more than 200 col/,
    ],
    ['with too many rows', rows(MAX_ROWS + 1), /more than 50000 rows/],
    ['with too many cells', Array.from({ length: 10_001 }, () => new Array(200).fill('')), /more cells/],
  ])('%s', (_name, grid, words) => {
    const problem = refused(() => tableOfGrid(grid))
    expect([problem.code, problem.field]).toEqual(['bad-file', 'file'])
    expect(problem.message).toMatch(words)
  })
  it('not at the last row, column or cell that a file may have', () => {
    expect(tableOfGrid(rows(MAX_ROWS)).rows).toHaveLength(MAX_ROWS)
    const wide = Array.from({ length: MAX_COLUMNS }, (_v, i) => `c${i}`)
    expect(tableOfGrid([wide, ['1']]).header).toHaveLength(MAX_COLUMNS)
    const full = [wide, ...Array.from({ length: 9_999 }, () => ['1', ...new Array(199).fill('')])]
    expect(tableOfGrid(full).rows).toHaveLength(9_999)
    // Columns without a heading have no name that another could have too.
    expect(tableOfGrid([['a', '', ''], ['1']]).header).toEqual(['a', '', ''])
  })
  it('with one row too many of CSV, and no sooner', () => {
    const csv = (n: number) => utf8(`a\n${'1\n'.repeat(n)}`)
    expect(readCsv(csv(MAX_ROWS)).rows).toHaveLength(MAX_ROWS)
    expect(refused(() => readCsv(csv(MAX_ROWS + 1))).message).toMatch(/more than 50000 rows/)
  })
  it('naming no more of a heading than fits', () =>
    expect(refused(() => tableOfGrid([['x'.repeat(90), 'x'.repeat(90)], ['1']])).message).toContain(
      `"${'x'.repeat(60)}"`,
    ))
})
