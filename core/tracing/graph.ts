/** One thing in a trace. `column` orders what came before what: goods, what they became, where that lies. */
export interface TraceNode {
  id: string
  kind: string
  label: string
  column: number
  /** how many things it stands for; more than one for a bundle */
  count: number
  /** where it leads to */
  to: string | null
  state: string | null
}

export interface TraceEdge {
  from: string
  to: string
}

export interface PlacedNode extends TraceNode {
  x: number
  y: number
}

export interface TraceLayout {
  nodes: PlacedNode[]
  edges: { from: PlacedNode; to: PlacedNode; count: number }[]
  width: number
  height: number
}

/** Joints up to this many stand one by one. */
export const MOST_IN_A_COLUMN = 12

/**
 * Makes one node of many of a kind, so that a lot in 4,000 joints is still a picture.
 *
 * @param mostOf how many of a kind may stand by themselves, the bundle counted
 */
export function bundle(
  nodes: readonly TraceNode[],
  edges: readonly TraceEdge[],
  mostOf: (kind: string) => number,
): { nodes: TraceNode[]; edges: TraceEdge[] } {
  const byKind = new Map<string, TraceNode[]>()
  for (const n of nodes) byKind.set(n.kind, [...(byKind.get(n.kind) ?? []), n])
  const into = new Map<string, string>()
  const out: TraceNode[] = []
  for (const [kind, list] of byKind) {
    const most = mostOf(kind)
    if (list.length <= most) {
      out.push(...list)
      continue
    }
    out.push(...list.slice(0, most - 1))
    const rest = list.slice(most - 1)
    const id = `more-${kind}`
    for (const n of rest) into.set(n.id, id)
    const count = rest.reduce((sum, n) => sum + n.count, 0)
    out.push({ id, kind, label: `${count} more`, column: rest[0]!.column, count, to: null, state: null })
  }
  const seen = new Set<string>()
  const kept = edges
    .map((e) => ({ from: into.get(e.from) ?? e.from, to: into.get(e.to) ?? e.to }))
    .filter((e) => {
      const key = `${e.from} ${e.to}`
      return seen.has(key) ? false : Boolean(seen.add(key))
    })
  return { nodes: out, edges: kept }
}

/**
 * Places a trace in columns; in each, nodes stand near the middle of what leads
 * to them, so that lines cross little.
 *
 * @returns positions of node centres, and the size of the whole, in the unit of `pitch`
 */
export function layTrace(
  nodes: readonly TraceNode[],
  edges: readonly TraceEdge[],
  pitch: { x: number; y: number },
): TraceLayout {
  const used = [...new Set(nodes.map((n) => n.column))].sort((a, b) => a - b)
  const placed = new Map<string, PlacedNode>()
  const incoming = new Map<string, string[]>()
  for (const e of edges) incoming.set(e.to, [...(incoming.get(e.to) ?? []), e.from])
  const most = Math.max(0, ...used.map((c) => nodes.filter((n) => n.column === c).length))
  used.forEach((column, i) => {
    const here = nodes.filter((n) => n.column === column)
    const wanted = (n: TraceNode) => {
      const ys = (incoming.get(n.id) ?? []).map((id) => placed.get(id)?.y).filter((y) => y !== undefined)
      return ys.length > 0 ? ys.reduce((a, b) => a + b, 0) / ys.length : Infinity
    }
    const order = here
      .map((n, k) => ({ n, k, at: wanted(n) }))
      .sort((a, b) => (a.at === b.at ? a.k - b.k : a.at - b.at))
    order.forEach(({ n }, k) =>
      placed.set(n.id, { ...n, x: (i + 0.5) * pitch.x, y: (k + 0.5 + (most - here.length) / 2) * pitch.y }),
    )
  })
  return {
    nodes: [...placed.values()],
    edges: edges.flatMap((e) => {
      const [from, to] = [placed.get(e.from), placed.get(e.to)]
      return from && to ? [{ from, to, count: from.column < to.column && to.count > 1 ? to.count : 1 }] : []
    }),
    width: used.length * pitch.x,
    height: most * pitch.y,
  }
}
