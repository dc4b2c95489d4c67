import { describe, expect, it } from 'vitest'
import { bundle, layTrace, type TraceNode } from '../../../core/tracing/graph'

/** A trace as it is drawn: what stands in which column and how high, and which line leads where. */
const node = (id: string, column: number, more: Partial<TraceNode> = {}): TraceNode => ({
  ...{ id, kind: id[0]!, label: id, column, count: 1, to: `/${id}`, state: 'accepted' },
  ...more,
})
const pitch = { x: 100, y: 20 }
const edge = (from: string, to: string) => ({ from, to })
const at = (nodes: TraceNode[], edges: { from: string; to: string }[] = []) =>
  Object.fromEntries(layTrace(nodes, edges, pitch).nodes.map((n) => [n.id, [n.x, n.y]]))

describe('columns', () => {
  it('stand in the order of their numbers, those without a node left out', () =>
    expect(at([node('c', 7), node('a', 0), node('b', 3)])).toEqual({
      a: [50, 10],
      b: [150, 10],
      c: [250, 10],
    }))
  it('are as high as the fullest, the others stand in its middle', () => {
    const { width, height } = layTrace([node('a', 0), node('b', 1), node('c', 1), node('d', 1)], [], pitch)
    expect([width, height]).toEqual([200, 60])
    expect(at([node('a', 0), node('b', 1), node('c', 1), node('d', 1)])).toEqual({
      ...{ a: [50, 30], b: [150, 10], c: [150, 30], d: [150, 50] },
    })
  })
  it('of nothing take no room', () =>
    expect(layTrace([], [], pitch)).toEqual({ nodes: [], edges: [], width: 0, height: 0 }))
})

describe('in a column', () => {
  const lots = [node('l1', 0), node('l2', 0), node('l3', 0)]
  const heights = (nodes: TraceNode[], edges: { from: string; to: string }[]) =>
    nodes
      .filter((n) => n.column === 1)
      .map((n) => [n.id, at(nodes, edges)[n.id]![1]!] as const)
      .sort((a, b) => a[1] - b[1])
      .map(([id]) => id)
  it('nodes stand as high as what leads to them', () =>
    expect(
      heights(
        [...lots, node('j1', 1), node('j2', 1), node('j3', 1)],
        [edge('l3', 'j1'), edge('l2', 'j2'), edge('l1', 'j3')],
      ),
    ).toEqual(['j3', 'j2', 'j1']))
  it('by the middle of several, not by one of them nor by their sum', () =>
    expect(
      heights(
        [...lots, node('j1', 1), node('j2', 1)],
        [edge('l1', 'j1'), edge('l3', 'j1'), edge('l2', 'j1'), edge('l1', 'j2')],
      ),
    ).toEqual(['j2', 'j1']))
  it('what nothing leads to comes last, in its order', () =>
    expect(heights([...lots, node('j1', 1), node('j2', 1), node('j3', 1)], [edge('l3', 'j3')])).toEqual([
      'j3',
      'j1',
      'j2',
    ]))
  it('those of one height keep their order', () =>
    expect(
      heights(
        [...lots, node('j1', 1), node('j2', 1)],
        [edge('l2', 'j1'), edge('l2', 'j2'), edge('gone', 'j1')],
      ),
    ).toEqual(['j1', 'j2']))
})

describe('lines', () => {
  it('join what is drawn, and nothing else', () => {
    const { edges } = layTrace(
      [node('a', 0), node('b', 1)],
      [edge('a', 'b'), edge('a', 'x'), edge('x', 'b')],
      pitch,
    )
    expect(edges.map((e) => [e.from.id, e.to.id, e.count])).toEqual([['a', 'b', 1]])
  })
  it('stand for as many as the bundle that they lead on to, not back from', () => {
    const many = [node('a', 0), node('b', 1, { count: 9 }), node('c', 1, { count: 9 })]
    const { edges } = layTrace(many, [edge('a', 'b'), edge('b', 'a'), edge('b', 'c')], pitch)
    expect(edges.map((e) => e.count)).toEqual([9, 1, 1])
  })
})

describe('a bundle', () => {
  const joints = (n: number) => Array.from({ length: n }, (_v, i) => node(`j${i}`, 1))
  it('is made of more than may stand alone, and of no fewer', () => {
    expect(bundle(joints(4), [], () => 4).nodes.map((n) => n.id)).toEqual(['j0', 'j1', 'j2', 'j3'])
    expect(bundle(joints(5), [], () => 4).nodes).toEqual([
      ...joints(3),
      { id: 'more-j', kind: 'j', label: '2 more', column: 1, count: 2, to: null, state: null },
    ])
  })
  it('counts those in the bundles that it takes in', () => {
    const list = [node('j0', 1), node('j1', 1, { count: 3 }), node('j2', 1, { count: 4 })]
    expect(bundle(list, [], () => 2).nodes.at(-1)).toMatchObject({ label: '7 more', count: 7 })
  })
  it('of one kind leaves the others', () =>
    expect(
      bundle([...joints(5), node('l1', 0), node('l2', 0)], [], (kind) => (kind === 'j' ? 2 : 9)).nodes.map(
        (n) => n.id,
      ),
    ).toEqual(['j0', 'more-j', 'l1', 'l2']))
  it('takes the lines of all that it holds, each once', () =>
    expect(
      bundle(
        joints(5),
        [
          edge('l', 'j0'),
          edge('l', 'j3'),
          edge('l', 'j4'),
          edge('j4', 'm'),
          edge('j3', 'm'),
          edge('l', 'j0'),
        ],
        () => 4,
      ).edges,
    ).toEqual([edge('l', 'j0'), edge('l', 'more-j'), edge('more-j', 'm')]))
})
