import { bundle, MOST_IN_A_COLUMN, type TraceEdge, type TraceNode } from '#core/tracing/graph'
import type { trace } from '../../server/services/tracing'

export type Trace = Awaited<ReturnType<typeof trace>>

const packState: Record<string, string> = {
  signed: 'accepted',
  evaluated: 'in-work',
  failed: 'rejected',
  running: 'waiting',
  planned: 'not-started',
}
const back = new Set(['joint', 'reach', 'pack'])
const link = (kind: string, value: string) =>
  `/deliveries/trace?kind=${kind}&value=${encodeURIComponent(value)}`

/** Joints one by one where they are few; else one node a line. */
function jointNodes(t: Trace, column: number): TraceNode[] {
  if (t.total <= MOST_IN_A_COLUMN)
    return t.joints.map((j) => ({
      id: `joint ${j.id}`,
      kind: 'joint',
      label: j.number,
      column,
      count: 1,
      to: `/joints/${j.id}`,
      state: j.ncr ? 'rejected' : j.state,
    }))
  return t.lines.map((l) => ({
    id: `line ${l.id}`,
    kind: 'joint',
    label: `${l.name}: ${l.stations.length} joints`,
    column,
    count: l.stations.length,
    to: null,
    state: null,
  }))
}

/** Where each node of joints lies, so that reaches and packs can be joined to it. */
function liesIn(t: Trace, node: TraceNode, part: { alignment: string; from: number; to: number }): boolean {
  if (node.id.startsWith('line '))
    return (
      node.id === `line ${part.alignment}` &&
      t.lines.find((l) => l.id === part.alignment)!.stations.some((s) => s >= part.from && s <= part.to)
    )
  const joint = t.joints.find((j) => `joint ${j.id}` === node.id)!
  return joint.alignment === part.alignment && joint.station >= part.from && joint.station <= part.to
}

/** A trace as columns: what came in, what it is, the joints made with it, where they lie. */
export function traceGraph(t: Trace): { nodes: TraceNode[]; edges: TraceEdge[] } {
  const nodes: TraceNode[] = []
  const edges: TraceEdge[] = []
  const origin: TraceNode = {
    id: 'origin',
    kind: 'origin',
    label: t.origin.label,
    column: back.has(t.origin.kind) ? 3 : 1,
    count: 1,
    to: null,
    state: null,
  }
  const joints = t.origin.kind === 'joint' ? [] : jointNodes(t, 2)
  const add = (node: TraceNode, from: string | null, to: string | null = null) => {
    nodes.push(node)
    if (from) edges.push({ from, to: node.id })
    if (to) edges.push({ from: node.id, to })
  }
  nodes.push(origin)
  if (back.has(t.origin.kind)) {
    for (const use of t.made.filter((m) => m.kind !== 'item')) {
      const node: TraceNode = {
        id: `${use.kind} ${use.value}`,
        kind: use.kind,
        label: use.label,
        column: 1,
        count: 1,
        to: link(use.kind, use.value),
        state: null,
      }
      add(node, null, joints.length === 0 ? 'origin' : null)
      // The reply names uses for all its joints together: each line of joints stands for them.
      for (const j of joints) edges.push({ from: node.id, to: j.id })
    }
    for (const j of joints) add(j, null, 'origin')
  } else {
    for (const d of t.sources.deliveries)
      if (t.origin.kind !== 'delivery')
        add(
          {
            id: `delivery ${d.id}`,
            kind: 'delivery',
            label: d.number,
            column: 0,
            count: 1,
            to: `/deliveries/${d.id}`,
            state: null,
          },
          null,
          'origin',
        )
    if (t.origin.kind === 'item')
      for (const lot of t.sources.lots)
        add(
          {
            id: `lot ${lot}`,
            kind: 'lot',
            label: lot,
            column: 0,
            count: 1,
            to: link('lot', lot),
            state: null,
          },
          null,
          'origin',
        )
    for (const j of joints) add(j, 'origin')
    if (t.loose.count > 0)
      add(
        {
          id: 'yard',
          kind: 'yard',
          label: `${t.loose.count} not built in`,
          column: 2,
          count: t.loose.count,
          to: null,
          state: t.loose.free > 0 ? null : 'rejected',
        },
        'origin',
      )
  }
  const parts = [
    ...t.packs
      .filter((p) => t.origin.kind !== 'pack' || p.id !== t.origin.value)
      .map((p) => ({
        ...p,
        kind: 'pack',
        label: `Test ${p.number}`,
        state: packState[p.state] ?? null,
        page: `/tests/${p.id}`,
      })),
    ...t.reaches
      .filter((r) => t.origin.kind !== 'reach' || r.id !== t.origin.value)
      .map((r) => ({ ...r, kind: 'reach', label: r.name, page: `/embedment/${r.id}` })),
  ]
  for (const p of parts) {
    nodes.push({
      id: `${p.kind} ${p.id}`,
      kind: p.kind,
      label: p.label,
      column: 4,
      count: 1,
      to: p.page,
      state: p.state,
    })
    if (t.origin.kind === 'joint') edges.push({ from: 'origin', to: `${p.kind} ${p.id}` })
    for (const j of joints) if (liesIn(t, j, p)) edges.push({ from: j.id, to: `${p.kind} ${p.id}` })
  }
  return bundle(nodes, edges, (kind) => (kind === 'joint' ? MOST_IN_A_COLUMN : 5))
}
