import { Problem } from '../problem'
import { showDuration, showNumber, showQuantity } from '../quantity/show'
import { unitShown } from '../quantity/site-units'
import type { BandVerdict } from '../calculators/guard-band'
import { evaluateTest, requestFor, type TestResult } from './evaluate'
import type { TestEvent } from './events'
import type { Sample } from './log'
import { roomsOf } from './outlook'
import { findTestMethod } from './methods/registry'
import type { NumberWords, TestMethod, TestNumber } from './methods/define'
import type { RowNote } from './rows'

/** What a pack is tested by, as it is kept with it. */
export interface PackTest {
  method: string
  parameters: Record<string, unknown>
  section: Record<string, unknown>
  gauge: Record<string, unknown>
  rule?: 'guarded' | 'simple'
}

/** An evaluation in words, as a person reads it on a screen, in the record and on a certificate. */
export interface TestEvaluation {
  method: string
  verdict: BandVerdict | 'incomplete'
  sentence: string
  phases: { key: string; title: string; from: number; to: number }[]
  numbers: {
    key: string
    title: string
    text: string
    formula: string
    verdict: BandVerdict | null
  }[]
  /** what was left out of the log, or found missing in it */
  notes: { kind: RowNote['kind']; t: number; count: number; sentence: string }[]
  needed: number | null
  /** while it runs: how far each number may still go and be accepted */
  outlook?: string[]
}

const noteSentences: Record<RowNote['kind'], string> = {
  duplicate: 'Rows with a time already taken were left out.',
  'clock-jump': 'Rows whose clock ran backward were left out.',
  spike: 'Single rows far off their neighbours were left out.',
  gap: 'Rows are missing.',
}

/** A value in the unit a person reads it in. */
export function sayValue(value: number, unit: string): string {
  switch (unit) {
    case 'Pa':
      return showQuantity(value, 'pressure', 'kPa', 4)
    case 'Pa/h':
      return `${showQuantity(value, 'pressure', 'kPa', 3)}/h`
    case 's':
      return showDuration(value)
    case 'm':
      return showQuantity(value, 'length', 'mm', 3)
    case 'N':
      return showQuantity(value, 'force', 'kN', 3)
    case 'L/h':
      // What a small pipe leaks is read in millilitres, not in zeros.
      return Math.abs(value) < 0.05 && unitShown('L/h') === 'L/h'
        ? `${showNumber(value * 1000, 3)} mL/h`
        : showQuantity(value / 3.6e6, 'flow', 'L/h', 3)
    case '':
      return `${showNumber(value * 100, 3)} %`
    default:
      return `${showNumber(value, 3)} ${unit}`
  }
}

function rowOf(method: TestMethod, key: string, n: TestNumber): TestEvaluation['numbers'][number] | null {
  if (n.value === null) return null
  const { title, formula, bound, flag }: NumberWords = method.numbers[key] ?? { title: key, formula: '' }
  const sure = n.uncertainty ? `, ±\u00a0${sayValue(n.uncertainty, n.unit)}` : ''
  const limit = n.limit === undefined || !bound ? '' : `${bound} ${sayValue(n.limit, n.unit)}; `
  return {
    key,
    title,
    text: flag ? (n.value ? 'yes' : 'no') : sayValue(n.value, n.unit),
    formula: `${limit}${formula}${sure}`,
    verdict: n.verdict ?? null,
  }
}

/** How far the numbers of a running test may still go, in words. */
const outlookOf = (method: TestMethod, result: TestResult): string[] =>
  roomsOf(method, result.numbers, result.phases.at(-1)?.key ?? null).map(({ title, unit, way, by }) =>
    by > 0
      ? `${title}: may still ${way} by ${sayValue(by, unit)}.`
      : `${title}: by now not accepted beyond doubt.`,
  )

/** A result in words. */
export function describeTest(result: TestResult): TestEvaluation {
  const method = findTestMethod(result.method)
  return {
    method: result.method,
    verdict: result.verdict,
    sentence: [result.sentence, ...result.cautions].join(' '),
    phases: result.phases.map((p) => ({ ...p, title: method.phases[p.key] ?? p.key })),
    numbers: Object.entries(result.numbers).flatMap(([key, n]) => rowOf(method, key, n) ?? []),
    notes: result.notes.map((n) => ({ ...n, sentence: noteSentences[n.kind] })),
    needed: result.needed,
    ...(result.verdict === 'incomplete' ? { outlook: outlookOf(method, result) } : {}),
  }
}

/** Evaluates a log by what its pack is tested by. @throws Problem naming what is missing */
export function evaluateLog(
  test: PackTest,
  samples: readonly Sample[],
  events: readonly TestEvent[] = [],
): TestEvaluation {
  if (samples.length < 2) throw new Problem('bad-rows', 'A log has at least two rows.', 'rows')
  return describeTest(evaluateTest({ ...requestFor({ ...test, events }), rows: samples }))
}
