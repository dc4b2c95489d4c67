import { Problem } from '../../problem'
import { checkOn, label, line, oneOf, optional, quantityOf, words } from './columns'
import { defineList } from './define'

export const lineList = defineList({
  key: 'lines',
  act: 'plan-work',
  title: 'Lines',
  one: 'line',
  name: 'key',
  columns: {
    key: label('Key', /^[A-Za-z0-9][A-Za-z0-9-]{0,19}$/, 'TF'),
    name: words('Name', 120),
    material: words('Material', 60),
    from: quantityOf('From station', 'length', 'm'),
    to: quantityOf('To station', 'length', 'm'),
    designPressure: optional(quantityOf('Design pressure', 'pressure', 'bar', { min: 0 })),
  },
  check(row) {
    if (!(row.to > row.from)) throw new Problem('contradiction', 'A line ends after it begins.', 'to')
  },
})

export const profileList = defineList({
  key: 'profiles',
  act: 'plan-work',
  title: 'Profile points',
  one: 'profile point',
  name: null,
  columns: {
    line,
    station: quantityOf('Station', 'length', 'm'),
    invert: optional(quantityOf('Invert', 'length', 'm')),
    ground: optional(quantityOf('Ground', 'length', 'm')),
  },
  check(row, _ground, before) {
    if (row.invert === null && row.ground === null)
      throw new Problem('missing', 'Give the invert, the ground or both.', 'invert')
    // Rows of one line follow each other; points of different lines do not concern each other.
    const last = before.at(-1)
    if (last?.line.key === row.line.key && !(row.station > last.station))
      throw new Problem(
        'not-rising',
        `Stations rise along a line, but ${row.station} m follows ${last.station} m.`,
        'station',
      )
    if (last?.line.key !== row.line.key && before.some((b) => b.line.key === row.line.key))
      throw new Problem('not-rising', `Points of ${row.line.key} stand together.`, 'line')
  },
})

/** What stands on a line, or turns it. */
export const structureKinds = [
  'manhole',
  'valve',
  'bend',
  'tee',
  'closure',
  'reducer',
  'tank',
  'outfall',
] as const
export type StructureKind = (typeof structureKinds)[number]

export const structureList = defineList({
  key: 'structures',
  act: 'plan-work',
  planned: true,
  title: 'Structures',
  one: 'structure',
  name: 'name',
  columns: {
    line,
    name: words('Name', 80, 'MH 12'),
    kind: oneOf('Kind', structureKinds),
    station: quantityOf('Station', 'length', 'm'),
    angle: optional(quantityOf('Angle of a bend', 'angle', 'deg', { above: 0 })),
  },
  check(row) {
    checkOn(row.line, row.station, 'station')
    if (row.angle !== null && row.kind !== 'bend')
      throw new Problem('contradiction', `Only a bend has an angle, this is a ${row.kind}.`, 'angle')
  },
})
