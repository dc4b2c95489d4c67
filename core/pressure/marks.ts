import { standing } from '../judgement/standing'
import type { Entry } from '../record/entry'
import { eventKinds, type TestEvent, type TestEventKind } from './events'
import type { TestMethod } from './methods/define'

/** What people mark on a trace: what the methods read, and what only people do. */
export const markKinds = [...eventKinds, 'pump-on', 'leak-found'] as const
export type MarkKind = (typeof markKinds)[number]

export const markWords: Readonly<Record<MarkKind, string>> = {
  reached: 'Test pressure reached',
  'pump-on': 'Pump on',
  'pump-off': 'Pump off',
  lowering: 'Lowering begins',
  lowered: 'Lowered',
  vented: 'Air let out',
  paused: 'Paused',
  resumed: 'Goes on',
  'leak-found': 'Leak found',
  end: 'Test ended',
}

export interface Mark {
  /** the entry that holds it */
  id: string
  kind: MarkKind
  /** ms */
  at: number
  by: string
}

/** Marks of the run that is on, or ran last, in order of time. */
export function marksOf(entries: readonly Entry[]): Mark[] {
  const stands = standing(entries)
  const start = stands.findLastIndex((e) => e.kind === 'start')
  return stands
    .slice(start + 1)
    .filter((e) => e.kind === 'event')
    .map((e) => ({
      id: e.id,
      kind: e.payload.kind as MarkKind,
      at: Date.parse(String(e.payload.at)),
      by: e.person,
    }))
    .sort((a, b) => a.at - b.at)
}

/** Marks as events of a log that began then: those that a method reads. */
export const eventsOf = (marks: readonly Mark[], startedAt: number): TestEvent[] =>
  marks
    .filter((m) => (eventKinds as readonly string[]).includes(m.kind))
    .map((m) => ({ t: (m.at - startedAt) / 1000, kind: m.kind as TestEventKind }))

/** Whether a method lowers the pressure on purpose. */
const lowers = (method: TestMethod) => 'lowering' in method.phases || 'reduction' in method.phases

/** What can be marked next, in the order in which a test goes. */
export function marksNow(method: TestMethod, marks: readonly Mark[]): MarkKind[] {
  const kinds = new Set(marks.map((m) => m.kind))
  if (kinds.has('end')) return []
  const last = (of: readonly MarkKind[]) => marks.findLast((m) => of.includes(m.kind))?.kind
  if (last(['paused', 'resumed']) === 'paused') return ['resumed', 'leak-found', 'end']
  const out: MarkKind[] = []
  if (!kinds.has('reached')) out.push('reached')
  if (!method.air) out.push(last(['pump-on', 'pump-off']) === 'pump-on' ? 'pump-off' : 'pump-on', 'vented')
  if (lowers(method) && !kinds.has('lowered')) out.push(kinds.has('lowering') ? 'lowered' : 'lowering')
  return [...out, 'paused', 'leak-found', 'end']
}

/**
 * Why a mark cannot be set; null when it can. Its time lies in the run, not in what is still to come.
 *
 * @param begun ms when the run began
 */
export function checkMark(
  method: TestMethod,
  marks: readonly Mark[],
  kind: MarkKind,
  at: number,
  begun: number,
  now: number,
): string | null {
  if (!marksNow(method, marks).includes(kind)) return `"${markWords[kind]}" does not come now.`
  if (at > now + 60_000) return 'This time is still to come.'
  if (at < begun - 30 * 60_000) return 'This time lies before the test was started.'
  return null
}
