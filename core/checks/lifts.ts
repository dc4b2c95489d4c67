import * as yup from 'yup'
import { typeOfDimension, type Slots } from '../formula/formula'
import { showQuantity } from '../quantity/show'
import type { Entry } from '../record/entry'
import { byTime } from '../record/order'
import { answer, finite, words } from '../record/payload'
import { uuid } from '../record/uuid'
import { chainsOf, type InPlace } from './chain'
import { defineCheck, type CheckContext, type Made } from './define'
import { figuresOf } from './figures'
import { formula, key, list, record, text, truth } from './schema'
import { faultsSay, plain, type Fault, type Verdict } from './verdict'

export interface FillMaterial {
  key: string
  title: string
  conforms: boolean
  reason?: string
}

export interface LiftsCheck {
  kind: 'lifts'
  od: string
  maxLoose?: string
  minPasses?: string
  maxDifference?: string
  factor?: string
  handBelow?: string
  vehicleFrom?: string
  target?: string
  slicing?: boolean | string
  /** filled from inside a trench box: each lift says that the box was raised before it was compacted */
  boxed?: boolean | string
  materials?: FillMaterial[]
}

export const sides = ['left', 'right', 'both'] as const
export type Side = (typeof sides)[number]
export const plants = ['hand', 'plate', 'roller', 'vehicle', 'none'] as const
export type Plant = (typeof plants)[number]
export const moistures = ['dry', 'damp', 'wet'] as const
export type Moisture = (typeof moistures)[number]

export const fillMaterials: readonly FillMaterial[] = [
  { key: 'crushed-rock', title: 'Crushed rock', conforms: true },
  { key: 'gravel', title: 'Rounded gravel', conforms: true },
  { key: 'sand', title: 'Sand', conforms: true },
  { key: 'stony', title: 'Stones over 20 mm', conforms: false, reason: 'they press into the pipe' },
  { key: 'frozen', title: 'Frozen soil', conforms: false, reason: 'it settles when it thaws' },
  { key: 'organic', title: 'Topsoil or peat', conforms: false, reason: 'it rots and settles' },
  { key: 'clay-lumps', title: 'Lumps of clay', conforms: false, reason: 'they leave hollows' },
]

/** What a lift says. Levels and thicknesses in m, over the outside bottom of the pipe. */
export interface LiftPayload {
  side: Side
  thickness: number
  factor?: number
  passes: number
  plant: Plant
  material: string
  moisture: Moisture
  haunched: boolean
  /** the box was raised before the lift was compacted, and the gap under it filled */
  raised?: boolean
}

/** What lifts of one step are judged against, SI. */
export interface LiftLimits {
  od: number
  maxLoose: number
  minPasses: number
  maxDifference: number
  factor: number
  handBelow: number
  vehicleFrom: number
  target: number
  slicing: boolean
  boxed: boolean
  materials: readonly FillMaterial[]
}

export interface Lift {
  entry: string
  at: number
  payload: LiftPayload
  /** compacted rise, m */
  rise: number
  /** from and to, by side; null on the side it does not touch */
  left: [number, number] | null
  right: [number, number] | null
  faults: Fault[]
}

export interface Fill {
  lifts: Lift[]
  left: number
  right: number
}

const NEAR = 1e-9
const mm = (si: number) => showQuantity(si, 'length', 'mm')

const isLift = (p: Record<string, unknown>): boolean =>
  sides.includes(p.side as Side) && Number.isFinite(p.thickness) && Number.isFinite(p.passes)

