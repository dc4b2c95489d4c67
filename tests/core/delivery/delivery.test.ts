import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noteColumns, orderColumns } from '../../../core/delivery/columns'
import { guessMapping, headingsKey, unmapped } from '../../../core/files/columns'
import { judgeDamage } from '../../../core/delivery/damage'
import { readNote } from '../../../core/delivery/note'
import { isDay } from '../../../core/quantity/day'
import { readOrders } from '../../../core/delivery/order'
import { reconcile, type OrderLine } from '../../../core/delivery/reconcile'
import { readCsv } from '../../../core/files/table'
import { Problem } from '../../../core/problem'
import { writeCsv } from '../../../core/files/safe-csv'

const sample = (name: string) => readCsv(readFileSync(new URL(`../../../samples/${name}`, import.meta.url)))
const csv = (text: string) => readCsv(new TextEncoder().encode(text))
const order = (): OrderLine[] => [
  { id: '1', item: 'PE-63-11', title: 'Pipe', pressureClass: 'SDR 11', quantity: 8, received: 0, lots: [] },
  {
    id: '2',
    item: 'EFC-63',
    title: 'Coupler',
    pressureClass: 'SDR 11',
    quantity: 6,
    received: 0,
    lots: ['F7781'],
  },
]

describe('a delivery note', () => {
  it('is read whole from the good sample', () => {
    const note = readNote(sample('delivery-good.csv'))
    expect([note.noteNumber, note.rows.length, note.faults]).toEqual(['DN-2207', 14, []])
    expect(note.rows[0]).toMatchObject({ row: 2, serial: 'B001', length: 12 })
  })
  it.each([
    [
      'delivery-bad-rows.csv',
      [
        [5, 'quantity'],
        [7, 'serial'],
        [9, 'lot'],
      ],
    ],
    ['delivery-duplicate-serial.csv', [[6, 'serial']]],
    ['delivery-broken-letters.csv', [[5, 'lot']]],
    [
      'delivery-hostile.csv',
      [
        [2, 'lot'],
        [3, 'serial'],
        [4, 'lot'],
        [5, 'serial'],
        [6, 'lot'],
      ],
    ],
  ])('%s: each fault by its row and column', (name, faults) =>
    expect(readNote(sample(name)).faults.map((f) => [f.row, f.column])).toEqual(faults),
  )
  it('says where a serial stands already, and what looks like a formula', () => {
    expect(readNote(sample('delivery-bad-rows.csv')).faults[1]!.message).toContain('row 2 already')
    expect(readNote(sample('delivery-hostile.csv')).faults[0]!.message).toContain('starts like a formula')
  })
  it('20,000 rows are read whole', () => {
    const note = readNote(sample('delivery-large.csv'))
    expect([note.rows.length, note.faults.length, new Set(note.rows.map((r) => r.lot)).size]).toEqual([
      20_000, 0, 200,
    ])
  })
  it.each([
    ['item;class;lot;quantity\nA;SDR 11;L;2', 1],
    ['\uFEFFitem,class,lot,qty\nA,SDR 11,L,2', 1],
    ['item\tclass\tlot\tquantity\nA\tSDR 11\tL\t2\nB\tSDR 11\tL\t2', 2],
  ])('reads semicolons, byte marks and tabs', (text, rows) =>
    expect(readNote(csv(text)).rows).toHaveLength(rows),
  )
  it.each(['', 'nothing here', 'item,item\nA,B', 'item,lot\nA,B'])(
    'is refused when it is no note: %j',
    (text) => expect(() => readNote(csv(text))).toThrow(Problem),
  )
  it.each([
    ['quantity', '0'],
    ['quantity', '1.5'],
    ['quantity', '1e3'],
    ['quantity', ''],
    ['length', '12 kg'],
    ['length', '-1'],
    ['length', '200'],
    ['made', '2026-02-30'],
    ['made', '9.3.2026'],
    ['lot', ''],
    ['lot', '=1'],
    ['serial', '@x'],
    ['item', 'x'.repeat(81)],
  ])('%s %j is a fault of that column', (column, text) => {
    const row: Record<string, string> = {
      item: 'A',
      class: 'SDR 11',
      lot: 'L',
      serial: '',
      quantity: '1',
      length: '',
      made: '',
      [column]: text,
    }
    expect(
      readNote(csv(`${Object.keys(row).join(',')}\n${Object.values(row).join(',')}`)).faults.map(
        (f) => f.column,
      ),
    ).toEqual([column])
  })
  it('expires after it was produced', () =>
    expect(
      readNote(csv('item,class,lot,quantity,made,expires\nA,B,L,1,2026-03-09,2026-03-08')).faults[0]!.column,
    ).toBe('expires'))
})

