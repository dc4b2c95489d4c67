import { standing } from '../judgement/standing'
import type { Entry } from '../record/entry'
import type { LogMap } from './log-map'
import { marksOf, type Mark } from './marks'
import type { TestEvaluation } from './report'

/** One run of a test, from its start to what was signed of it. */
export interface TestRun {
  /** ms */
  startedAt: number
  startedBy: string
  /** rows that were open, and why it was started all the same */
  open: string[]
  reason: string | null
  /** of a run after another: what was done in between */
  since: string | null
  log: { file: string; map: Partial<LogMap> | null; reason: string | null; by: string } | null
  evaluation: TestEvaluation | null
  marks: Mark[]
  /** who came to witness it, and when */
  present: { person: string; at: number }[]
  signatures: { name: string; image: string; digest: string; role: string; at: number }[]
}

const textOr = (value: unknown): string | null => (typeof value === 'string' && value ? value : null)

/** All runs of a pack, the first first. A repeat belongs to the same pack, and both are kept. */
export function runsOf(entries: readonly Entry[]): TestRun[] {
  const stands = standing(entries)
  const starts = stands.flatMap((e, i) => (e.kind === 'start' ? [i] : []))
  return starts.map((from, n): TestRun => {
    const part = stands.slice(from, starts[n + 1] ?? stands.length)
    const [start] = part as [Entry]
    const log = part.findLast((e) => e.kind === 'run')
    return {
      startedAt: start.recordedAt,
      startedBy: start.person,
      open: (start.payload.open as string[] | undefined) ?? [],
      reason: textOr(start.payload.reason),
      since: textOr(start.payload.since),
      log: log
        ? {
            file: String(log.payload.file),
            map: (log.payload.map as Partial<LogMap> | undefined) ?? null,
            reason: textOr(log.payload.reason),
            by: log.person,
          }
        : null,
      evaluation: (part.findLast((e) => e.kind === 'evaluation')?.payload ?? null) as TestEvaluation | null,
      marks: marksOf(part),
      present: part
        .filter((e) => e.kind === 'attendance' && e.payload.present !== false)
        .map((e) => ({ person: e.person, at: e.recordedAt })),
      signatures: part
        .filter((e) => e.kind === 'signature')
        .map((e) => ({
          name: String(e.payload.name),
          image: String(e.payload.image),
          digest: String(e.payload.digest),
          ...{ role: e.role, at: e.recordedAt },
        })),
    }
  })
}
