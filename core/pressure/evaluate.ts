import type { BandRule } from '../calculators/guard-band'
import { readInputs } from '../calculators/define'
import { Problem } from '../problem'
import { eventAt, readEvents, type TestEvent } from './events'
import { readGauge, type Gauge } from './gauge'
import {
  runOf,
  type Outcome,
  type TestMethod,
  type TestNumber,
  type TestPhase,
  type TestVerdict,
} from './methods/define'
import { findTestMethod } from './methods/registry'
import { cleanRows, readRows, type Row, type RowNote } from './rows'
import { readSection, type Section } from './section'

/** A log and what it is to be held against, read and checked. */
export interface TestRequest {
  method: TestMethod
  parameters: Record<string, unknown>
  section: Section
  gauge: Gauge
  rule: BandRule
  rows: readonly Row[]
  events: readonly TestEvent[]
}

export interface TestResult {
  method: string
  verdict: TestVerdict
  sentence: string
  phases: TestPhase[]
  numbers: Record<string, TestNumber>
  notes: RowNote[]
  needed: number | null
  cautions: string[]
}

const keys = ['method', 'parameters', 'section', 'gauge', 'rule', 'rows', 'events']

const objectAt = (raw: unknown, key: string): Record<string, unknown> => {
  if (raw === undefined || raw === null) return {}
  if (typeof raw !== 'object' || Array.isArray(raw))
    throw new Problem('bad-input', `${key} must be an object.`, key)
  return raw as Record<string, unknown>
}

/** Reads a request as it comes. @throws Problem naming the parameter, the section's key, or the part */
export function readRequest(raw: unknown): TestRequest {
  const given = objectAt(raw, 'request')
  const rest = requestFor(given)
  return { ...rest, rows: readRows(given.rows) }
}

/**
 * Reads what a log is to be held against, without the log.
 *
 * @throws Problem naming the parameter, the section's key, or the part
 */
export function requestFor(given: Record<string, unknown>): Omit<TestRequest, 'rows'> {
  const stray = Object.keys(given).find((key) => !keys.includes(key))
  if (stray) throw new Problem('unknown-key', `A test has no "${stray.slice(0, 60)}".`, stray)
  const method = findTestMethod(given.method)
  const { rule } = given
  if (rule !== undefined && rule !== 'guarded' && rule !== 'simple')
    throw new Problem('unknown-choice', 'rule must be guarded or simple.', 'rule')
  return {
    method,
    parameters: readInputs(
      method.parameters,
      Object.keys(method.parameters),
      objectAt(given.parameters, 'parameters'),
    ),
    section: readSection(given.section ?? {}, method.section),
    gauge: readGauge(given.gauge),
    rule: (rule as BandRule | undefined) ?? 'guarded',
    events: readEvents(given.events),
  }
}

const worst = (numbers: Record<string, TestNumber>): 'accept' | 'reject' | 'too-close' => {
  const verdicts = Object.values(numbers).map((n) => n.verdict)
  return verdicts.includes('reject') ? 'reject' : verdicts.includes('too-close') ? 'too-close' : 'accept'
}

const lower = (text: string) => text[0]!.toLowerCase() + text.slice(1)

function sentenceOf(method: TestMethod, verdict: TestVerdict, { numbers, waits }: Outcome): string {
  const named = (of: string) =>
    Object.keys(numbers)
      .filter((key) => numbers[key]!.verdict === of)
      .map((key) => lower(method.numbers[key]?.title ?? key))
      .join(', ')
  if (verdict === 'accept') return 'Every number is within its limit.'
  if (verdict === 'reject') return `Not accepted: ${named('reject')}.`
  if (verdict === 'incomplete') return waits ?? 'It has not run out yet.'
  return `Too close to call: ${named('too-close')}. Hold longer, or repeat with a better gauge.`
}

/** Evaluates a log by its method: cleaned, cut at its end, judged number by number. */
export function evaluateTest(request: TestRequest): TestResult {
  const { method } = request
  const cleaned = cleanRows(request.rows)
  const end = eventAt(request.events, 'end') ?? Infinity
  const rows = cleaned.rows.filter((r) => r.t <= end)
  if (rows.length < 2) throw new Problem('bad-rows', 'Fewer than two rows are left of the log.', 'rows')
  const outcome = method.evaluate(runOf({ ...request, rows }) as never)
  const found = worst(outcome.numbers)
  const verdict: TestVerdict = outcome.running && found !== 'reject' ? 'incomplete' : found
  return {
    method: method.key,
    verdict,
    sentence: sentenceOf(method, verdict, outcome),
    phases: outcome.phases,
    numbers: outcome.numbers,
    notes: cleaned.notes,
    needed: verdict === 'incomplete' ? outcome.needed : null,
    cautions: outcome.cautions ?? [],
  }
}
