import type { JudgedSubject } from '../checks/define'
import type { Check } from '../checks/registry'
import type { ProcedureTable } from '../formula/table'
import type { DimensionKey } from '../quantity/dimension'

/** Who intervenes at a step: hold, witness, surveillance, review. */
export type InterventionPoint = 'H' | 'W' | 'S' | 'R'
export type FailureAction = 'rework' | 'recut' | 'replace' | 'reject' | 'consult'
export type FactSource = 'pipe' | 'fitting' | 'joint' | 'site' | 'project'

export interface ProcedureFact {
  key: string
  title: string
  /** a dimension, `word` (one of `choices`) or `flag` */
  dimension: DimensionKey | 'word' | 'flag'
  unit?: string
  from: FactSource
  min?: string
  max?: string
  choices?: string[]
  optional?: boolean
  /** what the form starts with, as text with a unit */
  default?: string
  /** a length by trade: 8 in is DN 200 */
  nominal?: boolean
  /** what a made-up joint has, for dry runs and comparisons; never put into a real one */
  example?: string | boolean
}

export interface ProcedureOption {
  key: string
  title: string
  choices: { key: string; title: string; reason: string }[]
  default: string
}

/** A step that is done neither too early nor too late: not by the clock but by how far the work is. */
export interface StepWindow {
  opens?: string
  /** what is said before it opens */
  early?: string
  closes?: string
  /** what is said once it has closed */
  late?: string
}

export interface ProcedureStep {
  key: string
  title: string
  instruction: string
  why?: string
  when?: string
  after?: string[]
  /** what has to be true of the record for it to be done at all, as of the moment it is done */
  window?: StepWindow
  /**
   * its answer stands at every joint of the crew that day: `shift`, or the key of a lot step (`lot` for the
   * one before it), as long as that lot is the same
   */
  once?: string
  point?: InterventionPoint
  onFailure?: { action: FailureAction; words: string }
  cautions?: string[]
  /** calculators that help at this step, with what of their inputs the joint already knows */
  aids?: { calculator: string; arguments?: Record<string, unknown> }[]
  /** the drawing shown at this step, and the part of it that the step is about: `socket#stab` */
  drawing?: string
  check: Check
}

export interface ProcedureStage {
  key: string
  title: string
  after?: 'pressure-test'
  /** its steps are made and judged at the upstream and at the downstream end, each for itself */
  each?: 'end'
  /** when the whole stage applies; in a stage made at each end it may name the `end` */
  when?: string
  steps: ProcedureStep[]
}

/**
 * One drawing of the joint: a family of the interface, fed with values worked out from facts, marks and
 * readings.
 */
export interface ProcedureDrawing {
  key: string
  /** the family, one of `drawingFamilies` */
  show: string
  title: string
  /** drawn once for each end, with what was recorded there */
  each?: 'end'
  /** the step whose readings it shows as they are typed */
  readings?: string
  values: Record<string, string>
}

export interface Procedure {
  key: string
  title: string
  revision: string
  /** what it is for; a joint when left out */
  subject?: JudgedSubject
  system: string
  material: string
  basis: string
  cautions: string[]
  facts: ProcedureFact[]
  options: ProcedureOption[]
  tables: ProcedureTable[]
  drawings: ProcedureDrawing[]
  /** said by a procedure none of whose steps has to wait before the pressure test */
  gate?: 'none'
  /** a stage `after: pressure-test` comes after it, and does not hold it back */
  stages: ProcedureStage[]
}