describe('letters of a file', () => {
  const bytes = (...parts: (string | number)[]) =>
    Uint8Array.from(parts.flatMap((p) => (typeof p === 'number' ? [p] : [...new TextEncoder().encode(p)])))
  it('an older encoding is read and said', () => {
    const table = readCsv(bytes('item,lot\nCaf', 0xe9, ',L'))
    expect([table.rows[0]!.cells[0], table.remark]).toEqual(['Café', expect.stringContaining('Windows-1252')])
  })
  it('two encodings in one file are not guessed at', () =>
    expect(readCsv(bytes('item,lot\nCafé,Caf', 0xe9)).faults).toMatchObject([{ row: 2, column: 'lot' }]))
  it('UTF-16 with its mark is read', () =>
    expect(
      readCsv(Uint8Array.from([0xff, 0xfe, ...[...'a,b\n1,2'].flatMap((c) => [c.charCodeAt(0), 0])])).rows[0]!
        .cells,
    ).toEqual(['1', '2']))
  it('bytes of no text are refused', () =>
    expect(() => readCsv(Uint8Array.from([65, 0, 66]))).toThrow(/not a table/))
  it('a cell past the headings is a fault, not lost', () =>
    expect(csv('a,b\n1,2,3').faults).toMatchObject([{ row: 2, column: '3' }]))
})

describe('columns of a file', () => {
  const table = sample('delivery-other-headings.csv')
  const mapping = {
    note: 'Lieferschein',
    item: 'Artikel',
    class: 'Druckstufe',
    lot: 'Charge',
    serial: 'Nr.',
    quantity: 'Stück',
  }
  it('headings that nobody knows are asked for', () =>
    expect(unmapped(noteColumns, guessMapping(noteColumns, table.header)).map((c) => c.key)).toEqual([
      'item',
      'class',
      'lot',
      'quantity',
    ]))
  it('are read as said', () =>
    expect(readNote(table, mapping)).toMatchObject({
      noteNumber: 'DN-2213',
      faults: [],
      rows: { length: 14 },
    }))
  it('a remembered mapping goes before the usual names', () =>
    expect(guessMapping(noteColumns, ['item', 'code', 'lot'], { item: 'code' })).toEqual({
      item: 'code',
      lot: 'lot',
    }))
  it('what is remembered of a heading that is gone counts for nothing', () =>
    expect(guessMapping(noteColumns, ['item'], { item: 'code' })).toEqual({ item: 'item' }))
  it.each([
    [{ ...mapping, lot: 'Artikel' }, 'mapping.lot'],
    [{ ...mapping, lot: 'gone' }, 'mapping.lot'],
    [{ ...mapping, colour: 'Charge' }, 'mapping.colour'],
  ])('a bad mapping names its column', (bad, field) =>
    expect(() => readNote(table, bad as never)).toThrow(expect.objectContaining({ field })),
  )
  it('the same headings in other cases are the same', () =>
    expect(headingsKey(['Item', ' LOT '])).toBe(headingsKey(['item', 'lot'])))
  it('no heading is taken twice', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom(...noteColumns.flatMap((c) => c.names)), { maxLength: 20 }),
        (header) => {
          const used = Object.values(guessMapping(noteColumns, header))
          expect(new Set(used).size).toBe(used.length)
        },
      ),
    )
  })
})

