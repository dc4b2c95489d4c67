import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { list, positive, quantity } from './input'

const mm = (si: number) => `${n(si * 1000, 6)} mm`

export const threadCorrection = defineCalculator({
  key: 'thread-correction',
  title: 'Turns shared over earlier threaded joints',
  inputs: {
    angle: quantity('angle', { above: 0, below: 360 }),
    remaining: list(quantity('ratio', { min: 0 }), { min: 1, max: 200 }),
  },
  outputs: { extra: 'angle', ok: 'flag' },
  source:
    'The angle that an elbow lacks, shared equally; no joint takes more than the threads ' +
    'it has left, and what it cannot take goes to the others.',
  cautions: ['No joint is turned back: thread compound has set to its place.'],
  compute({ angle, remaining }) {
    const most = remaining.map((r) => 360 * r)
    const ok = most.reduce((sum, m) => sum + m, 0) >= angle - 1e-9
    const extra = ok ? share(angle, most) : most
    const said = extra.map((e) => `${n(e)}°`).join(', ')
    return {
      outputs: { extra, ok },
      working: () => [
        `${n(angle)}° over ${most.length} joints, at most ` +
          `${most.map((m) => `${n(m)}°`).join(', ')}: ${said}` +
          `${ok ? '' : ', which is not enough'}`,
      ],
    }
  },
})

/** Equal shares; whoever is full drops out and the rest share what is left. */
function share(total: number, most: readonly number[]): number[] {
  const out = most.map(() => 0)
  let open = most.map((_m, i) => i)
  let left = total
  while (open.length > 0) {
    const each = left / open.length
    const full = open.filter((i) => most[i]! <= each)
    if (full.length === 0) {
      for (const i of open) out[i] = each
      break
    }
    for (const i of full) {
      out[i] = most[i]!
      left -= most[i]!
    }
    open = open.filter((i) => !full.includes(i))
  }
  return out
}

export const pullSkew = defineCalculator({
  key: 'pull-skew',
  title: 'Where a pipe has most still to go in',
  inputs: { edges: list(quantity('length', {}, 'mm'), { exactly: 4 }), diameter: positive('length', 'mm') },
  outputs: { mean: 'length', skew: 'angle', next: 'number' },
  source:
    'Distances from the mark to the edge of the fitting at 12, 3, 6 and 9 o’clock: the plane through them, and its steepest direction.',
  compute({ edges, diameter }) {
    const [top, right, bottom, left] = edges as [number, number, number, number]
    const mean = (top + right + bottom + left) / 4
    const [up, across] = [top - bottom, right - left]
    const skew = (Math.atan(Math.hypot(up, across) / diameter) * 180) / Math.PI
    const next = up === 0 && across === 0 ? null : ((Math.atan2(across, up) * 180) / Math.PI + 360) % 360
    return {
      outputs: { mean, skew, next },
      working: () => [
        `mean = ${mm(mean)}`,
        `skew = atan(hypot(${mm(up)}, ${mm(across)}) / ${mm(diameter)}) = ${n(skew)}°`,
        next === null ? 'even all round' : `pull at ${n(next)}° clockwise from the top`,
      ],
    }
  },
})

export const fusionGap = defineCalculator({
  key: 'fusion-gap',
  title: 'Gap between pipe and fitting before fusion',
  inputs: { bore: positive('length', 'mm'), od: positive('length', 'mm') },
  outputs: { gap: 'length' },
  source:
    'Half of bore less outside diameter: the gap at one side of a centred pipe. Below nothing the pipe does not go in.',
  compute({ bore, od }) {
    const gap = (bore - od) / 2
    return {
      outputs: { gap },
      working: () => [
        `gap = (${mm(bore)} − ${mm(od)}) / 2 = ${mm(gap)}${gap < 0 ? ': it does not go in' : ''}`,
      ],
    }
  },
})

export const peelByGirth = defineCalculator({
  key: 'peel-by-girth',
  title: 'Depth peeled, by the girth before and after',
  inputs: { before: positive('length', 'mm'), after: positive('length', 'mm') },
  outputs: { depth: 'length' },
  source: 'What the girth has lost, over 2 π: the true depth after any number of passes.',
  compute({ before, after }) {
    if (after > before) fail('after', '{after} is longer than {before}: peeling takes off, it adds nothing.')
    const depth = (before - after) / (2 * Math.PI)
    return {
      outputs: { depth },
      working: () => [`depth = (${mm(before)} − ${mm(after)}) / 2π = ${mm(depth)}`],
    }
  },
})
