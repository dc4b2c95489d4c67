import { Problem } from '../problem'
import type { Procedure, ProcedureStep } from './types'

/** The two ends that a joint is made at, in the direction of the line. */
export const ends = ['upstream', 'downstream'] as const
export type End = (typeof ends)[number]

/** The key of a step at one end. */
export const atEnd = (key: string, end: End): string => `${key}@${end}`

/** The key that the document gives a step, without the end it is made at. */
export const plainKey = (key: string): string => key.split('@', 1)[0]!

/** The end that a step's key names, or null. */
export const endOf = (key: string): End | null => ends.find((end) => key.endsWith(`@${end}`)) ?? null

/** Whether two steps are of different ends: what is done at one says nothing of the other. */
export const ofOtherEnd = (a: { end: End | null }, b: { end: End | null }): boolean =>
  a.end !== null && b.end !== null && a.end !== b.end

type Stage = Procedure['stages'][number]

/** A step as it is made: one of a stage `each: end` stands twice, with its end in key and title. */
export interface MadeStep {
  stage: Stage
  step: ProcedureStep
  /** its title in the document, without its end */
  plainTitle: string
  end: End | null
  /** where it stands in the document */
  path: string
  stagePath: string
}

/** Keys with an end must fit where keys are stored. */
const LONGEST = 48

/**
 * The steps of a procedure in the order they are made: a stage `each: end` whole at the upstream
 * end, then whole at the downstream end.
 */
export function madeSteps(procedure: Procedure): MadeStep[] {
  return procedure.stages.flatMap((stage, s) => {
    const stagePath = `stages[${s}]`
    const at = (end: End | null) =>
      stage.steps.map((step, i): MadeStep => {
        const made = end ? { ...step, key: atEnd(step.key, end), title: `${step.title}, ${end} end` } : step
        return { stage, step: made, plainTitle: step.title, end, path: `${stagePath}.steps[${i}]`, stagePath }
      })
    return stage.each === 'end' ? ends.flatMap(at) : at(null)
  })
}

/** Finds steps by the key a document uses for them, as seen from a step of one end or of none. */
export class StepNames {
  /** the plain key of each step made at both ends, with its keys */
  readonly both = new Map<string, readonly string[]>()
  private readonly keys: ReadonlySet<string>

  constructor(made: readonly MadeStep[]) {
    this.keys = new Set(made.map(({ step }) => step.key))
    for (const { step, end } of made)
      if (end)
        this.both.set(
          plainKey(step.key),
          ends.map((e) => atEnd(plainKey(step.key), e)),
        )
  }

  /** Every step that a key means: from within an end the one of that end, from outside both. */
  all(key: string, from: End | null): readonly string[] {
    const both = this.both.get(key)
    if (!both) return this.keys.has(key) ? [key] : []
    return from ? [atEnd(key, from)] : both
  }

  /**
   * The one step that a key means, or the key itself where there is no such step.
   *
   * @throws Problem `bad-formula` from outside for a step that is made at each end
   */
  one(key: string, from: End | null): string {
    const found = this.all(key, from)
    if (found.length > 1)
      throw new Problem('bad-formula', `"${key}" is made at each end: say which, as ${found[0]}.`)
    return found[0] ?? key
  }
}

/** What of a stage made at each end cannot be kept. */
export const tooLongForEnds = (made: MadeStep): boolean =>
  made.end !== null && plainKey(made.step.key).length > LONGEST
