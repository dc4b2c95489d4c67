import type { EntryKind } from '../record/entry'
import type { Payload } from '../record/payload'
import { calculated } from './calculated'
import { choice } from './choice'
import { clock } from './clock'
import { confirm } from './confirm'
import { count } from './count'
import type { AnyCheck, CheckOf, RegisteredCheck } from './define'
import { density } from './density'
import { gathered } from './gathered'
import { levels } from './levels'
import { grout } from './grout'
import { lifts } from './lifts'
import { lot } from './lot'
import { mark } from './mark'
import { environment, measure } from './measure'
import { survey } from './survey'

/** Every kind of check that a procedure may ask. A new one is a file of its own and a line here. */
const kinds = {
  confirm,
  gathered,
  choice,
  measure,
  environment,
  mark,
  count,
  clock,
  lot,
  calculated,
  lifts,
  density,
  levels,
  survey,
  grout,
}

export type CheckKind = keyof typeof kinds
export type Check = CheckOf<(typeof kinds)[CheckKind]>

/** All laid out alike, written out: judging reads them by the hundred thousand. */
const registered = (d: AnyCheck): RegisteredCheck => ({
  kind: d.kind,
  subjects: d.subjects,
  schema: d.schema,
  answers: d.answers,
  takes: new Set(Object.keys(d.answers) as EntryKind[]),
  plain: d.plain,
  mayStand: d.mayStand,
  compile: d.compile,
  records: d.records,
  judge: d.judge,
  judgeAll: d.judgeAll,
  workOut: d.workOut,
  unanswered: d.unanswered,
  figures: d.figures,
  clock: d.clock,
  describe: d.describe,
})

const all: readonly RegisteredCheck[] = (Object.values(kinds) as unknown as AnyCheck[]).map(registered)
export const checkKinds = Object.fromEntries(all.map((d) => [d.kind, d])) as Readonly<
  Record<CheckKind, RegisteredCheck>
>

/** The definition of a check's kind. */
export const definitionOf = (check: { kind: string }): RegisteredCheck => checkKinds[check.kind as CheckKind]

/** Entry kinds that answer a check (the others ask, decide, remark or correct), with their payloads. */
export const answerPayloads: Partial<Record<EntryKind, Payload>> = Object.assign(
  {},
  ...all.map((d) => d.answers),
)
export const answering: ReadonlySet<EntryKind> = new Set(Object.keys(answerPayloads) as EntryKind[])

/** Whether a person answers it; what is worked out asks nobody. */
export const isAnswered = (check: { kind: string }): boolean => !definitionOf(check).workOut

/** Of a check that is a clock: what is done when it has run, and what it holds back. */
export const clockOf = (check: { kind: string }) => definitionOf(check).clock?.(check) ?? null

/** Whether it only waits: a clock after which nobody has to do anything. */
export const onlyWaits = (check: { kind: string }): boolean => clockOf(check)?.action === null
