import { stackLayers } from '../calculators/lifting'
import { Problem } from '../problem'

export type StackMaterial = 'concrete' | 'plastic'

/** What is to be stacked. Metres, kilograms. */
export interface StackRequest {
  material: StackMaterial
  /** nominal diameter, for the rule on layers */
  nominal: number
  od: number
  length: number
  count: number
  /** of one length; null when not known */
  mass: number | null
  /** width of ground that may be used; null when free */
  width: number | null
  /** room between the pipes of a layer for the lifting device, m; nothing when not given */
  gap?: number
}

export interface StackedPipe {
  /** centre, from the middle of the base */
  x: number
  y: number
  layer: number
  /** where the socket lies: layers alternate so that no socket carries */
  socket: 'left' | 'right'
}

export interface StackPlan {
  allowed: number
  layers: number
  perLayer: number[]
  pipes: StackedPipe[]
  width: number
  height: number
  /** from one layer to the next */
  rise: number
  mass: number | null
  /** timbers under the barrel, from the left end */
  timbers: number[]
  /** lengths that do not go on this stack */
  left: number
  cautions: string[]
  working: string[]
}

/** How much higher each layer lies: a pipe in the valley between two that stand `pitch` apart. */
const riseOf = (od: number, pitch: number) => Math.sqrt(od ** 2 - (pitch / 2) ** 2)

/**
 * Plans a stack: each layer lies in the valleys of the one under it, with one
 * pipe fewer; as narrow as the layers allow.
 *
 * @throws Problem `bad-stack` naming the field
 */
export function planStack(r: StackRequest): StackPlan {
  if (!(r.od > 0 && r.od <= 6))
    throw new Problem('bad-stack', 'The outside diameter must be between 0 and 6 m.', 'od')
  if (!(r.length > 0 && r.length <= 40))
    throw new Problem('bad-stack', 'The length must be between 0 and 40 m.', 'length')
  if (!Number.isInteger(r.count) || r.count < 1 || r.count > 2000)
    throw new Problem('bad-stack', 'The count must be a whole number from 1 to 2000.', 'count')
  if (r.width !== null && r.width < r.od)
    throw new Problem('bad-stack', 'The ground is narrower than one pipe.', 'width')
  const gap = r.gap ?? 0
  // With more room a pipe would fall between the two under it.
  if (!(gap >= 0 && gap <= r.od / 2))
    throw new Problem(
      'bad-stack',
      'The room for the lifting device must lie between nothing and half the diameter.',
      'gap',
    )
  const pitch = r.od + gap
  const rise = riseOf(r.od, pitch)
  const allowed = stackLayers.compute(stackLayers.read({ diameter: r.nominal, material: r.material })).outputs
    .layers as number
  const holds = (base: number) => Array.from({ length: Math.min(allowed, base) }, (_v, k) => base - k)
  const most = r.width === null ? Infinity : Math.floor((r.width + gap) / pitch + 1e-9)
  let base = 1
  while (base < most && holds(base).reduce((a, b) => a + b, 0) < r.count) base++
  const perLayer: number[] = []
  let left = r.count
  for (const n of holds(base)) {
    const here = Math.min(n, left)
    if (here > 0) perLayer.push(here)
    left -= here
  }
  const pipes: StackedPipe[] = perLayer.flatMap((n, layer) =>
    // A layer that is not full starts at the left, so that each pipe lies in a valley.
    Array.from({ length: n }, (_v, i): StackedPipe => ({
      x: (i - (base - 1 - layer) / 2) * pitch,
      y: r.od / 2 + layer * rise,
      layer,
      socket: layer % 2 === 0 ? 'left' : 'right',
    })),
  )
  const height = r.od + (perLayer.length - 1) * rise
  return {
    allowed,
    layers: perLayer.length,
    perLayer,
    pipes,
    width: base * pitch - gap,
    height,
    rise,
    mass: r.mass === null ? null : (r.count - left) * r.mass,
    timbers: r.length > 8 ? [0.2, 0.5, 0.8].map((t) => t * r.length) : [0.2, 0.8].map((t) => t * r.length),
    left,
    cautions: [
      'Level, firm ground, clear of the trench edge and of sight lines; nobody on the stack.',
      'Chocks at both sides of the bottom layer before the sling is let go.',
      ...(r.material === 'plastic'
        ? ['Out of the sun; no stones under it; bundles stay on their frames.']
        : ['Lifting holes level; take pipes off from the top, one layer at a time.']),
    ],
    working: [
      `${r.material}, DN ${Math.round(r.nominal * 1000)}: at most ${allowed} ${allowed === 1 ? 'layer' : 'layers'}`,
      `${perLayer.join(' + ')} = ${r.count - left} lengths`,
      `each layer √(${r.od.toFixed(3)}² − (${pitch.toFixed(3)}/2)²) = ${rise.toFixed(3)} m ` +
        `higher; height = ${r.od.toFixed(3)} + ${perLayer.length - 1} · ${rise.toFixed(3)} = ` +
        `${height.toFixed(2)} m`,
    ],
  }
}
