import { guardBandVerdict, type BandVerdict } from '../calculators/guard-band'
import { standing } from '../judgement/standing'
import type { Entry } from '../record/entry'
import { showNumber } from '../quantity/show'

/**
 * What the embedment of one reach is judged against, SI; ratios as fractions. Sample defaults, edited by
 * an engineer.
 */
export interface EmbedmentCriteria {
  maxLift: number
  minPasses: number
  /** greatest difference of level between the two sides */
  maxDifference: number
  minCompaction: number
  /** uncertainty of a compaction figure, as a fraction */
  compactionUncertainty: number
  /** fill by hand plant up to here over the crown */
  coverByHand: number
  /** one density test for so many levels of fill */
  liftsPerTest: number
}

export const sampleEmbedmentCriteria: EmbedmentCriteria = {
  maxLift: 0.3,
  minPasses: 3,
  maxDifference: 0.15,
  minCompaction: 0.9,
  compactionUncertainty: 0.005,
  coverByHand: 0.3,
  liftsPerTest: 2,
}

export const materials = [
  { key: 'crushed-rock', title: 'Crushed rock', conforms: true, reason: '' },
  { key: 'gravel', title: 'Rounded gravel', conforms: true, reason: '' },
  { key: 'sand', title: 'Sand', conforms: true, reason: '' },
  {
    key: 'stony',
    title: 'Stones over 20 mm',
    conforms: false,
    reason: 'stones over 20 mm press into plastic pipe',
  },
  { key: 'frozen', title: 'Frozen soil', conforms: false, reason: 'frozen soil settles when it thaws' },
  { key: 'organic', title: 'Topsoil or peat', conforms: false, reason: 'organic soil rots and settles' },
] as const

export type Side = 'left' | 'right' | 'both'

export interface Lift {
  entry: string
  side: Side
  thickness: number
  passes: number
  material: string
  haunched: boolean
  /** bottom and top over the pipe's invert, by side; null on the side it does not touch */
  left: [number, number] | null
  right: [number, number] | null
  verdict: 'accept' | 'reject'
  reasons: string[]
  replaced: boolean
  at: number
}

export interface DensityTest {
  entry: string
  side: Side
  dry: number
  compaction: number
  verdict: BandVerdict
  sentence: string
  at: number
}

export interface ReachJudgement {
  state: 'not-started' | 'in-work' | 'rejected' | 'too-close' | 'accepted'
  lifts: Lift[]
  tests: DensityTest[]
  left: number
  right: number
  /** top of fill by hand plant, over the invert */
  target: number
  /** what is still due, in plain sentences */
  due: string[]
}

const mm = (si: number) => `${showNumber(si * 1000)} mm`
const percent = (ratio: number) => `${showNumber(ratio * 100)} %`
const num = (value: unknown) => (typeof value === 'number' && Number.isFinite(value) ? value : 0)

function judgeLift(entry: Entry, left: number, right: number, od: number, criteria: EmbedmentCriteria): Lift {
  const side = (
    ['left', 'right', 'both'].includes(String(entry.payload.side)) ? entry.payload.side : 'both'
  ) as Side
  const thickness = num(entry.payload.thickness)
  const passes = num(entry.payload.passes)
  const haunched = entry.payload.haunched === true
  const material = materials.find((m) => m.key === entry.payload.material)
  const newLeft = side === 'right' ? left : left + thickness
  const newRight = side === 'left' ? right : right + thickness
  const reasons: string[] = []
  if (thickness > criteria.maxLift + 1e-9)
    reasons.push(`Lift of ${mm(thickness)} is thicker than ${mm(criteria.maxLift)}.`)
  if (passes < criteria.minPasses) reasons.push(`${passes} passes, at least ${criteria.minPasses} are due.`)
  if (!material?.conforms) reasons.push(material ? `Material: ${material.reason}.` : 'Material is not named.')
  if (Math.abs(newLeft - newRight) > criteria.maxDifference + 1e-9)
    reasons.push(
      `Sides differ by ${mm(Math.abs(newLeft - newRight))}, at most ${mm(criteria.maxDifference)}: the pipe is pushed aside.`,
    )
  const below = Math.min(side === 'right' ? right : left, side === 'left' ? left : right) < od / 2
  if (below && !haunched) reasons.push('Not tamped under the haunch.')
  return {
    entry: entry.id,
    side,
    thickness,
    passes,
    material: material?.title ?? String(entry.payload.material ?? ''),
    haunched,
    left: side === 'right' ? null : [left, newLeft],
    right: side === 'left' ? null : [right, newRight],
    verdict: reasons.length > 0 ? 'reject' : 'accept',
    reasons,
    replaced: false,
    at: entry.recordedAt,
  }
}

