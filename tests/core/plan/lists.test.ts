import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { writeCsv } from '../../../core/files/safe-csv'
import { readCsv } from '../../../core/files/table'
import { headerOf, readList, tableOf, type PlanList } from '../../../core/plan/lists/define'
import { writeFacts } from '../../../core/plan/lists/goods'
import { packDesign, packParameters, type PackRow } from '../../../core/plan/lists/packs'
import { findList, planLists, type ListKey } from '../../../core/plan/lists/registry'
import { Problem } from '../../../core/problem'
import { ground } from './ground'

/** A row that is right, by list; each test changes one cell of it. */
const good: Record<ListKey, Record<string, string>> = {
  crews: { name: 'Crew Moor' },
  people: { name: 'Ada Example', signIn: 'ada', roles: 'Crew lead; inspector', crew: 'crew fell' },
  instruments: {
    name: 'Tape 7',
    kind: 'tape',
    quantity: 'length',
    min: '0 mm',
    max: '5 m',
    resolution: '1 mm',
    uncertainty: '1/16 in',
    calibratedFrom: '2026-01-01',
    calibratedUntil: '2027-01-01',
  },
  lines: {
    key: 'FM',
    name: 'Rising main',
    material: 'polyethylene',
    from: '0',
    to: '0,5 km',
    designPressure: '10',
  },
  profiles: { line: 'tf', station: '12.5', invert: '34 ft', ground: '12 m' },
  plants: { name: 'Roller 1', crew: 'crew fell', kind: 'roller', mass: '1.2 t', wheelLoad: '' },
  structures: { line: 'TF', name: 'MH 1', kind: 'Bend', station: '50', angle: '45' },
  articles: {
    item: 'PE-315',
    title: 'Pipe',
    kind: 'pipe',
    pressureClass: 'SDR 11',
    facts: 'pipe.od=315 mm; pipe.rating=16 bar; pipe.lined=yes; pipe.grade=100; other=3',
    mass: '220',
    gtin: '09521234567899',
    shelfMonths: '24',
  },
  curves: {
    ...{ name: 'Gravel, north pit', material: 'Gravel', source: 'North pit', dated: '2026-02-03' },
    ...{ points: '6 % 2010; 8 % 2058; 10 % 2041; 12 % 1985', specificGravity: '2.68' },
  },
  joints: { line: 'TF', number: 'TF-001', station: '2.5', system: 'rc-confined-ring', crew: 'CREW  FELL' },
  reaches: {
    line: 'TF',
    name: 'R-2',
    from: '20',
    to: '40',
    system: 'embed-flexible',
    crew: 'Crew Fell',
    facts:
      'pipe.od=600 mm; pipe.bore=560 mm; pipe.profile=no; pipe.strutted=no; site.wet=no; site.levels=no; ' +
      'line.gravity=no; line.against=no; site.window=70 %; site.cover=0.9 m; site.designCover=1.2 m; site.traffic=no; ' +
      'site.floods=no; site.deflection=5 %; site.surveyPoints=0; ' +
      'site.depth=2 m; site.road=no; site.unsupported=1.2 m; site.bed=100 mm; site.tests=1',
  },
  qualifications: {
    person: 'ada',
    procedure: 'embed-draft',
    since: '2026-01-05',
    until: '2027-01-04',
    by: 'Instructor',
  },
  packs: {
    line: 'PW',
    number: 'TP-1',
    from: '0',
    to: '500',
    method: 'pe-expansion',
    outsideDiameter: '315',
    wall: '28.6',
    modulus: '0.9',
    testPressure: '12.5',
    required: '10',
    rating: '16',
    weakest: 'Pipe',
    gauge: 'gauge 1',
  },
}
const list = (key: ListKey) => findList(key) as unknown as PlanList
const read = (key: ListKey, more: Record<string, string> = {}) =>
  readList(list(key), tableOf(list(key), { ...good[key], ...more }), ground)

