import { Problem } from '../problem'
import type { InterventionPoint } from '../procedure/types'

/** What one project hands to another: how work is judged, and what it is made of. No records, no people. */
export interface ProjectTemplate {
  format: 'vet-line-template'
  version: 1
  /** name of the project that it is of */
  of: string
  /** sources of procedures, the issued revision of each */
  procedures: string[]
  /** points of the plan that differ from the procedures', by procedure and step */
  plan: Record<string, Record<string, InterventionPoint | null>>
  /** schools chosen, by procedure */
  schools: Record<string, Record<string, string>>
  /** the articles as a list in CSV */
  articles: string
}

const LONGEST = 400_000
const MOST_PROCEDURES = 200
const points: readonly unknown[] = ['H', 'W', 'S', 'R', null]

type Two = Record<string, Record<string, unknown>>
function twoDeep(raw: unknown, field: string, good: (leaf: unknown) => boolean): Two {
  const isObject = (v: unknown): v is Record<string, unknown> =>
    typeof v === 'object' && v !== null && !Array.isArray(v)
  if (!isObject(raw) || !Object.values(raw).every((v) => isObject(v) && Object.values(v).every(good)))
    throw new Problem('bad-template', `"${field}" of this template is not as templates have it.`, 'file')
  return raw as Two
}

/**
 * Reads a template as another Vet Line wrote it.
 *
 * @throws Problem `bad-template` naming `file`
 */
export function readTemplate(text: string): ProjectTemplate {
  let raw: Partial<ProjectTemplate> | null
  try {
    raw = JSON.parse(text) as Partial<ProjectTemplate> | null
  } catch {
    raw = null
  }
  if (typeof raw !== 'object' || raw?.format !== 'vet-line-template')
    throw new Problem('bad-template', 'This is not a template of a project.', 'file')
  if (raw.version !== 1)
    throw new Problem('bad-template', 'This template is of a newer Vet Line than this one.', 'file')
  const { of, procedures, articles } = raw
  if (typeof of !== 'string' || typeof articles !== 'string' || !Array.isArray(procedures))
    throw new Problem('bad-template', 'Parts of this template are missing.', 'file')
  if (
    procedures.length > MOST_PROCEDURES ||
    !procedures.every((p) => typeof p === 'string' && p.length <= LONGEST)
  )
    throw new Problem(
      'bad-template',
      'The procedures of this template are not as templates have them.',
      'file',
    )
  return {
    format: raw.format,
    version: 1,
    of: of.slice(0, 160),
    procedures,
    articles,
    plan: twoDeep(raw.plan ?? {}, 'plan', (v) => points.includes(v)) as ProjectTemplate['plan'],
    schools: twoDeep(
      raw.schools ?? {},
      'schools',
      (v) => typeof v === 'string',
    ) as ProjectTemplate['schools'],
  }
}