function judgeDensity(entry: Entry, criteria: EmbedmentCriteria): DensityTest {
  const dry = num(entry.payload.wetDensity) / (1 + num(entry.payload.moisture))
  const maximum = num(entry.payload.maximum)
  const compaction = maximum > 0 ? dry / maximum : 0
  const { verdict } = guardBandVerdict(
    compaction,
    criteria.minCompaction,
    null,
    criteria.compactionUncertainty,
    'guarded',
  )
  const found = `${percent(compaction)} of maximum, at least ${percent(criteria.minCompaction)}`
  const sentence =
    verdict === 'accept'
      ? `${found}.`
      : verdict === 'reject'
        ? `${found}: compact again and test again.`
        : `${found}: within the test’s uncertainty, test again beside it.`
  return {
    entry: entry.id,
    side: (entry.payload.side as Side) ?? 'both',
    dry,
    compaction,
    verdict,
    sentence,
    at: entry.recordedAt,
  }
}

/**
 * Judges the embedment of one reach from its entries: `lift`, `density`, corrections.
 * A lift that names one it `replaces` stands in its place.
 *
 * @param od outside diameter of the pipe, m
 */
export function judgeReach(
  entries: readonly Entry[],
  od: number,
  criteria: EmbedmentCriteria = sampleEmbedmentCriteria,
): ReachJudgement {
  const stands = standing(entries)
  const replacement = new Map(
    stands
      .filter((e) => e.kind === 'lift' && typeof e.payload.replaces === 'string')
      .map((e) => [String(e.payload.replaces), e]),
  )
  const lifts: Lift[] = []
  let [left, right] = [0, 0]
  for (const entry of stands.filter((e) => e.kind === 'lift' && typeof e.payload.replaces !== 'string')) {
    // A chain of replacements is followed to its end; what was taken out stays readable.
    let current = entry
    for (let guard = 0; replacement.has(current.id) && guard < 100; guard++) {
      lifts.push({ ...judgeLift(current, left, right, od, criteria), replaced: true })
      current = replacement.get(current.id)!
    }
    const lift = judgeLift(current, left, right, od, criteria)
    lifts.push(lift)
    left = lift.left?.[1] ?? left
    right = lift.right?.[1] ?? right
  }
  const tests = stands.filter((e) => e.kind === 'density').map((e) => judgeDensity(e, criteria))
  const target = od + criteria.coverByHand
  const valid = lifts.filter((l) => !l.replaced)
  const levels = new Set(
    valid.flatMap((l) =>
      [l.left?.[1], l.right?.[1]].filter((v) => v !== undefined).map((v) => Math.round(v! * 1000)),
    ),
  ).size
  const testsDue = Math.max(
    0,
    Math.ceil(levels / criteria.liftsPerTest) - tests.filter((t) => t.verdict === 'accept').length,
  )
  const lastTest = tests.at(-1)
  const due: string[] = []
  for (const lift of valid.filter((l) => l.verdict === 'reject'))
    due.push(`Take out and relay: ${lift.reasons.join(' ')}`)
  if (lastTest && lastTest.verdict !== 'accept') due.push(lastTest.sentence)
  if (Math.min(left, right) < target - 1e-9)
    due.push(`Fill to ${mm(target)} over the invert: left ${mm(left)}, right ${mm(right)}.`)
  if (testsDue > 0) due.push(`${testsDue} more density ${testsDue === 1 ? 'test' : 'tests'}.`)
  const state =
    valid.length === 0 && tests.length === 0
      ? 'not-started'
      : valid.some((l) => l.verdict === 'reject') || lastTest?.verdict === 'reject'
        ? 'rejected'
        : lastTest?.verdict === 'too-close'
          ? 'too-close'
          : due.length === 0
            ? 'accepted'
            : 'in-work'
  return { state, lifts, tests, left, right, target, due }
}
