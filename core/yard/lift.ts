import { GRAVITY, pipeMass, slingForce } from '../calculators/lifting'
import { Problem } from '../problem'
import { showNumber, showQuantity } from '../quantity/show'

const kg = (mass: number) => showQuantity(mass, 'mass', 'kg')

export type LiftMaterial = 'polyethylene' | 'concrete' | 'other'
export type LiftMethod = 'textile' | 'chain' | 'plug' | 'hooks' | 'forks'

/** How each material may be taken hold of, with the reason where it may not. */
export const liftMethods: Record<LiftMaterial, Record<LiftMethod, string | null>> = {
  polyethylene: {
    textile: null,
    chain: 'Chain and wire cut into polyethylene: nylon slings only.',
    plug: 'Polyethylene has no lifting hole.',
    hooks: 'Hooks in the ends tear the pipe end.',
    forks: null,
  },
  concrete: {
    textile: null,
    chain: null,
    plug: null,
    hooks: 'Hooks in the ends break the joint faces.',
    forks: null,
  },
  other: {
    textile: null,
    chain: null,
    plug: 'This pipe has no lifting hole.',
    hooks: 'Hooks in the ends damage the joint faces.',
    forks: null,
  },
}

/** A lift asked for: SI, angle in degrees from the vertical. */
export interface LiftRequest {
  material: LiftMaterial
  method: LiftMethod
  /** of one length, or null to work it out of its size */
  mass: number | null
  size: { od: number; id: number; length: number; density: number } | null
  count: number
  legs: number
  angle: number
  /** what the crane's plate and the sling's tag allow, kg; null when not read yet */
  cranePlate: number | null
  slingTag: number | null
}

export interface LiftPlan {
  each: number
  total: number
  /** N */
  perLeg: number
  craneShare: number | null
  slingShare: number | null
  refused: string[]
  open: string[]
  cautions: string[]
  working: string[]
}

const FLATTEST = 60

/**
 * Works a lift out: mass, force in each leg, what the plate and the tag allow.
 * It reminds and records; a lift is planned by a competent person.
 *
 * @throws Problem naming the field when a number cannot be
 */
export function planLift(r: LiftRequest): LiftPlan {
  if (!Number.isInteger(r.count) || r.count < 1 || r.count > 200)
    throw new Problem('bad-lift', 'The count must be a whole number from 1 to 200.', 'count')
  const working: string[] = []
  let each = r.mass
  if (each === null) {
    if (!r.size) throw new Problem('missing', 'Give the mass of one length, or its size.', 'mass')
    const found = pipeMass.compute(pipeMass.read({ ...r.size }))
    each = found.outputs.mass as number
    working.push(...found.working())
  }
  if (!(each > 0)) throw new Problem('bad-lift', 'The mass must be more than nothing.', 'mass')
  const total = each * r.count
  working.push(`${r.count} × ${kg(each)} = ${kg(total)}`)
  const refused: string[] = []
  const open: string[] = []
  const reason = liftMethods[r.material][r.method]
  if (reason) refused.push(reason)
  if (r.method === 'forks' && r.material === 'polyethylene' && r.count > 1)
    refused.push('Forks take single lengths of polyethylene, never a bundle.')
  if (r.method === 'plug' && r.count > 1) refused.push('A lifting plug takes one pipe at a time.')
  let perLeg = NaN
  if (r.angle > FLATTEST)
    refused.push(
      `The legs stand ${showNumber(r.angle)}° from the vertical: over ${FLATTEST}° the force grows beyond control. Use longer slings.`,
    )
  else {
    const force = slingForce.compute(slingForce.read({ mass: total, legs: r.legs, angle: r.angle }))
    perLeg = force.outputs.perLeg as number
    working.push(...force.working())
  }
  const craneShare = r.cranePlate === null ? null : total / r.cranePlate
  if (craneShare === null) open.push('Read the plate of the crane for this reach.')
  else if (craneShare > 1)
    refused.push(`${kg(total)} is over the plate of ${kg(r.cranePlate!)}: fewer at a time.`)
  const slingShare = r.slingTag === null || Number.isNaN(perLeg) ? null : perLeg / (r.slingTag * GRAVITY)
  if (r.slingTag === null) open.push('Read the tag of the sling.')
  else if (slingShare !== null && slingShare > 1)
    refused.push(`Each leg carries ${kg(perLeg / GRAVITY)}, its tag allows ${kg(r.slingTag)}.`)
  return {
    each,
    total,
    perLeg,
    craneShare,
    slingShare,
    refused,
    open,
    working,
    cautions: [
      'Certified gear only; tag lines; nobody under a load; lifting by trained people.',
      'Lifts are planned by a competent person. Local codes and the maker’s instructions come first.',
      ...(r.material === 'concrete'
        ? [
            'Slot cleaned, plug locked by hand, both chains with the same number of links; lifting mark within 50 mm of balance.',
          ]
        : []),
      ...(r.material === 'polyethylene'
        ? [
            'Nylon slings; no rolling off the truck.',
            ...(r.method === 'forks'
              ? ['Forks without impact; the pipe does not roll back against the bucket or mast.']
              : []),
          ]
        : []),
    ],
  }
}