describe('every list', () => {
  it.each(planLists.map((l) => l.key as ListKey))('%s takes a row that is right', (key) => {
    const { rows, faults } = read(key)
    expect(faults).toEqual([])
    expect(rows).toHaveLength(1)
  })
  it.each(planLists.map((l) => l.key as ListKey))(
    '%s asks for each cell that it needs, by its column',
    (key) => {
      for (const [column, { optional }] of Object.entries(list(key).columns)) {
        if (optional) continue
        const { rows, faults } = read(key, { [column]: '' })
        expect(rows, column).toEqual([])
        expect(faults.map((f) => f.column)).toContain(headerOf(column))
      }
    },
  )
  it.each(planLists.map((l) => l.key as ListKey))('%s is read however its file spells the columns', (key) => {
    const columns = Object.keys(list(key).columns)
    const text = writeCsv(
      columns.map((c) => headerOf(c).replaceAll('-', ' ').toUpperCase()),
      [columns.map((c) => good[key][c] ?? '')],
    )
    const { rows, faults } = readList(list(key), readCsv(new TextEncoder().encode(text)), ground)
    expect([rows.length, faults]).toEqual([1, []])
  })
})

describe('an instrument with several calibrations', () => {
  const tape = good.instruments
  const gauge = { ...tape, name: 'gauge 1', kind: 'gauge', quantity: 'pressure', min: '0 bar', max: '25 bar' }
  const bar = { ...gauge, resolution: '0.01 bar', uncertainty: '0.1 bar' }
  const rows = (...cells: Record<string, string>[]) => {
    const columns = Object.keys(list('instruments').columns)
    const table = {
      ...{ header: columns.map(headerOf), faults: [], remark: null },
      rows: cells.map((c, i) => ({ row: i + 2, cells: columns.map((key) => c[key] ?? '') })),
    }
    return readList(list('instruments'), table, ground)
  }
  const later = { calibratedFrom: '2027-01-02', calibratedUntil: '2028-01-01' }
  it.each<[string, Record<string, string>[], number, string[]]>([
    ['stands in as many rows', [tape, { ...tape, ...later }], 2, []],
    ['one that is there gets a further one', [{ ...bar, ...later }], 1, []],
    ['the same one twice is refused', [tape, tape], 1, ['calibrated-from']],
    ['one that is entered is refused', [{ ...bar, calibratedFrom: '2026-01-12' }], 0, ['calibrated-from']],
    ['without one it is there already', [{ ...bar, calibratedFrom: '', calibratedUntil: '' }], 0, ['name']],
    ['another instrument has another name', [tape, { ...tape, ...later, max: '8 m' }], 1, ['max']],
    ['nor does it measure something else', [{ ...tape, name: 'Gauge 1' }], 0, ['quantity']],
  ])('%s', (_what, cells, taken, faults) => {
    const read = rows(...cells)
    expect(read.rows).toHaveLength(taken)
    expect(read.faults.map((f) => f.column)).toEqual(faults)
  })
})