/** Why one lift does not conform, code by code. */
function faultsOf(
  lift: Omit<Lift, 'faults'>,
  before: { left: number; right: number },
  after: { left: number; right: number },
  limits: LiftLimits,
): Fault[] {
  const { payload: p, left, right } = lift
  const faults: Fault[] = []
  const fault = (code: string, sentence: string) =>
    faults.push({ entry: lift.entry, code, sentence, verdict: 'reject' })
  const material = limits.materials.find((m) => m.key === p.material)
  if (p.thickness > limits.maxLoose + NEAR)
    fault('too-thick', `Laid ${mm(p.thickness)} thick, at most ${mm(limits.maxLoose)} loose.`)
  const sliced = limits.slicing && p.material === 'crushed-rock' && p.moisture === 'dry' && p.plant === 'none'
  const passes = p.plant === 'none' ? 0 : p.passes
  if (passes < limits.minPasses && !sliced)
    fault('few-passes', `${passes} passes, at least ${limits.minPasses} are due.`)
  const ahead = p.side === 'left' ? before.left - before.right : before.right - before.left
  if (p.side !== 'both' && ahead > limits.maxDifference + NEAR)
    fault(
      'sides',
      `The ${p.side} side stood ${mm(ahead)} ahead already, at most ${mm(limits.maxDifference)}: ` +
        `the pipe is pushed aside.`,
    )
  if (!material?.conforms)
    fault(
      'material',
      material
        ? `${material.title}: ${material.reason ?? 'not used here'}.`
        : 'The material is not one of the list.',
    )
  if (p.moisture === 'wet') fault('wet', 'Wet soil is not compacted: let it dry, or take other soil.')
  const low = Math.min(left?.[0] ?? Infinity, right?.[0] ?? Infinity)
  if (low < limits.od / 2 - NEAR && p.haunched !== true)
    fault('haunch', 'Not tamped under the haunch, where the pipe needs its bed most.')
  if (limits.boxed && p.raised !== true)
    fault('box', 'The box was not raised before this lift was compacted: drawn later it loosens the fill.')
  const top = Math.max(left?.[1] ?? -Infinity, right?.[1] ?? -Infinity)
  const cover = Math.min(after.left, after.right) - limits.od
  const needs = p.plant === 'vehicle' ? limits.vehicleFrom : limits.handBelow
  if (p.plant === 'vehicle' && top <= limits.od + NEAR) fault('plant', 'No vehicle runs beside the pipe.')
  else if (['plate', 'roller', 'vehicle'].includes(p.plant) && top > limits.od + NEAR && cover < needs - NEAR)
    fault('plant', `The ${p.plant} ran at ${mm(Math.max(0, cover))} of cover, not below ${mm(needs)}.`)
  return faults
}

/** Lays the lifts that count one on the other, and says of each what is wrong with it. */
export function layLifts(counted: readonly InPlace[], limits: LiftLimits): Fill {
  const at = { left: 0, right: 0 }
  const lifts = counted
    .filter(({ entry }) => isLift(entry.payload))
    .map(({ entry, place }): Lift => {
      const payload = entry.payload as unknown as LiftPayload
      const rise = payload.thickness * (payload.factor ?? limits.factor)
      const before = { ...at }
      if (payload.side !== 'right') at.left += rise
      if (payload.side !== 'left') at.right += rise
      const lift = {
        entry: entry.id,
        at: place.recordedAt,
        payload,
        rise,
        left: payload.side === 'right' ? null : ([before.left, at.left] as [number, number]),
        right: payload.side === 'left' ? null : ([before.right, at.right] as [number, number]),
      }
      return { ...lift, faults: faultsOf(lift, before, at, limits) }
    })
  return { lifts, ...at }
}

/** The limits of a step's lifts for the reach at hand; NaN where a figure is missing. */
export function liftLimits(made: Made<LiftsCheck>, slots: Slots): LiftLimits {
  const figures = figuresOf(
    made,
    slots,
    'od',
    'maxLoose',
    'minPasses',
    'maxDifference',
    'factor',
    'handBelow',
    'vehicleFrom',
  )
  const { slicing, boxed, target } = made.formulas
  return {
    ...figures,
    target: target ? (target.evaluate(slots) as number) : figures.od + 0.3,
    slicing: slicing?.evaluate(slots) === true,
    boxed: boxed?.evaluate(slots) === true,
    materials: made.step.check.materials ?? fillMaterials,
  }
}

const lacking = ({ materials: _m, slicing: _s, boxed: _b, ...figures }: LiftLimits) =>
  Object.values(figures).some(Number.isNaN)

function judgeAll(
  made: Made<LiftsCheck>,
  entries: readonly Entry[],
  { slots, missing }: CheckContext,
): Verdict {
  const limits = liftLimits(made, slots)
  if (lacking(limits))
    return plain('blocked', `The limits cannot be worked out: ${missing(...Object.values(made.formulas))}.`)
  const { lifts, left, right } = layLifts(chainsOf(entries).counted, limits)
  if (lifts.length === 0) return plain('not-started', 'No lift is recorded.')
  const faults = lifts.flatMap((l) => l.faults)
  const level = `left ${mm(left)}, right ${mm(right)}`
  if (faults.length > 0) return { state: 'rejected', sentence: () => faultsSay(faults), findings: [], faults }
  return Math.min(left, right) >= limits.target - NEAR
    ? plain('accepted', `Filled to ${mm(limits.target)} over the bottom of the pipe: ${level}.`)
    : plain('in-work', `Filled: ${level}; to ${mm(limits.target)}.`)
}

