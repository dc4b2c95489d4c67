import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readDeliveryNote } from '../../core/delivery/note'
import { reconcile, type OrderLine } from '../../core/delivery/reconcile'
import { Problem } from '../../core/problem'

const sample = (name: string) => readFileSync(new URL(`../../samples/${name}`, import.meta.url), 'utf8')
const order = (): OrderLine[] => [
  { id: '1', item: 'PE-63-11', title: 'Pipe', pressureClass: 'SDR 11', quantity: 8, received: 0, lots: [] },
  { id: '2', item: 'EFC-63', title: 'Coupler', pressureClass: 'SDR 11', quantity: 6, received: 0, lots: ['F7781'] },
]

describe('a delivery note', () => {
  it('is read whole from the good sample', () => {
    const note = readDeliveryNote(sample('delivery-good.csv'))
    expect([note.noteNumber, note.rows.length, note.faults]).toEqual(['DN-2207', 14, []])
    expect(note.rows[0]).toMatchObject({ row: 2, serial: 'B001', length: 12 })
  })
  it('names row and column of each fault', () => {
    const { faults } = readDeliveryNote(sample('delivery-bad-rows.csv'))
    expect(faults.map((f) => [f.row, f.column])).toEqual([[5, 'quantity'], [7, 'serial'], [9, 'lot']])
    expect(faults[1]!.message).toContain('row 2 already')
  })
  it.each([['item;class;lot;quantity\nA;SDR 11;L;2', 1], ['\uFEFFitem,class,lot,qty\nA,SDR 11,L,2', 1]])('reads semicolons and byte marks', (text, rows) => expect(readDeliveryNote(text).rows).toHaveLength(rows))
  it.each(['', 'nothing here', 'item,lot\nA,B'])('is refused when it is no note: %j', (text) => expect(() => readDeliveryNote(text)).toThrow(Problem))
  it('broken letters in a code are a fault', () => expect(readDeliveryNote('item,class,lot,quantity\nA\uFFFD,SDR 11,L,1').faults).toHaveLength(1))
})

describe('reconciliation with the order', () => {
  const results = (csv: string, lines = order()) => Object.fromEntries(reconcile(lines, readDeliveryNote(csv).rows).map((l) => [`${l.item} ${l.result}`, l.delivered]))
  it('right, short, wrong class', () => {
    expect(results(sample('delivery-good.csv'))).toEqual({ 'EFC-63 right': 6, 'PE-63-11 right': 8 })
    expect(results(sample('delivery-short.csv'))).toEqual({ 'EFC-63 short': 0, 'PE-63-11 short': 6 })
    expect(results(sample('delivery-wrong-class.csv'))).toEqual({ 'PE-63-11 wrong-class': 1, 'PE-63-11 short': 7, 'EFC-63 right': 6 })
  })
  it('over, wrong lot, not ordered', () => {
    expect(results('item,class,lot,quantity\nPE-63-11,SDR 11,L1,9\nEFC-63,SDR 11,F9,6\nX,SDR 11,L,1')).toEqual({ 'PE-63-11 over': 9, 'EFC-63 wrong-lot': 6, 'EFC-63 short': 0, 'X not-ordered': 1 })
  })
  it('counts what came before', () => {
    const lines = order()
    lines[0]!.received = 6
    expect(results('item,class,lot,quantity\nPE-63-11,SDR 11,L1,2\nEFC-63,SDR 11,F7781,6', lines)).toEqual({ 'PE-63-11 right': 2, 'EFC-63 right': 6 })
  })
})
