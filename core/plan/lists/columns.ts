import { Problem } from '../../problem'
import { isDay } from '../../quantity/day'
import type { DimensionKey } from '../../quantity/dimension'
import { readQuantity } from '../../quantity/read'
import { nameKey } from '../../record/names'
import type { Column, Ground, ListedLine } from './define'

/** Words up to a length. */
export const words = (title: string, max: number, hint?: string): Column<string> => ({
  title,
  hint,
  read(text, field) {
    if (text.length > max) throw new Problem('too-long', `{${field}} has more than ${max} letters.`, field)
    return text
  },
})

/** A name that labels and numbers are made of. */
export const label = (title: string, pattern: RegExp, hint: string): Column<string> => ({
  title,
  hint,
  read(text, field) {
    if (!pattern.test(text))
      throw new Problem('bad-name', `"${text.slice(0, 40)}" is no {${field}}, such as ${hint}.`, field)
    return text
  },
})

interface Bounds {
  above?: number
  min?: number
}
/** A quantity as typed, in SI; a bare number is in the unit named. */
export const quantityOf = (
  title: string,
  dimension: DimensionKey,
  bareUnit: string,
  bounds: Bounds = {},
): Column<number> => ({
  title,
  hint: bareUnit,
  shown: { dimension, unit: bareUnit },
  read(text, field) {
    const value = readQuantity(text, dimension, { field, bareUnit })
    if (bounds.above !== undefined && !(value > bounds.above))
      throw new Problem('out-of-bounds', `{${field}} must be more than ${bounds.above}.`, field)
    if (bounds.min !== undefined && !(value >= bounds.min))
      throw new Problem('out-of-bounds', `{${field}} must be at least ${bounds.min}.`, field)
    return value
  },
})

/** A whole number from nothing up. */
export const wholeOf = (title: string, hint: string): Column<number> => ({
  title,
  hint,
  read(text, field) {
    if (!/^\d{1,6}$/.test(text)) throw new Problem('not-whole', `{${field}} must be a whole number.`, field)
    return Number(text)
  },
})

export const dayOf = (title: string): Column<string> => ({
  title,
  hint: '2026-03-09',
  read(text, field) {
    if (!isDay(text)) throw new Problem('not-a-day', `{${field}} must be a day such as 2026-03-09.`, field)
    return text
  },
})

export const oneOf = <const W extends string>(title: string, choices: readonly W[]): Column<W> => ({
  title,
  choices,
  read(text, field) {
    const found = choices.find((c) => c === text.toLowerCase())
    if (!found) throw new Problem('unknown-choice', `{${field}} must be one of ${choices.join(', ')}.`, field)
    return found
  },
})

export const optional = <T>(column: Column<T>): Column<T> & { optional: true } => ({
  ...column,
  optional: true,
})
export const fileOnly = <C extends Column>(column: C): C & { fileOnly: true } => ({
  ...column,
  fileOnly: true,
})

const known = <V>(
  title: string,
  what: string,
  of: (ground: Ground) => ReadonlyMap<string, V>,
  show: (value: V, key: string) => string,
): Column<V> => ({
  title,
  choices: (ground) => [...of(ground)].map(([key, value]) => show(value, key)),
  read(text, field, ground) {
    const found = of(ground).get(nameKey(text))
    if (found === undefined)
      throw new Problem('not-found', `there is no ${what} "${text.slice(0, 60)}"`, field)
    return found
  },
})

export const line: Column<ListedLine> = known(
  'Line',
  'line',
  (g) => g.lines,
  (l) => l.key,
)
export const crew: Column<string> = known(
  'Crew',
  'crew',
  (g) => g.crews,
  (name) => name,
)
export const gauge = known(
  'Gauge',
  'instrument',
  (g) => g.instruments,
  (i) => i.name,
)

/** The key of a procedure of the project, for joints or for reaches. */
export const system = (ofReach: boolean): Column<string> => ({
  title: 'Procedure',
  choices: (g) => [...g.systems].filter(([, s]) => s.ofReach === ofReach).map(([key]) => key),
  read(text, field, ground) {
    const found = ground.systems.get(text)
    if (!found)
      throw new Problem(
        'not-found',
        `"${text.slice(0, 60)}" is the key of no procedure of this project`,
        field,
      )
    if (found.ofReach !== ofReach)
      throw new Problem('unknown-choice', `"${text}" is for ${ofReach ? 'joints' : 'reaches'}`, field)
    return text
  },
})

/** Several as `key=value; key=value`. */
export const pairs = (title: string, hint: string): Column<Record<string, string>> => ({
  title,
  hint,
  read(text, field) {
    const out: Record<string, string> = {}
    for (const part of text.split(';').filter((p) => p.trim() !== '')) {
      const at = part.indexOf('=')
      const key = part.slice(0, Math.max(0, at)).trim()
      if (!/^[A-Za-z][\w.-]{0,59}$/.test(key) || key === '__proto__')
        throw new Problem(
          'bad-pair',
          `{${field}}: "${part.trim().slice(0, 60)}" is not of the form name=value.`,
          field,
        )
      if (Object.hasOwn(out, key)) throw new Problem('duplicate', `{${field}} says "${key}" twice.`, field)
      out[key] = part.slice(at + 1).trim()
    }
    return out
  },
})

/** @throws Problem naming `field` where a station does not lie on the line */
export function checkOn(line: ListedLine, station: number, field: string): void {
  if (station < line.from - 1e-9 || station > line.to + 1e-9)
    throw new Problem(
      'off-line',
      `${station} m does not lie on ${line.key}, ${line.from} to ${line.to} m`,
      field,
    )
}