const count = (passes: unknown) => `${String(passes)} ${passes === 1 ? 'pass' : 'passes'}`
const sideWords: Record<Side, string> = { left: 'left', right: 'right', both: 'both sides' }

/** Fill beside and over the pipe, lift by lift. Rises, sides and plant follow from loose thickness. */
export const lifts = defineCheck<LiftsCheck>({
  kind: 'lifts',
  subjects: ['reach'],
  schema: {
    od: formula().required(),
    maxLoose: formula(),
    minPasses: formula(),
    maxDifference: formula(),
    factor: formula(),
    handBelow: formula(),
    vehicleFrom: formula(),
    target: formula(),
    slicing: truth(),
    boxed: truth(),
    materials: list(
      record({
        key: key().required(),
        title: text().required(),
        conforms: yup.boolean().required(),
        reason: text(),
      }),
      20,
    ),
  },
  answers: {
    lift: answer({
      side: yup.string().oneOf(sides).required(),
      thickness: finite().moreThan(0).required(),
      factor: finite().moreThan(0),
      passes: finite().integer().min(0).required(),
      plant: yup.string().oneOf(plants).required(),
      material: words(60).required(),
      moisture: yup.string().oneOf(moistures).required(),
      haunched: yup.boolean().required(),
      raised: yup.boolean(),
      replaces: uuid(),
    }),
  },
  compile: (check, compiler) => ({
    formulas: {
      od: compiler.si(check.od, 'od', 'length'),
      maxLoose: compiler.si(check.maxLoose ?? 0.3, 'maxLoose', 'length'),
      minPasses: compiler.si(check.minPasses ?? 3, 'minPasses', 'ratio'),
      maxDifference: compiler.si(check.maxDifference ?? 0.15, 'maxDifference', 'length'),
      factor: compiler.si(check.factor ?? 0.85, 'factor', 'ratio'),
      handBelow: compiler.si(check.handBelow ?? 0.3, 'handBelow', 'length'),
      vehicleFrom: compiler.si(check.vehicleFrom ?? 0.9, 'vehicleFrom', 'length'),
      target: check.target === undefined ? null : compiler.si(check.target, 'target', 'length'),
      slicing: compiler.formula(check.slicing, 'slicing', { kind: 'truth' }),
      boxed: compiler.formula(check.boxed, 'boxed', { kind: 'truth' }),
    },
  }),
  records: {
    lift: {
      type: () => typeOfDimension('length'),
      value(made, entries, which, slots, until) {
        const limits = liftLimits(made, slots)
        const counted = chainsOf(entries.filter((e) => e.kind === 'lift')).counted.filter(
          ({ place }) => until === null || byTime(place, until) <= 0,
        )
        const { left, right } = layLifts(counted, limits)
        const low = Math.min(left, right)
        return { left, right, low, cover: low - limits.od }[which as 'left']
      },
    },
  },
  judgeAll,
  figures(made, entries, slots): Record<string, number> {
    const limits = liftLimits(made, slots)
    const { lifts, left, right } = layLifts(chainsOf(entries).counted, limits)
    if (lifts.length === 0) return { left, right, target: limits.target }
    const mean = (of: (l: Lift) => number) => lifts.reduce((sum, l) => sum + of(l), 0) / lifts.length
    return {
      left,
      right,
      target: limits.target,
      thickness: mean((l) => l.payload.thickness),
      passes: mean((l) => (l.payload.plant === 'none' ? 0 : l.payload.passes)),
      boxLate: lifts.filter((l) => l.payload.raised === false).length,
    }
  },
  describe: {
    rule: (check) =>
      `Lifts of at most ${check.maxLoose ?? '0.3 m'} loose, ${check.minPasses ?? '3'} passes each, ` +
      `sides within ${check.maxDifference ?? '0.15 m'}`,
    entry({ side, thickness, passes, plant, material, replaces }, check) {
      const title = (check.materials ?? fillMaterials).find((m) => m.key === material)?.title
      return [
        `${sideWords[side as Side]} ${mm(thickness as number)} loose`,
        plant === 'none' ? 'not compacted' : `${count(passes)} by ${String(plant)}`,
        (title ?? String(material)).toLowerCase(),
        ...(replaces ? ['laid again'] : []),
      ].join(', ')
    },
  },
})
