import type { Change } from '#core/judgement/ahead'
import type { Projection } from '#core/judgement/projection'
import type { Occasion } from '#core/plan/occasions'
import { readOccasions } from './begun'
import { projectionColumns, readProjection, type ProjectionRow } from './projection'

/** What is worked by a procedure that it has pinned: the same columns in every table of such. */
export interface Worked extends Projection {
  id: string
  project: string
  alignment: string
  crew: string
  /** key of the procedure it is planned for */
  system: string
  procedure: string | null
  facts: Record<string, number | string | boolean>
  openedAt: string | null
  /** when somebody first recorded something of it */
  begunAt: string | null
  occasions: readonly Occasion[]
  /** rules for new crews that its crew had worked its way out of */
  passed: readonly string[]
  changes: readonly Change[]
}

export interface WorkedRow extends ProjectionRow {
  id: string
  project: string
  alignment: string
  crew: string
  system: string
  procedure_id: string | null
  facts: string
  opened_at: Date | null
  begun_at: Date | null
  occasions: string
  passed: string
}

export const workedColumns = [
  'id',
  'project',
  'alignment',
  'crew',
  'system',
  'procedure_id',
  'facts',
  'opened_at',
  'begun_at',
  'occasions',
  'passed',
  ...projectionColumns,
]

export const readWorked = (r: WorkedRow): Worked => ({
  id: r.id,
  project: r.project,
  alignment: r.alignment,
  crew: r.crew,
  system: r.system,
  procedure: r.procedure_id,
  facts: JSON.parse(r.facts),
  openedAt: r.opened_at?.toISOString() ?? null,
  begunAt: r.begun_at?.toISOString() ?? null,
  occasions: readOccasions(r.occasions),
  passed: JSON.parse(r.passed),
  ...readProjection(r),
})
