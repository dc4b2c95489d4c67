import { readInputs } from '../../calculators/define'
import type { PackDesign } from '../../pressure/pack'
import { findTestMethod, fitsMaterial, testMethods } from '../../pressure/methods/registry'
import type { TestMethod } from '../../pressure/methods/define'
import { Problem } from '../../problem'
import { checkOn, dayOf, gauge, label, line, optional, pairs, quantityOf, words } from './columns'
import { defineList, type Column, type Row } from './define'

const method: Column<TestMethod> = {
  title: 'Method',
  choices: [...testMethods.keys()],
  read(text, field) {
    try {
      return findTestMethod(text)
    } catch (error) {
      if (error instanceof Problem) throw new Problem(error.code, error.message, field)
      throw error
    }
  },
}
const size = (title: string) => optional(quantityOf(title, 'length', 'mm', { above: 0 }))
const pressure = (title: string) => optional(quantityOf(title, 'pressure', 'bar', { above: 0 }))

const columns = {
  line,
  number: label('Number', /^[A-Za-z0-9][A-Za-z0-9 ._/-]{0,39}$/, 'TP-01'),
  from: quantityOf('From station', 'length', 'm'),
  to: quantityOf('To station', 'length', 'm'),
  method,
  outsideDiameter: quantityOf('Outside diameter', 'length', 'mm', { above: 0 }),
  wall: quantityOf('Wall', 'length', 'mm', { above: 0 }),
  insideDiameter: size('Inside diameter, where not by wall'),
  modulus: optional(quantityOf('Modulus of the pipe', 'pressure', 'GPa', { above: 0 })),
  testPressure: pressure('Test pressure at the gauge'),
  required: pressure('Least at the highest point'),
  rating: pressure('Class of the weakest component'),
  weakest: optional(words('Weakest component', 80)),
  gauge,
  gaugeStation: optional(quantityOf('Gauge at station', 'length', 'm')),
  due: optional(dayOf('Due')),
  parameters: optional(pairs('Parameters of the method', 'duration=2 h')),
  methodReason: optional(words('Why a method for another material', 400)),
}
export type PackRow = Row<typeof columns>

/** What the method is told: as typed, the pressure and the pipe where it asks for them and nobody said. */
export function packParameters(row: PackRow): Record<string, unknown> {
  const asked = row.method.parameters
  const out: Record<string, unknown> = { ...row.parameters }
  if ('testPressure' in asked && !('testPressure' in out) && row.testPressure !== null)
    out.testPressure = row.testPressure
  if ('pipes' in asked && !('pipes' in out))
    out.pipes = [{ diameter: insideOf(row), length: row.to - row.from }]
  return out
}
const insideOf = (row: PackRow) => row.insideDiameter ?? row.outsideDiameter - 2 * row.wall

/** The design of a planned pack; without a gauge place, at the lower end of the profile or where it begins. */
export function packDesign(
  row: PackRow,
  elevation: (station: number) => number,
): PackDesign & { methodMaterial: string; methodReason: string | null } {
  return {
    section: {
      length: row.to - row.from,
      insideDiameter: insideOf(row),
      wall: row.wall,
      modulus: row.modulus ?? 0,
    },
    outsideDiameter: row.outsideDiameter,
    rating: row.rating ?? 0,
    weakest: row.weakest ?? '',
    gaugeElevation: elevation(row.gaugeStation ?? row.from),
    testPressure: row.testPressure ?? 0,
    required: row.required ?? 0,
    methodMaterial: fitsMaterial(row.method, row.line.material)
      ? row.line.material
      : row.method.materials.join(', '),
    methodReason: row.methodReason,
  }
}

export const packList = defineList({
  key: 'packs',
  act: 'plan-work',
  planned: true,
  title: 'Test packs',
  one: 'test pack',
  name: 'number',
  columns,
  check(row) {
    if (!(row.to > row.from)) throw new Problem('contradiction', 'A test section ends after it begins.', 'to')
    checkOn(row.line, row.from, 'from')
    checkOn(row.line, row.to, 'to')
    if (row.gaugeStation !== null) checkOn(row.line, row.gaugeStation, 'gaugeStation')
    if (!row.line.profiled)
      throw new Problem(
        'no-profile',
        `${row.line.key} has no profile: pressures along it cannot be worked out`,
        'line',
      )
    // A method for another material is an engineer's choice, with a reason.
    if (!fitsMaterial(row.method, row.line.material) && row.methodReason === null)
      throw new Problem(
        'wrong-material',
        `{method} ${row.method.key} is not for ${row.line.material}, unless an engineer says why`,
        'method',
      )
    if (!(insideOf(row) > 0)) throw new Problem('contradiction', 'The walls leave no bore.', 'wall')
    // A hydrostatic test is held against pressures along the line; without them nothing could be judged.
    if ('testPressure' in row.method.parameters)
      for (const field of ['modulus', 'testPressure', 'required', 'rating', 'weakest'] as const)
        if (row[field] === null) throw new Problem('missing', `{${field}} is missing.`, field)
    try {
      readInputs(row.method.parameters, Object.keys(row.method.parameters), packParameters(row))
    } catch (error) {
      if (error instanceof Problem) throw new Problem(error.code, error.message, 'parameters')
      throw error
    }
  },
})