describe('a cell that is wrong is told by its column, and its row not taken', () => {
  it.each([
    ['people', { roles: 'king' }, 'roles'],
    ['people', { roles: 'inspector; inspector' }, 'roles'],
    ['people', { crew: '' }, 'crew'],
    ['people', { crew: 'Crew Moon' }, 'crew'],
    ['instruments', { quantity: 'colour' }, 'quantity'],
    ['instruments', { max: '3 bar' }, 'max'],
    ['instruments', { max: '0 mm' }, 'max'],
    ['instruments', { calibratedFrom: '' }, 'calibrated-until'],
    ['instruments', { calibratedUntil: '2025-01-01' }, 'calibrated-until'],
    ['instruments', { calibratedUntil: '2026-02-30' }, 'calibrated-until'],
    ['lines', { key: '=1+1' }, 'key'],
    ['lines', { to: '-1' }, 'to'],
    ['lines', { designPressure: '3 m' }, 'design-pressure'],
    ['profiles', { line: 'XX' }, 'line'],
    ['profiles', { invert: '', ground: '' }, 'invert'],
    ['curves', { points: '6 % 2010; 8 % 2058' }, 'points'],
    ['qualifications', { person: 'nobody' }, 'person'],
    ['qualifications', { procedure: 'weaving' }, 'procedure'],
    ['qualifications', { until: '2025-12-31' }, 'until'],
    ['curves', { points: '6 % 2010; 8 % 1990; 10 % 1985; 12 % 2040' }, 'points'],
    ['curves', { points: 'six percent' }, 'points'],
    ['curves', { dated: 'spring' }, 'dated'],
    ['plants', { kind: 'tractor' }, 'kind'],
    ['plants', { wheelLoad: '40 kg' }, 'wheel-load'],
    ['plants', { crew: 'Crew Moon' }, 'crew'],
    ['structures', { station: '101' }, 'station'],
    ['structures', { kind: 'castle' }, 'kind'],
    ['structures', { kind: 'valve' }, 'angle'],
    ['articles', { facts: 'pipe.od=315' }, 'facts'],
    ['articles', { facts: 'pipe.od=315 bar' }, 'facts'],
    ['articles', { facts: 'pipe.od 315 mm' }, 'facts'],
    ['articles', { facts: 'a=1; a=2' }, 'facts'],
    ['articles', { facts: 'pipe.lined=maybe' }, 'facts'],
    ['articles', { gtin: '09521234567890' }, 'gtin'],
    ['articles', { mass: '0' }, 'mass'],
    ['articles', { shelfMonths: '1.5' }, 'shelf-months'],
    ['articles', { limits: '[{"key":"od"}]' }, 'limits'],
    ['articles', { limits: 'none' }, 'limits'],
    ['joints', { number: 'tf-900' }, 'number'],
    ['joints', { number: '@x' }, 'number'],
    ['joints', { station: '101 m' }, 'station'],
    ['joints', { system: 'glue' }, 'system'],
    ['joints', { system: 'embed-flexible' }, 'system'],
    ['reaches', { from: '10' }, 'from'],
    ['reaches', { to: '20' }, 'to'],
    ['reaches', { to: '101' }, 'to'],
    ['reaches', { system: 'embed-draft' }, 'system'],
    ['reaches', { facts: 'pipe.od=600 bar' }, 'facts'],
    ['reaches', { facts: '' }, 'facts'],
    ['packs', { method: 'magic' }, 'method'],
    ['packs', { method: 'hydro-drop' }, 'method'],
    ['packs', { line: 'BARE', to: '50' }, 'line'],
    ['packs', { modulus: '' }, 'modulus'],
    ['packs', { required: '' }, 'required'],
    ['packs', { wall: '200' }, 'wall'],
    ['packs', { gauge: 'Gauge 9' }, 'gauge'],
    ['packs', { gaugeStation: '900' }, 'gauge-station'],
    ['packs', { parameters: 'hold=3 bar' }, 'parameters'],
    ['packs', { parameters: 'speed=3' }, 'parameters'],
  ] as [ListKey, Record<string, string>, string][])('%s %j', (key, more, column) => {
    const { rows, faults } = read(key, more)
    expect(rows).toEqual([])
    expect(faults.map((f) => f.column)).toEqual([column])
  })
})