describe('an order file', () => {
  it('holds several orders, lots with spaces between', () => {
    const { orders, faults } = readOrders(sample('orders.csv'))
    expect(faults).toEqual([])
    expect(orders.map((o) => [o.number, o.rows.length])).toEqual([
      ['PO-140', 2],
      ['PO-141', 1],
    ])
    expect(orders[0]!.rows[1]!.lots).toEqual(['F7781', 'F7790'])
  })
  it.each([
    ['PO-1,A,X,c,5,\nPO-1,B,Y,c,5,', 'supplier'],
    ['PO-1,A,X,c,5,\nPO-1,A,X,c,5,', 'item'],
    ['PO-1,A,X,c,none,', 'quantity'],
    ['PO-1,A,X,c,1,=x', 'lots'],
    [`${'P'.repeat(41)},A,X,c,1,`, 'order'],
  ])('%j is a fault of %s', (rows, column) =>
    expect(
      readOrders(csv(`order,supplier,item,class,quantity,lots\n${rows}`)).faults.map((f) => f.column),
    ).toEqual([column]),
  )
  it('knows its columns by their usual names', () =>
    expect(Object.keys(guessMapping(orderColumns, ['PO', 'Vendor', 'Article', 'SDR', 'Qty']))).toEqual([
      'order',
      'supplier',
      'item',
      'class',
      'quantity',
    ]))
})

describe('reconciliation with the order', () => {
  const results = (table: ReturnType<typeof csv>, lines = order()) =>
    Object.fromEntries(
      reconcile(lines, readNote(table).rows).map((l) => [`${l.item} ${l.result}`, l.delivered]),
    )
  it('right, short, wrong class', () => {
    expect(results(sample('delivery-good.csv'))).toEqual({ 'EFC-63 right': 6, 'PE-63-11 right': 8 })
    expect(results(sample('delivery-short.csv'))).toEqual({ 'EFC-63 short': 0, 'PE-63-11 short': 6 })
    expect(results(sample('delivery-wrong-class.csv'))).toEqual({
      'PE-63-11 wrong-class': 1,
      'PE-63-11 short': 7,
      'EFC-63 right': 6,
    })
  })
  it('over, wrong lot, not ordered', () => {
    expect(
      results(csv('item,class,lot,quantity\nPE-63-11,SDR 11,L1,9\nEFC-63,SDR 11,F9,6\nX,SDR 11,L,1')),
    ).toEqual({ 'PE-63-11 over': 9, 'EFC-63 wrong-lot': 6, 'EFC-63 short': 0, 'X not-ordered': 1 })
  })
  it('counts what came before', () => {
    const lines = order()
    lines[0]!.received = 6
    expect(
      results(csv('item,class,lot,quantity\nPE-63-11,SDR 11,L1,2\nEFC-63,SDR 11,F7781,6'), lines),
    ).toEqual({ 'PE-63-11 right': 2, 'EFC-63 right': 6 })
  })
})

describe('damage', () => {
  const at = (depth: number) => judgeDamage({ clock: 3, fromEnd: 1, length: 0.2, depth }, 0.01)
  it.each([
    [0.0009, true],
    [0.001, true],
    [0.00101, false],
    [0.02, false],
  ])('%f m of a 10 mm wall conforms: %s', (depth, conforms) => expect(at(depth).conforms).toBe(conforms))
  it('through the wall is all of it', () => expect(at(0.02).percent).toBe(100))
})

describe('a table that leaves', () => {
  it.each(['=1+1', '+1', '-1', '@x', '\tx', '\rx'])('text %j is not a formula in a spreadsheet', (text) =>
    expect(
      writeCsv(['a'], [[text]])
        .split('\r\n')[1]!
        .replace(/^"/, '')[0],
    ).toBe("'"),
  )
  it('numbers stay numbers', () => expect(writeCsv(['a', 'b'], [[-1.5, null]])).toBe('a,b\r\n-1.5,\r\n'))
})

describe('a date', () => {
  it('exists, or is none', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2000, max: 2099 }),
        fc.integer({ min: 1, max: 14 }),
        fc.integer({ min: 1, max: 33 }),
        (y, m, d) => {
          const two = (n: number) => String(n).padStart(2, '0')
          const real = m <= 12 && d <= new Date(Date.UTC(y, m, 0)).getUTCDate()
          expect(isDay(`${y}-${two(m)}-${two(d)}`)).toBe(real)
        },
      ),
    )
  })
})
