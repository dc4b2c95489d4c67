import { readdirSync, readFileSync } from 'node:fs'
import { parse } from 'yaml'
import type { CompiledProcedure } from '../core/procedure/compile'
import { readFacts } from '../core/procedure/facts'
import type { FactValue } from '../core/formula/formula'
import { atEnd, endOf, ends } from '../core/procedure/ends'
import { loadProcedure } from '../core/procedure/load'
import { readQuantity } from '../core/quantity/read'
import type { EntryKind } from '../core/record/entry'

/** One line of a sample record: what was answered at a step. */
export interface SampleAnswer {
  step: string
  answer?: 'yes' | 'no'
  choice?: string
  values?: string[]
  count?: number
  lot?: { lot: string; made?: string; expires?: string; opened?: string }
  /** clocks: how long after their start */
  afterStart?: string
  /** hold points: released, or refused with this reason */
  release?: true
  refusal?: string
}

/**
 * A record that must be rejected at its step, with what the reason says; where it differs from the
 * conforming one.
 */
export interface RejectedSample extends SampleAnswer {
  says: string
  facts?: Record<string, unknown>
  schools?: Record<string, string>
  with?: SampleAnswer[]
}

export interface SystemSample {
  procedure: string
  facts: Record<string, unknown>
  /** marks worked out by hand for these facts */
  marks: Record<string, string>
  conforming: SampleAnswer[]
  rejecting: RejectedSample[]
}

/** An entry to be, minutes after the first. */
export interface SampleEntry {
  step: string
  kind: EntryKind
  payload: Record<string, unknown>
  by: 'lead' | 'inspector'
  minute: number
}

const samples = new URL('../samples/systems/', import.meta.url)
const procedures = new URL('../procedures/', import.meta.url)

export const systemKeys = readdirSync(samples)
  .filter((f) => f.endsWith('.yaml'))
  .map((f) => f.slice(0, -5))
  .sort()
export const procedureSource = (key: string) => readFileSync(new URL(`${key}.yaml`, procedures), 'utf8')
export const readSample = (key: string): SystemSample =>
  parse(readFileSync(new URL(`${key}.yaml`, samples), 'utf8'), { schema: 'core' }) as SystemSample

export interface System {
  key: string
  compiled: CompiledProcedure
  sample: SystemSample
  facts: Record<string, FactValue>
}

export function loadSystem(key: string): System {
  const compiled = loadProcedure(procedureSource(key))
  const sample = readSample(key)
  return { key, compiled, sample, facts: readFacts(compiled.procedure, sample.facts) }
}

/** What an answer is written as: its kind, its payload, and what else is recorded with it. */
function written(
  compiled: CompiledProcedure,
  a: SampleAnswer,
): { kind: EntryKind; payload: Record<string, unknown>; by: 'lead' | 'inspector' }[] {
  const { check } = compiled.steps[compiled.stepIndex.get(a.step)!]!.step
  const lead = (kind: EntryKind, payload: Record<string, unknown>) => ({ kind, payload, by: 'lead' as const })
  if (a.release || a.refusal !== undefined) {
    const decided = a.release
      ? { kind: 'release' as const, payload: {}, by: 'inspector' as const }
      : { kind: 'refusal' as const, payload: { reason: a.refusal }, by: 'inspector' as const }
    return [lead('confirmation', { answer: 'yes' }), lead('request', {}), decided]
  }
  if (a.values) {
    if (!('quantity' in check)) throw new Error(`${a.step} takes no readings.`)
    return [
      lead('reading', {
        values: a.values.map((v) => readQuantity(v, check.quantity, { field: a.step, bareUnit: check.unit })),
        typed: a.values,
      }),
    ]
  }
  if (a.choice !== undefined) return [lead('choice', { choice: a.choice })]
  if (a.count !== undefined) return [lead('count', { count: a.count })]
  if (a.lot) return [lead('lot', { ...a.lot })]
  return [lead(check.kind === 'clock' ? 'clock' : 'confirmation', { answer: a.answer ?? 'yes' })]
}

/**
 * Answers by the keys of the steps as they are made: one without an end is given at both, unless that end
 * has its own.
 */
export function atEnds(compiled: CompiledProcedure, answers: readonly SampleAnswer[]): SampleAnswer[] {
  const { both } = compiled.names
  if (both.size === 0) return [...answers]
  const own = new Set(answers.map((a) => a.step))
  const out = answers.flatMap((a) =>
    both.has(a.step)
      ? ends.map((end) => ({ ...a, step: atEnd(a.step, end) })).filter((x) => !own.has(x.step))
      : [a],
  )
  return out.sort((a, b) => compiled.stepIndex.get(a.step)! - compiled.stepIndex.get(b.step)!)
}

/**
 * Where a record that must be rejected is: at the second end, where its step is made at each and it names
 * none.
 */
export const rejectedAt = (compiled: CompiledProcedure, r: RejectedSample): string =>
  compiled.names.both.has(r.step) && !endOf(r.step) ? atEnd(r.step, 'downstream') : r.step

/** Answers as entries in time: a minute apart, clocks as long after their start as the answer says. */
export function sampleEntries(compiled: CompiledProcedure, answers: readonly SampleAnswer[]): SampleEntry[] {
  const out: SampleEntry[] = []
  let minute = 0
  for (const answer of atEnds(compiled, answers)) {
    const { from } = compiled.steps[compiled.stepIndex.get(answer.step)!]!
    const start =
      from >= 0
        ? out.findLast((e) => e.step === compiled.steps[from]!.step.key && e.by === 'lead')
        : undefined
    minute =
      answer.afterStart !== undefined && start
        ? start.minute + readQuantity(answer.afterStart, 'time') / 60
        : minute + 1
    for (const w of written(compiled, answer)) {
      out.push({ step: answer.step, ...w, minute })
      minute +=
        w.kind === 'confirmation' && (answer.release || answer.refusal) ? 0.1 : w.kind === 'request' ? 5 : 0
    }
    // A clock may be answered well after it has run; the next step does not go back in time.
    minute = Math.max(minute, out.at(-1)!.minute)
  }
  return out
}

/**
 * The conforming answers with some of them replaced; answers of steps that were not met are put in at
 * their place.
 */
export function replaceAnswers(
  compiled: CompiledProcedure,
  answers: readonly SampleAnswer[],
  changes: readonly SampleAnswer[],
): SampleAnswer[] {
  const [made, news] = [atEnds(compiled, answers), atEnds(compiled, changes)]
  const kept = made.filter((a) => !news.some((c) => c.step === a.step))
  const at = (a: SampleAnswer) => compiled.stepIndex.get(a.step)!
  return [...kept, ...news].sort((a, b) => at(a) - at(b))
}