describe('rows together', () => {
  const rows = (key: ListKey, ...more: Record<string, string>[]) => {
    const columns = Object.keys(list(key).columns)
    return readList(
      list(key),
      {
        header: columns.map(headerOf),
        rows: more.map((m, i) => ({
          row: i + 2,
          cells: columns.map((c) => ({ ...good[key], ...m })[c] ?? ''),
        })),
        faults: [],
        remark: null,
      },
      ground,
    )
  }
  it('a name twice is told at the second', () => {
    expect(rows('crews', {}, { name: 'crew  moor' }).faults).toEqual([
      { row: 3, column: 'name', message: 'crew  moor stands in row 2 too' },
    ])
  })
  it('reaches of one file do not lie over each other, those of two lines may', () => {
    expect(rows('reaches', {}, { name: 'R-3', from: '30', to: '50' }).faults.map((f) => f.row)).toEqual([3])
    expect(rows('reaches', {}, { name: 'R-3', line: 'PW' }).faults).toEqual([])
  })
  it('stations of a profile rise within a line, and points of a line stand together', () => {
    expect(rows('profiles', {}, { station: '12' }).faults.map((f) => f.column)).toEqual(['station'])
    expect(rows('profiles', {}, { line: 'PW', station: '3' }).faults).toEqual([])
    expect(rows('profiles', {}, { line: 'PW' }, { station: '20' }).faults.map((f) => f.row)).toEqual([4])
  })
  it('a file without a needed column is refused, and a column that nobody knows is named', () => {
    const text = new TextEncoder()
    expect(() => readList(list('joints'), readCsv(text.encode('number,station\nA,1')), ground)).toThrow(
      Problem,
    )
    expect(
      readList(list('crews'), readCsv(text.encode('name,colour\nCrew Moor,red')), ground).ignored,
    ).toEqual(['colour'])
  })
})

describe('what goes out comes in as it was', () => {
  it('facts of an article', () => {
    const { rows } = read('articles')
    const { facts } = rows[0] as { facts: Record<string, number | string | boolean> }
    expect(facts).toEqual({
      'pipe.od': 0.315,
      'pipe.rating': 16e5,
      'pipe.lined': true,
      'pipe.grade': '100',
      other: 3,
    })
    expect(read('articles', { facts: writeFacts(facts, ground.facts) }).rows[0]).toMatchObject({ facts })
  })
  it('a text that a spreadsheet would take for a formula', () => {
    const text = writeCsv(['name'], [['-Crew']])
    expect(text).toContain("'-Crew")
    expect(readList(list('crews'), readCsv(new TextEncoder().encode(text)), ground).rows).toEqual([
      { name: '-Crew' },
    ])
  })
  it('a method for another material is taken with an engineer’s reason, which the pack keeps', () => {
    const methodReason = 'The lining is tested, not the pipe.'
    const { rows, faults } = read('packs', { method: 'hydro-drop', methodReason })
    expect(faults).toEqual([])
    const other = packDesign(rows[0] as unknown as PackRow, () => 0)
    const own = packDesign(read('packs').rows[0] as unknown as PackRow, () => 0)
    expect(other.methodReason).toBe(methodReason)
    expect(other.methodMaterial).toContain('steel')
    expect(own).toMatchObject({ methodReason: null, methodMaterial: 'polyethylene' })
  })
  it('a method is told the pressure and the pipe once', () => {
    const row = read('packs').rows[0] as unknown as PackRow
    expect(packParameters(row)).toEqual({ testPressure: 12.5e5 })
    const air = read('packs', { method: 'low-pressure-air' }).rows[0] as unknown as PackRow
    expect(packParameters(air)).toEqual({ pipes: [{ diameter: 0.315 - 2 * 0.0286, length: 500 }] })
  })
})

describe('the sample files of a project of one’s own', () => {
  const folder = new URL('../../../samples/own-project/', import.meta.url)
  const site = {
    ...ground,
    lines: new Map([['TF', { key: 'TF', from: 0, to: 620, material: 'concrete', profiled: true }]]),
    instruments: new Map([
      ['GAUGE 60 KPA', { name: 'Gauge 60 kPa', quantity: 'pressure', max: 60e3, calibrated: [] }],
    ]),
    taken: new Set<string>(),
  }
  it.each(['crews', 'people', 'instruments', 'articles', 'structures', 'packs'] as const)(
    '%s.csv is read whole',
    (key) => {
      const bytes = readFileSync(new URL(`${key}.csv`, folder))
      const { rows, faults, ignored } = readList(list(key), readCsv(bytes), site)
      expect([faults, ignored]).toEqual([[], []])
      expect(rows.length).toBeGreaterThan(1)
    },
  )
})
