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
}

interface Measured {
  quantity: DimensionKey
  unit: string
  readings?: number
  places?: string[]
  limits: Limit[]
  /** expanded uncertainty when no instrument is named */
  uncertainty?: string
  instrument?: string
  calculator?: { key: string; readings: string; arguments?: Record<string, unknown> }
}

export type Check =
  | { kind: 'confirm'; question: string; photo?: boolean }
  | { kind: 'choice'; question: string; choices: { key: string; title: string; conforms: boolean; reason?: string }[] }
  | ({ kind: 'measure' } & Measured)
  | ({ kind: 'environment' } & Measured)
  | { kind: 'mark'; formula: string; unit: string; from: string; question: string }
  | { kind: 'count'; question: string; min?: string; max?: string }
  | { kind: 'clock'; from: string; earliest?: string; latest?: string; action?: string; gate?: 'pressure-test' }
  | { kind: 'lot'; question: string; shelfLife?: string }
  | { kind: 'calculated'; formula: string; quantity: DimensionKey; unit: string; min?: string; max?: string }

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
  /** what the drawing shows for this step */
  drawing?: string
  check: Check
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
  stages: { key: string; title: string; steps: ProcedureStep[] }[]
}
