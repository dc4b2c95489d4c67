import { guardBandVerdict, type BandVerdict } from '../calculators/guard-band'
import { compliance } from '../calculators/hydro'
import { showDuration, showNumber, showQuantity } from '../quantity/show'
import { cleanLog, type LogNote, type Sample } from './log'
import { pressureTrend } from './trend'

/** Parameters of the method, SI; sample defaults that an engineer edits. */
export interface PeExpansionParameters {
  /** at the gauge */
  testPressure: number
  expansion: number
  reduction: number
  /** allowed change in the hold, as a fraction */
  band: number
  hold: number
  maxTotal: number
  /** expanded uncertainty of the gauge, Pa */
  gaugeUncertainty: number
}

export const samplePeExpansion: Omit<PeExpansionParameters, 'testPressure'> = {
  expansion: 4 * 3600,
  reduction: 70e3,
  band: 0.05,
  hold: 3600,
  maxTotal: 8 * 3600,
  gaugeUncertainty: 2e3,
}

export interface PipeSection {
  length: number
  insideDiameter: number
  wall: number
  modulus: number
}

export interface TestNumber {
  key: string
  title: string
  text: string
  formula: string
  verdict: BandVerdict | null
}

export interface TestPhase {
  key: 'pressurising' | 'expansion' | 'reduction' | 'hold'
  title: string
  from: number
  to: number
}

export interface TestEvaluation {
  method: string
  verdict: BandVerdict | 'incomplete'
  sentence: string
  phases: TestPhase[]
  numbers: TestNumber[]
  /** what was left out of the log, or found missing in it */
  notes: LogNote[]
  /** when `incomplete` or too close: seconds of log still needed, if known */
  needed: number | null
}

const kPa = (v: number) => showQuantity(v, 'pressure', 'kPa')
const worse = (a: BandVerdict, b: BandVerdict): BandVerdict =>
  a === 'reject' || b === 'reject'
    ? 'reject'
    : a === 'too-close' || b === 'too-close'
      ? 'too-close'
      : 'accept'
/** How far below the test pressure still counts as kept: makeup pumps work in strokes. */
const KEPT = 35e3

/**
 * Where the pressure was let down: the steepest fall of about the reduction within ten minutes, after
 * pressure was reached.
 */
function findReduction(samples: readonly Sample[], from: number, reduction: number): [number, number] | null {
  let best: { drop: number; i: number; k: number } | null = null
  for (let i = from; i < samples.length; i++) {
    for (let k = i + 1; k < samples.length && samples[k]!.t - samples[i]!.t <= 600; k++) {
      const drop = samples[i]!.pressure - samples[k]!.pressure
      if (drop >= 0.7 * reduction && (!best || drop > best.drop * 1.02)) best = { drop, i, k }
    }
    if (best && samples[i]!.t - samples[best.k]!.t > 1200) break
  }
  if (!best) return null
  // Tighten: the last sample still near the top, the first near the bottom.
  const top = samples[best.i]!.pressure
  const bottom = samples[best.k]!.pressure
  let [i, k] = [best.i, best.k]
  while (i + 1 < k && samples[i + 1]!.pressure > top - 0.1 * (top - bottom)) i++
  while (k - 1 > i && samples[k - 1]!.pressure < bottom + 0.1 * (top - bottom)) k--
  return [i, k]
}

const incomplete = (
  sentence: string,
  phases: TestPhase[],
  notes: LogNote[],
  needed: number | null,
): TestEvaluation => ({
  method: 'pe-expansion',
  verdict: 'incomplete',
  sentence,
  phases,
  numbers: [],
  notes,
  needed,
})

/**
 * Evaluates a polyethylene test by expansion: pressure kept with makeup, lowered,
 * then nothing added; it must stay within the band for the hold.
 *
 * @param log samples in SI
 * @param section the pipe under test, for the leak that the fall would mean
 */
