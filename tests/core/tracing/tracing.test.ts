import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bundle, layTrace, type TraceEdge, type TraceNode } from '../../../core/tracing/graph'
import { usesOf } from '../../../core/tracing/uses'
import type { Entry } from '../../../core/record/entry'

const entry = (id: string, more: Partial<Entry>): Entry => ({
  id,
  kind: 'reading',
  step: 's',
  payload: {},
  person: 'tam',
  role: 'crew-lead',
  crew: 'c',
  instrument: null,
  recordedAt: Number(id),
  ...more,
})
const makeup = {
  crew: 'north',
  procedure: 'p1',
  items: [
    { id: 'i1', lot: 'L1', delivery: 'd1' },
    { id: 'i2', lot: 'L1', delivery: 'd2' },
  ],
}
const spelled = (entries: Entry[]) => usesOf(makeup, entries).map((u) => `${u.kind} ${u.value}`)

describe('what a joint was made with', () => {
  it('its items with lots and deliveries, crew and revision, each once', () =>
    expect(spelled([])).toEqual([
      'item i1',
      'item i2',
      'lot L1',
      'delivery d1',
      'delivery d2',
      'crew north',
      'procedure p1',
    ]))
  it('lots, instruments and operators of its entries', () =>
    expect(
      spelled([entry('1', { instrument: 'm4' }), entry('2', { kind: 'lot', payload: { lot: 'CE-8' } })]),
    ).toEqual(expect.arrayContaining(['instrument m4', 'lot CE-8', 'person tam'])))
  it('an inspector who looks is no operator', () =>
    expect(spelled([entry('1', { role: 'inspector', person: 'ines' })])).not.toContain('person ines'))
  it('what is struck was not used', () =>
    expect(
      spelled([
        entry('1', { kind: 'lot', payload: { lot: 'CE-3' } }),
        entry('2', { kind: 'correction', payload: { strikes: '1', reason: 'read wrong' } }),
      ]),
    ).not.toContain('lot CE-3'))
  it('a planned joint was made with nothing', () =>
    expect(usesOf({ crew: 'north', procedure: null, items: [] }, [])).toEqual([]))
  it('order of arrival does not matter', () => {
    const all = [
      entry('1', { instrument: 'a' }),
      entry('2', { kind: 'lot', payload: { lot: 'x' } }),
      entry('3', { kind: 'correction', payload: { strikes: '2' } }),
      entry('4', { kind: 'lot', payload: { lot: 'y' } }),
    ]
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: all.length }), (shuffled) => {
        expect(spelled(shuffled)).toEqual(spelled(all))
      }),
    )
  })
})

describe('a trace drawn', () => {
  const node = (id: string, kind: string, column: number): TraceNode => ({
    id,
    kind,
    label: id,
    column,
    count: 1,
    to: null,
    state: null,
  })
  const graphs = fc
    .record({
      lots: fc.integer({ min: 1, max: 5 }),
      joints: fc.integer({ min: 0, max: 60 }),
      links: fc.array(fc.tuple(fc.nat(), fc.nat()), { maxLength: 80 }),
    })
    .map(({ lots, joints, links }) => ({
      nodes: [
        ...Array.from({ length: lots }, (_v, i) => node(`l${i}`, 'lot', 0)),
        ...Array.from({ length: joints }, (_v, i) => node(`j${i}`, 'joint', 1)),
      ],
      edges:
        joints === 0
          ? []
          : links.map(([a, b]): TraceEdge => ({ from: `l${a % lots}`, to: `j${b % joints}` })),
    }))
  it('keeps to its columns, nothing over another, every line between two nodes', () => {
    fc.assert(
      fc.property(graphs, ({ nodes, edges }) => {
        const b = bundle(nodes, edges, () => 14)
        const { nodes: placed, edges: lines, width, height } = layTrace(b.nodes, b.edges, { x: 100, y: 20 })
        expect(new Set(placed.map((n) => `${n.x} ${n.y}`)).size).toBe(placed.length)
        for (const n of placed) expect(n.x > 0 && n.x < width && n.y > 0 && n.y < height).toBe(true)
        expect(lines).toHaveLength(b.edges.length)
      }),
    )
  })
  it('a bundle stands for as many as it hides, and every line still ends somewhere', () => {
    fc.assert(
      fc.property(graphs, ({ nodes, edges }) => {
        const b = bundle(nodes, edges, () => 14)
        expect(b.nodes.reduce((sum, n) => sum + n.count, 0)).toBe(nodes.length)
        for (const kind of ['lot', 'joint'])
          expect(b.nodes.filter((n) => n.kind === kind).length).toBeLessThanOrEqual(14)
        const ids = new Set(b.nodes.map((n) => n.id))
        for (const e of b.edges) expect(ids.has(e.from) && ids.has(e.to)).toBe(true)
      }),
    )
  })
})
