import { acceptProbability, logFactorials } from '../calculators/sampling'

/**
 * How strictly arriving lots are looked at, and what the plan must achieve. Shares of bad items as
 * fractions.
 */
export interface SamplingRule {
  /** a lot this good should pass, save with the producer's risk */
  good: number
  producerRisk: number
  /** a lot this bad should be caught, save with the consumer's risk */
  bad: number
  consumerRisk: number
  /** lots in a row that passed before a tightened plan is normal again, and before a normal one is relaxed */
  backToNormal: number
  toRelaxed: number
}

/** Ordinary practice; an engineer changes it. */
export const sampleSamplingRule: SamplingRule = {
  good: 0.01,
  producerRisk: 0.05,
  bad: 0.1,
  consumerRisk: 0.1,
  backToNormal: 5,
  toRelaxed: 10,
}

export type Severity = 'normal' | 'tightened' | 'relaxed'
/** What severity does to the share of bad items that must be caught. */
const strictness: Record<Severity, number> = { normal: 1, tightened: 0.6, relaxed: 1.6 }

export interface SamplingPlan {
  lot: number
  sample: number
  acceptance: number
  severity: Severity
  /** every item is looked at: no smaller sample keeps both promises */
  all: boolean
  /** chance that a good lot is refused, and that a bad one slips through, with this plan */
  producerRisk: number
  consumerRisk: number
  /** share of bad items that the plan is made to catch, in whole items of this lot */
  catches: number
}

/**
 * The smallest plan by attributes that keeps both promises: sample size and the
 * number of bad items still accepted. Hypergeometric, so exact for small lots.
 *
 * @param lot items in the lot, 1 to 1 000 000
 */
export function planFor(
  lot: number,
  rule: SamplingRule = sampleSamplingRule,
  severity: Severity = 'normal',
): SamplingPlan {
  const table = logFactorials(lot)
  const badItems = Math.max(1, Math.round(Math.min(1, rule.bad * strictness[severity]) * lot))
  const catches = badItems / lot
  const goodItems = Math.min(badItems - 1, Math.floor(rule.good * lot))
  const slips = (n: number, c: number) => acceptProbability(lot, badItems, n, c, table)
  for (let c = 0; c <= Math.min(40, badItems - 1); c++) {
    let [low, high] = [c + 1, lot]
    if (low > lot || slips(high, c) > rule.consumerRisk) continue
    while (low < high) {
      const middle = (low + high) >> 1
      if (slips(middle, c) <= rule.consumerRisk) high = middle
      else low = middle + 1
    }
    const refused = 1 - acceptProbability(lot, goodItems, low, c, table)
    if (refused <= rule.producerRisk + 1e-12)
      return {
        lot,
        sample: low,
        acceptance: c,
        severity,
        all: low === lot,
        producerRisk: Math.max(0, refused),
        consumerRisk: slips(low, c),
        catches,
      }
  }
  const acceptance = Math.min(goodItems, lot)
  return { lot, sample: lot, acceptance, severity, all: true, producerRisk: 0, consumerRisk: 0, catches }
}

/** The operating characteristic of a plan: for each share of bad items, how often such a lot is accepted. */
export function operatingCharacteristic(
  plan: Pick<SamplingPlan, 'lot' | 'sample' | 'acceptance'>,
  points = 60,
  upTo = 0.3,
): { share: number; accepted: number }[] {
  const table = logFactorials(plan.lot)
  const out = new Map<number, number>()
  for (let i = 0; i <= points; i++) {
    const bad = Math.round(((upTo * i) / points) * plan.lot)
    out.set(bad, acceptProbability(plan.lot, bad, plan.sample, plan.acceptance, table))
  }
  return [...out].map(([bad, accepted]) => ({ share: bad / plan.lot, accepted }))
}

/** A lot that was judged by its sample. */
export interface SampledLot {
  accepted: boolean
  /** bad items found */
  bad: number
}

/**
 * How strictly the next lot is looked at: tightened after a refused lot, normal
 * again after a run of lots that passed, relaxed after a longer run without one
 * bad item.
 *
 * @param history oldest first
 */
export function severityAfter(
  history: readonly SampledLot[],
  rule: SamplingRule = sampleSamplingRule,
): { severity: Severity; reason: string } {
  let severity: Severity = 'normal'
  let run = 0
  let clean = 0
  let reason = 'No lot has been refused yet.'
  for (const lot of history) {
    run = lot.accepted ? run + 1 : 0
    clean = lot.accepted && lot.bad === 0 ? clean + 1 : 0
    if (!lot.accepted) {
      severity = 'tightened'
      reason = 'The last lot refused tightened the plan.'
    } else if (severity === 'tightened' && run >= rule.backToNormal) {
      severity = 'normal'
      clean = 0
      reason = `${rule.backToNormal} lots in a row passed: normal again.`
    } else if (severity === 'normal' && clean >= rule.toRelaxed) {
      severity = 'relaxed'
      reason = `${rule.toRelaxed} lots in a row without a bad item: relaxed.`
    } else if (severity === 'relaxed' && lot.bad > 0) {
      severity = 'normal'
      reason = 'A bad item turned up: normal again.'
    }
  }
  if (severity === 'tightened') reason += ` ${run} of ${rule.backToNormal} lots in a row have passed since.`
  return { severity, reason }
}

/**
 * Which items of a lot are looked at: spread evenly from a start, so that anybody can draw the same
 * sample again.
 */
export function drawSample<T>(items: readonly T[], sample: number, start: number): T[] {
  if (sample >= items.length) return [...items]
  const step = items.length / sample
  const offset = ((start % items.length) + items.length) % items.length
  return Array.from({ length: sample }, (_v, i) => items[Math.floor(offset + i * step) % items.length]!)
}
