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

export interface TableAxis {
  dimension: DimensionKey | 'word'
  unit?: string
  mode: 'exact' | 'banded' | 'interpolated'
  values: (string | number)[]
}

export interface ProcedureTable {
  key: string
  title: string
  dimension: DimensionKey
  unit?: string
  axes: TableAxis[]
  values: (string | number)[] | (string | number)[][]
}

export interface Limit {
  /** each, mean, min, max, range, or an output of the check's calculator */
  of: string
  title?: string
  min?: string
  max?: string
  /** unit for display when it differs from the reading's */
  unit?: string
  /** a default that the project has to confirm: practice gives no figure */
  basis?: 'project'
}

interface Measured {
  quantity: DimensionKey
  unit: string
  /** how many; a formula where the joint decides (one a bolt) */
  readings?: number | string
  places?: string[]
  limits: Limit[]
  /** expanded uncertainty when no instrument is named */
  uncertainty?: string
  instrument?: string
  /** `readings` names the input that takes them; the other arguments are formulas, words or lists */
  calculator?: { key: string; readings: string; arguments?: Record<string, unknown> }
}

export interface ProcedureChoice {
  key: string
  title: string
  /** whether it conforms; a formula where the joint decides */
  conforms: boolean | string
  reason?: string
}

export type Check =
  | { kind: 'confirm'; question: string; photo?: boolean }
  | { kind: 'choice'; question: string; choices: ProcedureChoice[] }
  | ({ kind: 'measure' } & Measured)
  | ({ kind: 'environment' } & Measured)
  | { kind: 'mark'; formula: string; unit: string; from: string; question: string }
  | { kind: 'count'; question: string; min?: string; max?: string; basis?: 'project' }
  | {
      kind: 'clock'
      from: string
      earliest?: string
      latest?: string
      action?: string
      gate?: 'pressure-test'
      basis?: 'project'
    }
  | {
      kind: 'lot'
      question: string
      shelfLife?: string
      /** whole months from production, by the calendar */ shelfMonths?: string
      openedLife?: string
    }
  | {
      kind: 'calculated'
      formula: string
      quantity: DimensionKey
      unit: string
      min?: string
      max?: string
      basis?: 'project'
    }

export type CheckKind = Check['kind']

export interface ProcedureStep {
  key: string
  title: string
  instruction: string
  why?: string
  when?: string
  after?: string[]
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
