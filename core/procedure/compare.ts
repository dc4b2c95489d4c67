import type { Procedure } from './types'

/** One thing that differs between two revisions. */
export interface Difference {
  /** what it stands in: a step, a fact, a table … */
  part: 'document' | 'fact' | 'option' | 'table' | 'drawing' | 'step'
  key: string
  title: string
  /** the field that differs; null where the whole was added or removed */
  field: string | null
  before: string | null
  after: string | null
}

type Keyed = { key: string; title: string } & Record<string, unknown>

const write = (value: unknown): string =>
  typeof value === 'string'
    ? value
    : value === undefined
      ? ''
      : Array.isArray(value)
        ? value.map(write).join('; ')
        : typeof value === 'object' && value !== null
          ? Object.entries(value)
              .map(([k, v]) => `${k}: ${write(v)}`)
              .join(', ')
          : String(value)

/** Leaves of an object by their path, lists as a whole where they hold plain values. */
function leaves(value: unknown, path = ''): Map<string, string> {
  const out = new Map<string, string>()
  if (
    typeof value !== 'object' ||
    value === null ||
    (Array.isArray(value) && value.every((v) => typeof v !== 'object'))
  )
    return out.set(path, write(value))
  for (const [key, inner] of Object.entries(value))
    for (const [k, v] of leaves(inner, path ? `${path}.${key}` : key)) out.set(k, v)
  return out
}

function fields(part: Difference['part'], a: Keyed, b: Keyed): Difference[] {
  const [before, after] = [leaves(a), leaves(b)]
  return [...new Set([...before.keys(), ...after.keys()])]
    .filter((f) => before.get(f) !== after.get(f))
    .map((field) => ({
      part,
      key: b.key,
      title: b.title,
      field,
      before: before.get(field) ?? null,
      after: after.get(field) ?? null,
    }))
}

function lists(part: Difference['part'], a: readonly Keyed[], b: readonly Keyed[]): Difference[] {
  const find = (list: readonly Keyed[], key: string) => list.find((x) => x.key === key)
  return [
    ...b.flatMap((after) => {
      const before = find(a, after.key)
      return before
        ? fields(part, before, after)
        : [
            {
              part,
              key: after.key,
              title: after.title,
              field: null,
              before: null,
              after: write(after.instruction ?? after.title),
            },
          ]
    }),
    ...a
      .filter((before) => !find(b, before.key))
      .map((before) => ({
        part,
        key: before.key,
        title: before.title,
        field: null,
        before: write(before.instruction ?? before.title),
        after: null,
      })),
  ]
}

const stepsOf = (p: Procedure): Keyed[] =>
  p.stages.flatMap((stage) =>
    stage.steps.map((step, place) => ({ ...step, stage: stage.title, place: place + 1 }) as unknown as Keyed),
  )

/**
 * What one revision says otherwise than another: in the document, its facts, options, tables, drawings
 * and steps.
 */
export function compareProcedures(a: Procedure, b: Procedure): Difference[] {
  const head = (p: Procedure): Keyed => ({
    key: p.key,
    title: 'The document',
    name: p.title,
    revision: p.revision,
    material: p.material,
    basis: p.basis,
    cautions: p.cautions,
  })
  const keyed = (list: readonly unknown[]) => list as readonly Keyed[]
  return [
    ...fields('document', head(a), head(b)),
    ...lists('fact', keyed(a.facts), keyed(b.facts)),
    ...lists('option', keyed(a.options), keyed(b.options)),
    ...lists('table', keyed(a.tables), keyed(b.tables)),
    ...lists('drawing', keyed(a.drawings), keyed(b.drawings)),
    ...lists('step', stepsOf(a), stepsOf(b)),
  ]
}
