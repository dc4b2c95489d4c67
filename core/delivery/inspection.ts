import { guardBandVerdict, type BandRule } from '../calculators/guard-band'
import { explainFinding } from '../checks/readings'
import { statistics } from '../checks/statistics'
import type { Finding } from '../checks/verdict'
import type { DimensionKey } from '../quantity/dimension'

/** What is measured on an arriving item. Limits in SI; `go` is a gauge that goes on or does not. */
export type ItemLimit =
  | {
      key: string
      title: string
      kind: 'measure'
      dimension: DimensionKey
      unit: string
      readings: number
      of: 'each' | 'mean' | 'range'
      min: number | null
      max: number | null
      where: string
    }
  | { key: string; title: string; kind: 'go'; where: string }

/** What was read, by limit: numbers in SI, or whether the gauge went on. */
export type ItemReadings = Record<string, number[] | 'go' | 'no-go'>

export interface ItemVerdict {
  state: 'accepted' | 'rejected' | 'too-close' | 'not-measured'
  findings: Finding[]
  sentences: string[]
  /** limits that were not measured, or not often enough */
  missing: string[]
}

/**
 * How far off a statistic of n readings is when each is off by U: root sum of squares for a range, U for
 * a mean (the same tool is off the same way).
 */
const spread = (of: 'each' | 'mean' | 'range', uncertainty: number) =>
  of === 'range' ? Math.SQRT2 * uncertainty : uncertainty

/**
 * Judges the measurements of one arriving item against the limits of its article.
 *
 * @param uncertainty expanded uncertainty of one reading, by limit; 0 where it is not known
 */
export function judgeItem(
  limits: readonly ItemLimit[],
  readings: ItemReadings,
  uncertainty: Readonly<Record<string, number>> = {},
  rule: BandRule = 'guarded',
): ItemVerdict {
  const out: ItemVerdict = { state: 'not-measured', findings: [], sentences: [], missing: [] }
  let gaugeFailed = false
  for (const limit of limits) {
    const read = readings[limit.key]
    if (limit.kind === 'go') {
      if (read !== 'go' && read !== 'no-go') out.missing.push(limit.title)
      else {
        gaugeFailed ||= read === 'no-go'
        out.sentences.push(`${limit.title}: the gauge ${read === 'go' ? 'goes on' : 'does not go on'}.`)
      }
      continue
    }
    const values = Array.isArray(read) ? read.filter((v) => Number.isFinite(v)) : []
    if (values.length < limit.readings) {
      out.missing.push(limit.title)
      continue
    }
    const u = spread(limit.of, uncertainty[limit.key] ?? 0)
    const taken = limit.of === 'each' ? values : [statistics[limit.of]!(values)]
    const judged = taken.map((value) => ({
      value,
      ...guardBandVerdict(value, limit.min, limit.max, u, rule),
    }))
    const worst = judged.reduce((a, b) => (b.margin < a.margin ? b : a))
    const finding: Finding = {
      title: limit.title,
      of: limit.of,
      dimension: limit.dimension,
      unit: limit.unit,
      min: limit.min,
      max: limit.max,
      uncertainty: u,
      reading: null,
      ...worst,
    }
    out.findings.push(finding)
    out.sentences.push(explainFinding(finding))
  }
  const verdicts = new Set(out.findings.map((f) => f.verdict))
  if (gaugeFailed || verdicts.has('reject')) out.state = 'rejected'
  else if (verdicts.has('too-close')) out.state = 'too-close'
  else if (out.sentences.length > 0 && out.missing.length === 0) out.state = 'accepted'
  return out
}
