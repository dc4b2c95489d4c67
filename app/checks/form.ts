import type { Check } from '#core/checks/registry'
import type { CompiledStep } from '#core/procedure/compile'
import type { Slots } from '#core/formula/formula'
import type { StepJudgement } from '#core/judgement/types'
import type { Entry, EntryKind } from '#core/record/entry'
import type { Sheet } from '~/composables/useWorksheet'

/** What a person answers at a step, as it will be entered. */
export interface Answer {
  kind: EntryKind
  payload: Record<string, unknown>
  instrument?: string | null
  /** the step it is given at, when that is not the one at hand */
  step?: string
}

/** What the working form of a check is given. */
export interface CheckProps {
  step: CompiledStep
  judged: StepJudgement
  slots: Slots
  sheet: Sheet
  entries: Entry[]
  now: number
  busy: boolean
  /** readings typed before and not recorded */
  draft?: string[]
}
export type CheckEmits = {
  answer: [Answer[]]
  /** an answer that the primary button would record */
  ready: [Answer | null]
  /** readings as they are typed */
  live: [number[] | null]
  submit: []
  draft: [string[]]
}

/** What a form offers to keys and to whoever takes readings back; each of them where it makes sense. */
export interface CheckForm {
  say?(answer: 'yes' | 'no'): void
  choose?(index: number): void
  clear?(): void
  put?(texts: string[]): void
  /** the next answer takes the place of an entry, or answers it */
  replace?(entry: string): void
}

/** The check of a step as the kind that a form is made for. */
export const checkOf = <K extends Check['kind']>(step: CompiledStep) =>
  step.step.check as Extract<Check, { kind: K }>
