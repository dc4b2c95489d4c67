import type { FactValue } from '../../formula/formula'
import { Problem } from '../../problem'
import { readFacts } from '../../procedure/facts'
import type { Procedure } from '../../procedure/types'
import { SAME_STATION } from '../stretch'
import { checkOn, crew, label, line, optional, pairs, quantityOf, system } from './columns'
import { defineList } from './define'

export const jointList = defineList({
  key: 'joints',
  act: 'plan-work',
  planned: true,
  title: 'Joints',
  one: 'joint',
  name: 'number',
  columns: {
    line,
    number: label('Number', /^[A-Za-z0-9][A-Za-z0-9 ._/-]{0,39}$/, 'TF-012'),
    station: quantityOf('Station', 'length', 'm'),
    system: system(false),
    crew,
  },
  check: (row) => checkOn(row.line, row.station, 'station'),
})

/** Facts written as `name=value` pairs, read by the procedure that asks for them. */
export function readFactPairs(
  procedure: Procedure,
  typed: Readonly<Record<string, string>>,
): Record<string, FactValue> {
  const raw = Object.entries(typed).map(([key, text]) => {
    const flag = procedure.facts.find((f) => f.key === key)?.dimension === 'flag'
    return [key, flag && (text === 'yes' || text === 'no') ? text === 'yes' : text]
  })
  return readFacts(procedure, Object.fromEntries(raw))
}

export const reachList = defineList({
  key: 'reaches',
  act: 'plan-work',
  planned: true,
  title: 'Reaches',
  one: 'reach',
  name: 'name',
  columns: {
    line,
    name: label('Name', /^[A-Za-z0-9][A-Za-z0-9 ._/-]{0,79}$/, 'TF-R01'),
    from: quantityOf('From station', 'length', 'm'),
    to: quantityOf('To station', 'length', 'm'),
    system: system(true),
    crew,
    facts: optional(pairs('Facts', 'pipe.od=760 mm; …')),
  },
  check(row, ground, before) {
    if (!(row.to > row.from)) throw new Problem('contradiction', 'A reach ends after it begins.', 'to')
    checkOn(row.line, row.from, 'from')
    checkOn(row.line, row.to, 'to')
    const others = [
      ...(ground.reaches.get(row.line.key) ?? []),
      ...before.filter((b) => b.line.key === row.line.key),
    ]
    const over = others.find((o) => o.from < row.to - SAME_STATION && o.to > row.from + SAME_STATION)
    if (over)
      throw new Problem('overlap', `${over.name}, ${over.from} to ${over.to} m, lies there already`, 'from')
    const { issued } = ground.systems.get(row.system)!
    if (!issued)
      throw new Problem('no-procedure', `"${row.system}" is not issued yet: reaches wait for it`, 'system')
    try {
      readFactPairs(issued, row.facts ?? {})
    } catch (error) {
      if (error instanceof Problem) throw new Problem(error.code, error.message, 'facts')
      throw error
    }
  },
})
