import type { CompiledProcedure, CompiledStep } from '../procedure/compile'
import { ofOtherEnd } from '../procedure/ends'
import type { Entry } from '../record/entry'
import type { NcrState } from './decisions'
import { heldAs, holdOpening, workPast, type HoldOpening } from './hold'
import { settle, type Judging } from './judging'
import type { Draft } from './types'

type Opening = HoldOpening & { index: number; title: string }

/** The hold points of one subject that apply, and since when each is open; Infinity while it is not. */
export class Holds {
  private readonly all: Opening[] = []

  /**
   * @param byStep standing entries by step index
   * @param applies by step index, whether it applies to this subject
   */
  constructor(
    private readonly compiled: CompiledProcedure,
    private readonly byStep: readonly (readonly Entry[])[],
    private readonly applies: readonly boolean[],
  ) {}

  /** A step is a hold point here. */
  add(hold: CompiledStep): void {
    if (!this.applies[hold.index]) return
    const upTo: CompiledStep[] = []
    for (let i = 0; i <= hold.index; i++) {
      const step = this.compiled.steps[i]!
      if (this.applies[i] && !ofOtherEnd(step, hold)) upTo.push(step)
    }
    this.all.push({ index: hold.index, title: hold.title, ...holdOpening(upTo, this.byStep) })
  }

  private at(index: number): Opening {
    return this.all.find((h) => h.index === index)!
  }

  /** The title of the hold point that a step waits behind. */
  before(step: CompiledStep): string | null {
    const hold = this.all.find(
      (h) => h.index < step.index && h.since === Infinity && !ofOtherEnd(this.compiled.steps[h.index]!, step),
    )
    return hold ? hold.title : null
  }

  /** What was recorded at each of them. */
  entries(): (readonly Entry[])[] {
    return this.all.map((h) => this.byStep[h.index]!)
  }

  /** Work recorded past a hold point that nobody had released is a nonconformance of that hold point. */
  passed(step: CompiledStep, ncr: NcrState | null, out: Judging): Draft | null {
    const past = workPast(this.compiled, this.byStep, step, this.at(step.index).since, ncr)
    if (!past) return null
    out.entry = past.entry
    out.computed = null
    settle(out, 'rejected', `"${past.title}" was done past this hold point, which was not released.`)
    return {
      step: step.key,
      kind: 'past-hold',
      criterion: 'Released before any later step.',
      reading: `"${past.title}" was recorded without release.`,
      entry: past.entry,
    }
  }

  /**
   * What the release of a hold point makes of what its own check says.
   *
   * @param tested as in {@link heldAs}
   */
  apply(step: CompiledStep, out: Judging, tested: number | null | undefined): void {
    const { state, sentence, counts } = heldAs(out, this.at(step.index), tested)
    if (!counts) out.release = { ...out.release, state: 'none' }
    settle(out, state, sentence)
  }
}
