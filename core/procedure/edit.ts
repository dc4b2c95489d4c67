import { isScalar, parseDocument } from 'yaml'
import type { Check } from '../checks/registry'
import { Problem } from '../problem'
import type { Procedure } from './types'

export type Path = (string | number)[]

/** One value of a document that can be changed without touching the rest. */
export interface Editable {
  path: Path
  /** what it belongs to: a step, a table, a school */
  group: string
  title: string
  value: string
  /** for schools: the keys to choose from */
  choices?: { key: string; title: string }[]
}

const CHECK_FIELDS = [
  'formula',
  'min',
  'max',
  'earliest',
  'latest',
  'shelfLife',
  'openedLife',
  'uncertainty',
  'readings',
] as const
const fieldWords: Record<string, string> = {
  formula: 'formula',
  min: 'at least',
  max: 'at most',
  earliest: 'not before',
  latest: 'not after',
  shelfLife: 'shelf life',
  openedLife: 'once opened',
  uncertainty: 'uncertainty of a reading',
  readings: 'readings',
}

function ofCheck(check: Check, path: Path, group: string): Editable[] {
  const given = check as unknown as Record<string, unknown>
  const own = CHECK_FIELDS.filter((f) => given[f] !== undefined).map((f): Editable => ({
    path: [...path, f],
    group,
    title: fieldWords[f]!,
    value: String(given[f]),
  }))
  if (!('limits' in check) || !Array.isArray(check.limits)) return own
  return [
    ...check.limits.flatMap((l, i) =>
      (['min', 'max'] as const)
        .filter((side) => l[side] !== undefined)
        .map((side): Editable => ({
          path: [...path, 'limits', i, side],
          group,
          title: `${l.title ?? l.of}, ${fieldWords[side]}`,
          value: String(l[side]),
        })),
    ),
    ...own,
  ]
}

/**
 * The limits, marks and times of the steps, the defaults of schools, and the cells of tables, each with
 * its place in the document.
 */
export function editablesOf(procedure: Procedure): {
  limits: Editable[]
  schools: Editable[]
  tables: Editable[]
} {
  return {
    limits: procedure.stages.flatMap((stage, s) =>
      stage.steps.flatMap((step, i) => ofCheck(step.check, ['stages', s, 'steps', i, 'check'], step.title)),
    ),
    schools: procedure.options.map((o, i) => ({
      path: ['options', i, 'default'],
      group: o.title,
      title: 'default',
      value: o.default,
      choices: o.choices.map(({ key, title }) => ({ key, title })),
    })),
    tables: procedure.tables.flatMap((t, i) => {
      const at = (axis: number, k: number) => {
        const { values, unit } = t.axes[axis]!
        return typeof values[k] === 'number' && unit ? `${values[k]} ${unit}` : String(values[k])
      }
      if (t.axes.length === 1)
        return t.values.map((v, k): Editable => ({
          path: ['tables', i, 'values', k],
          group: t.title,
          title: at(0, k),
          value: String(v),
        }))
      return (t.values as (string | number)[][]).flatMap((row, r) =>
        row.map((v, c): Editable => ({
          path: ['tables', i, 'values', r, c],
          group: t.title,
          title: `${at(0, r)}, ${at(1, c)}`,
          value: String(v),
        })),
      )
    }),
  }
}

/**
 * Puts one value into a document and leaves everything else as it is written, comments included.
 *
 * @throws Problem `bad-procedure` when the document cannot be read, or has nothing at that place
 */
export function setInSource(source: string, path: Path, value: string): string {
  const document = parseDocument(source, { schema: 'core', logLevel: 'error' })
  const node = document.errors.length > 0 ? null : document.getIn(path, true)
  if (!isScalar(node))
    throw new Problem(
      'bad-procedure',
      'The document cannot be changed there: put it right in the text first.',
      path.join('.'),
    )
  const number = typeof node.value === 'number' && /^-?\d+(\.\d+)?$/.test(value.trim())
  node.value = number ? Number(value) : value
  return document.toString({ lineWidth: 0, flowCollectionPadding: true })
}
