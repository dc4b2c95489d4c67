import { describe, expect, it } from 'vitest'
import type { SubjectState } from '../../core/judgement/types'
import { runsOf } from '../../app/drawings/strip-runs'
import { traceGraph, type Trace } from '../../app/drawings/trace-graph'

/** A trace as the server replies, with so many joints on one line. */
function traced(joints: number, more: Partial<Trace> = {}): Trace {
  const list = Array.from({ length: joints }, (_v, i) => ({
    id: `j${i}`,
    number: `RM-${i}`,
    station: i * 12,
    alignment: 'rm',
    crew: 'c',
    system: 's',
    state: 'accepted',
    ncr: i === 1 ? 'NCR-0001' : null,
  }))
  return {
    origin: { kind: 'lot', value: 'L1', since: null, label: 'L1' },
    lot: null,
    sources: { deliveries: [{ id: 'd1', number: 'DN-1' }], lots: ['L1'] },
    total: joints,
    joints: list.slice(0, 200),
    lines:
      joints === 0
        ? []
        : [{ id: 'rm', name: 'Rising main', from: 0, to: 4000, stations: list.map((j) => j.station) }],
    reaches: [],
    packs: [{ id: 'p1', number: 'TP-01', state: 'signed', alignment: 'rm', from: 0, to: 30 }],
    loose: { count: 3, free: 2, first: [] },
    ncrs: [],
    made: [
      { kind: 'lot', value: 'L1', joints, label: 'L1' },
      { kind: 'crew', value: 'c', joints, label: 'Crew North' },
      { kind: 'item', value: 'i', joints: 1, label: 'P1' },
    ],
    crews: { c: 'Crew North' },
    ...more,
  } as Trace
}
const labels = (t: Trace) => traceGraph(t).nodes.map((n) => n.label)
const links = (t: Trace) => {
  const { nodes, edges } = traceGraph(t)
  const name = (id: string) => nodes.find((n) => n.id === id)!.label
  return edges.map((e) => `${name(e.from)} → ${name(e.to)}`)
}

describe('the graph of a trace', () => {
  it('few joints stand one by one, each joined to the pack it lies in', () => {
    expect(links(traced(4))).toEqual([
      'DN-1 → L1',
      'L1 → RM-0',
      'L1 → RM-1',
      'L1 → RM-2',
      'L1 → RM-3',
      'L1 → 3 not built in',
      'RM-0 → Test TP-01',
      'RM-1 → Test TP-01',
      'RM-2 → Test TP-01',
    ])
  })
  it('many joints are one node a line', () =>
    expect(labels(traced(500))).toEqual(expect.arrayContaining(['Rising main: 500 joints', 'Test TP-01'])))
  it('a joint with an open report is seen', () =>
    expect(traceGraph(traced(3)).nodes.find((n) => n.label === 'RM-1')?.state).toBe('rejected'))
  it('back from a joint: what it was made with leads to it, and it to its pack', () => {
    const back = traced(1, { origin: { kind: 'joint', value: 'j0', since: null, label: 'RM-0' } })
    expect(links(back)).toEqual(['L1 → RM-0', 'Crew North → RM-0', 'RM-0 → Test TP-01'])
  })
  it('back from a pack: uses lead to its joints, and those to it', () => {
    const back = traced(2, { origin: { kind: 'pack', value: 'p1', since: null, label: 'TP-01' } })
    expect(links(back)).toEqual([
      'L1 → RM-0',
      'L1 → RM-1',
      'Crew North → RM-0',
      'Crew North → RM-1',
      'RM-0 → TP-01',
      'RM-1 → TP-01',
    ])
  })
  it('what was used nowhere stands alone', () =>
    expect(labels(traced(0, { packs: [], loose: { count: 0, free: 0, first: [] } }))).toEqual(['L1', 'DN-1']))
})

describe('joints as runs of pixels', () => {
  it('a rejected joint shows, however many accepted ones share its pixel', () => {
    const crowd = Array.from({ length: 50 }, (_v, i) => ({
      station: 10 + i / 1000,
      state: 'accepted' as SubjectState,
    }))
    expect(runsOf([...crowd, { station: 10.02, state: 'rejected' }], (s) => s).map((r) => r.state)).toEqual([
      'rejected',
    ])
  })
})