export function evaluatePeExpansion(
  log: readonly Sample[],
  p: PeExpansionParameters,
  section: PipeSection,
): TestEvaluation {
  const { samples, notes } = cleanLog(log)
  const first = samples.findIndex((s) => s.pressure >= p.testPressure - p.gaugeUncertainty)
  if (first < 0)
    return incomplete(`The test pressure of ${kPa(p.testPressure)} was never reached.`, [], notes, null)
  const started = samples[first]!.t
  const pressurising: TestPhase = {
    key: 'pressurising',
    title: 'Pressurising',
    from: samples[0]!.t,
    to: started,
  }
  const lowered = findReduction(samples, first, p.reduction)
  if (!lowered) {
    const expansion: TestPhase = {
      key: 'expansion',
      title: 'Expansion',
      from: started,
      to: samples.at(-1)!.t,
    }
    return incomplete(
      'The pressure has not been lowered yet.',
      [pressurising, expansion],
      notes,
      Math.max(0, p.expansion - (expansion.to - started)),
    )
  }
  const [i, k] = lowered
  const top = samples[i]!
  const begin = samples[k]!
  const phases: TestPhase[] = [
    pressurising,
    { key: 'expansion', title: 'Expansion', from: started, to: top.t },
    { key: 'reduction', title: 'Lowered', from: top.t, to: begin.t },
  ]
  const hold = samples.filter((s) => s.t >= begin.t && s.t <= begin.t + p.hold)
  const held = hold.at(-1)!.t - begin.t
  phases.push({ key: 'hold', title: 'Hold', from: begin.t, to: begin.t + Math.min(held, p.hold) })
  // One missing sample interval at the end does not make a hold incomplete.
  const slack = Math.max(60, (2 * (samples.at(-1)!.t - samples[0]!.t)) / samples.length)
  if (held < p.hold - slack)
    return incomplete(
      `The hold has run ${showDuration(held)} of ${showDuration(p.hold)}.`,
      phases,
      notes,
      p.hold - held,
    )

  const reference = hold
    .slice(0, 3)
    .map((s) => s.pressure)
    .sort((a, b) => a - b)[Math.min(1, hold.length - 1)]!
  const low = Math.min(...hold.map((s) => s.pressure))
  const high = Math.max(...hold.map((s) => s.pressure))
  const change = reference - low > high - reference ? low - reference : high - reference
  const spread = (p.gaugeUncertainty * Math.SQRT2) / reference
  const band = guardBandVerdict(change / reference, -p.band, p.band, spread, 'guarded')
  const keptLow = Math.min(...samples.slice(first, i + 1).map((s) => s.pressure))
  const expansionTime = top.t - started
  const total = begin.t + p.hold - started
  const added = hold.at(-1)!.makeup - begin.makeup
  const trend = pressureTrend(hold)
  const volume = (Math.PI / 4) * section.insideDiameter ** 2 * section.length
  const stiffness = volume * compliance(section.insideDiameter, section.wall, section.modulus, 2.19e9, 1)
  const litresPerHour = (slope: number) => slope * stiffness * 3600 * 1000
  const yesNo = (ok: boolean): BandVerdict => (ok ? 'accept' : 'reject')
  const numbers: TestNumber[] = [
    {
      key: 'expansion',
      title: 'Expansion at test pressure',
      text: showDuration(expansionTime),
      formula: `at least ${showDuration(p.expansion)}`,
      verdict: yesNo(expansionTime >= p.expansion - slack),
    },
    {
      key: 'kept',
      title: 'Lowest pressure in the expansion',
      text: kPa(keptLow),
      formula: `test pressure ${kPa(p.testPressure)} − ${kPa(KEPT)} = ${kPa(p.testPressure - KEPT)}`,
      verdict: guardBandVerdict(keptLow, p.testPressure - KEPT, null, p.gaugeUncertainty, 'guarded').verdict,
    },
    {
      key: 'reduction',
      title: 'Lowered by',
      text: kPa(top.pressure - begin.pressure),
      formula: `${kPa(p.reduction)}, within a fifth`,
      verdict: yesNo(
        Math.abs(top.pressure - begin.pressure - p.reduction) <= 0.2 * p.reduction + p.gaugeUncertainty,
      ),
    },
    {
      key: 'added',
      title: 'Water added in the hold',
      text: showQuantity(added, 'volume', 'L'),
      formula: 'none',
      verdict: yesNo(added <= 1e-6),
    },
    {
      key: 'change',
      title: 'Greatest change in the hold',
      text: `${showNumber((change / reference) * 100, 3)} % (${kPa(change)})`,
      formula: `${showNumber(p.band * 100)} % of ${kPa(reference)} = ${kPa(p.band * reference)}, gauge ± ${kPa(p.gaugeUncertainty)}`,
      verdict: band.verdict,
    },
    {
      key: 'total',
      title: 'Total time at pressure',
      text: showDuration(total),
      formula: `at most ${showDuration(p.maxTotal)}, else rest 8 h`,
      verdict: yesNo(total <= p.maxTotal),
    },
  ]
  if (trend) {
    numbers.push({
      key: 'slope',
      title: 'Trend in the hold',
      text: `${showNumber((trend.slope * 3600) / 1000, 3)} ± ${showNumber((trend.interval * 3600) / 1000, 2)} kPa/h`,
      formula: 'median of slopes, 95 % interval',
      verdict: null,
    })
    numbers.push({
      key: 'leak',
      title: 'A leak of this size would do it',
      text:
        trend.slope < 0
          ? `${showNumber(litresPerHour(-trend.slope), 3)} ± ${showNumber(litresPerHour(trend.interval), 2)} L/h`
          : 'none: the pressure rises',
      formula: 'trend · V·(1/K + D/(e·E)); creep and recovery of the pipe are part of it',
      verdict: null,
    })
  }
  const verdict = numbers.reduce<BandVerdict>(
    (all, number) => (number.verdict ? worse(all, number.verdict) : all),
    'accept',
  )
  const culprit = numbers.find((n) => n.verdict === verdict)
  const sentence =
    verdict === 'accept'
      ? `Tight: the pressure stayed within ${showNumber(p.band * 100)} % for ${showDuration(p.hold)} with nothing added.`
      : verdict === 'reject'
        ? `Not accepted: ${culprit!.title.toLowerCase()} ${culprit!.text}, criterion ${culprit!.formula}.`
        : `Too close to call: ${culprit!.title.toLowerCase()} ${culprit!.text} lies within the ` +
          `gauge's uncertainty of the limit. Repeat with a better gauge.`
  return { method: 'pe-expansion', verdict, sentence, phases, numbers, notes, needed: null }
}
